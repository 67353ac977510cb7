import { uniqueId } from '../unique-id';

/** Numbers of scenes as they are typed, with commas or blanks between; null where one is none. */
export function sceneNumbers(text: string): number[] | null {
	const words = text.split(/[\s,;]+/).filter(Boolean);
	return words.every((word) => /^\d{1,3}$/.test(word)) ? words.map(Number) : null;
}

/** The list with one entry moved to another place. */
export function movedInList<T>(list: readonly T[], from: number, to: number): T[] {
	const rest = list.filter((_, i) => i !== from);
	return [...rest.slice(0, to), list[from], ...rest.slice(to)];
}

/** An id for a song that none of these has. */
export const songId = (name: string, songs: readonly { id: string }[]): string =>
	uniqueId(name, new Set(songs.map(({ id }) => id)), 'song');
