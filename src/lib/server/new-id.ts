import { randomInt } from 'node:crypto';

/** In the order of their codes, so that ids sort as they were made. */
const LETTERS = '-0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ_abcdefghijklmnopqrstuvwxyz';

const letters = (value: number, count: number): string => {
	let text = '';
	for (let rest = value; text.length < count; rest = Math.floor(rest / 64)) text = LETTERS[rest % 64] + text;
	return text;
};

/**
 * A new identity for a row, in nine letters: when it was made, to a sixteenth of a second, and 18 bits that begin by
 * chance and count on, so that no two of a process are equal. New ones stand behind older ones: an index of them stays
 * full.
 */
export const newId = (): string =>
	letters(Math.floor(Date.now() / TICK_MS), 6) + letters(counter++ % 2 ** 18, 3);

const TICK_MS = 62.5;
let counter = randomInt(2 ** 18);
