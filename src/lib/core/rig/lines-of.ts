/** The lines that a way needs, as they are locked: one for each direction that it has. */
export const linesOf = ({
	out,
	in: back
}: {
	out: { name: string } | null;
	in: { name: string } | null;
}): string[] => [...(out ? [`${out.name} out`] : []), ...(back ? [`${back.name} in`] : [])];
