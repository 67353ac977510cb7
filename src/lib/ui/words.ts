import { lightFormat } from 'date-fns';
import { WORLD_WORDS, type World } from '../core/drawer';
import { problemOf as asProblem } from '../core/problem';

/** Any thrown thing as something to show. */
export function problemOf(error: unknown): { message: string; remedy: string } {
	const { message, remedy } = asProblem(error);
	return { message, remedy };
}

/** `1 slot`, `12 slots` */
export const count = (n: number, word: string, many = `${word}s`): string =>
	`${n.toLocaleString('en')} ${n === 1 ? word : many}`;

/** Milliseconds as people say them: `0.4 s`, `12 s`, `3 min 20 s`. */
export function duration(ms: number): string {
	const seconds = ms / 1000;
	if (seconds < 10) return `${seconds.toFixed(1)} s`;
	if (seconds < 60) return `${Math.round(seconds)} s`;
	return `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}

/** Bytes in hexadecimal, in groups of four. */
/** So many bytes, in decimal units. */
export const weight = (bytes: number): string =>
	bytes < 1000
		? count(bytes, 'byte')
		: bytes < 1_000_000
			? `${Math.round(bytes / 1000)} kB`
			: `${(bytes / 1_000_000).toFixed(1)} MB`;

export const groupHex = (hex: string): string =>
	(hex.match(/.{1,8}/g) ?? []).map((part) => part.match(/../g)!.join(' ')).join('  ');

/** A day, and a minute, as the clock on this wall shows them: `2026-03-31`, `2026-03-31 14:05`. */
export const dayOf = (at: string): string => lightFormat(new Date(at), 'yyyy-MM-dd');
export const minuteOf = (at: string): string => lightFormat(new Date(at), 'yyyy-MM-dd HH:mm');

/** Where something took place, behind its title; nothing where that is the studio's own world. */
export const worldWord = (world: World, own: World): string =>
	world === own || world === 'file' || world === 'unrecorded' ? '' : ` · ${WORLD_WORDS[world]}`;

/** Today, as it stands on paper. */
export const todayOnPaper = (): string =>
	new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
