/** Targets that are given to controls in the order in which these are touched: a value, each touch gives a new one. */
export interface Quick {
	/** What is to be written, in words, in order. */
	wanted: readonly string[];
	/** The controls that were touched, in order, one for each of the first of `wanted`. */
	taken: readonly string[];
	/** What to do now, or what happened, in words. */
	says: string;
}

const call = (wanted: readonly string[], next: number): string =>
	next < wanted.length ? `Touch the control for ${wanted[next]}.` : `All ${wanted.length} are written.`;

export const beginQuick = (wanted: readonly string[]): Quick => ({
	wanted,
	taken: [],
	says: wanted.length > 0 ? call(wanted, 0) : 'There is nothing to write.'
});

/**
 * What a touch does: the next target goes to a control that has none of them yet. One that has one already does not move
 * on, and of controls that spoke together nobody knows which was meant.
 * @param spoke ids and names of the controls that are known to have spoken
 * @returns what to write on whom, where there is something
 */
export function touchQuick(
	quick: Quick,
	spoke: readonly { control: string; name: string }[]
): { quick: Quick; write: { control: string; name: string; words: string } | null } {
	const next = quick.taken.length;
	const stays = (says: string) => ({ quick: { ...quick, says }, write: null });
	if (next >= quick.wanted.length) return stays(call(quick.wanted, next));
	const again = call(quick.wanted, next);
	if (spoke.length === 0) return stays(`Somebody spoke, and nobody is known to speak so. ${again}`);
	if (spoke.length > 1)
		return stays(`${spoke.map(({ name }) => name).join(' and ')} spoke together. ${again}`);
	const [{ control, name }] = spoke;
	const at = quick.taken.indexOf(control);
	// A knob goes on speaking while it is turned.
	if (at >= 0) return stays(at === next - 1 ? quick.says : `${name} has ${quick.wanted[at]}. ${again}`);
	const words = quick.wanted[next];
	return {
		quick: {
			...quick,
			taken: [...quick.taken, control],
			says: `${words} is on ${name}. ${call(quick.wanted, next + 1)}`
		},
		write: { control, name, words }
	};
}
