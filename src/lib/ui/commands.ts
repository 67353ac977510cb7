/** Something that the command field goes to or does. */
export interface CommandEntry {
	id: string;
	group: 'On this page' | 'Stages' | 'Drawers';
	title: string;
	/** What else it is known by. */
	says: string;
	key?: string;
	run(): unknown;
}

const fold = (text: string) =>
	text
		.normalize('NFD')
		.replace(/\p{Diacritic}/gu, '')
		.toLowerCase();

/** How well an entry answers what was typed: 0 not at all; a beginning counts more than a middle, a title more than the rest. */
function score({ title, says }: CommandEntry, wanted: string): number {
	const [name, rest] = [fold(title), fold(says)];
	if (name === wanted) return 5;
	if (name.startsWith(wanted)) return 4;
	const words = wanted.split(/\s+/);
	if (words.every((word) => name.split(/[\s,]+/).some((own) => own.startsWith(word)))) return 3;
	if (words.every((word) => name.includes(word))) return 2;
	return words.every((word) => `${name} ${rest}`.includes(word)) ? 1 : 0;
}

/** The entries that answer what was typed, the best first; all of them, in their order, where nothing was. */
export function matching(entries: readonly CommandEntry[], query: string): CommandEntry[] {
	const wanted = fold(query.trim());
	if (!wanted) return [...entries];
	return entries
		.map((entry) => ({ entry, points: score(entry, wanted) }))
		.filter(({ points }) => points > 0)
		.sort((a, b) => b.points - a.points)
		.map(({ entry }) => entry);
}
