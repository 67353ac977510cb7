import { uniqueId } from '../../unique-id';

/** A table of a manual, a line each; or what is wrong with the first bad line. */
export type Lines<T> = { rows: T[]; fault: null } | { rows: null; fault: string };

const RANGE = /^(-?\d+) ?(?:-|–|\.\.|to) ?(-?\d+)(?: (\S{1,8}))?$/;

interface Meant {
	id: string;
	name: string;
	range: [number, number];
	unit?: string;
	values?: string[];
}

/** The lines of a text that say something, each cut at its colons. */
const cut = (text: string): { line: string; fields: string[] }[] =>
	text
		.split('\n')
		.map((line) => line.trim())
		.filter((line) => line !== '')
		.map((line) => ({ line, fields: line.split(':').map((field) => field.trim()) }));

function each<T>(text: string, read: (fields: string[]) => T | string): Lines<T> {
	const rows: T[] = [];
	for (const { line, fields } of cut(text)) {
		const row = read(fields);
		if (typeof row === 'string') return { rows: null, fault: `“${line}”: ${row}` };
		rows.push(row);
	}
	return { rows, fault: null };
}

/** An id begins with a letter. */
export const idOf = (name: string, taken: Set<string>): string =>
	uniqueId(/^[a-z]/i.test(name) ? name : `p ${name}`, taken, 'p');

/** Its name and its values: `0-127 Hz`, or their names with commas between. */
function meantBy(name: string, values: string | undefined, taken: Set<string>): Meant | string {
	if (!name) return 'it has no name';
	if (!values) return 'its values are missing: 0-127, or their names';
	const found = RANGE.exec(values);
	const id = idOf(name, taken);
	if (found) {
		const range: [number, number] = [Number(found[1]), Number(found[2])];
		if (range[0] >= range[1]) return 'its values go upwards';
		return { id, name, range, ...(found[3] ? { unit: found[3] } : {}) };
	}
	const names = values.split(',').map((one) => one.trim());
	if (names.length < 2 || names.some((one) => one === ''))
		return 'write its values as 0-127, or as names with commas between';
	return { id, name, range: [0, names.length - 1], values: names };
}

const bitsFor = ([low, high]: [number, number]): number =>
	Math.max(7, Math.ceil(Math.log2(Math.max(high, -low) + 1)));

/** `byte: name: values`, a parameter a line. */
export function parameterLines(text: string, size: number) {
	const taken = new Set<string>();
	return each(text, ([at, name, values]) => {
		if (!/^\d+$/.test(at)) return 'it begins with its byte in the data, from 0';
		const meant = meantBy(name ?? '', values, taken);
		if (typeof meant === 'string') return meant;
		if (meant.range[0] < 0) return 'negative values are written in the text: how they are coded differs';
		const bits = bitsFor(meant.range);
		if (bits > 8) return 'values above 255 are written in the text: how their bytes lie differs';
		if (Number(at) >= size) return `the data have ${size} bytes`;
		return { ...meant, offset: Number(at), bits };
	});
}

/** `cc 74: name: values`, `nrpn 1 20: …`, `rpn 0 1: …`, `program: …`, `bank: …`: a value that is told a line. */
export function toldLines(text: string) {
	const taken = new Set<string>();
	return each(text, ([by, name, values]) => {
		const meant = meantBy(name ?? '', values, taken);
		if (typeof meant === 'string') return meant;
		const [, kind, first, second] = /^(cc|nrpn|rpn|program|bank)(?: (\d+))?(?: (\d+))?$/i.exec(by) ?? [];
		const bits = meant.range[1] > 127 ? (14 as const) : (7 as const);
		const numbers = [first, second].filter((one) => one !== undefined).map(Number);
		switch (kind?.toLowerCase()) {
			case 'cc':
				return numbers.length === 1
					? { ...meant, bits, by: { cc: numbers[0] } }
					: 'a controller has one number';
			case 'nrpn':
			case 'rpn':
				if (numbers.length !== 2) return 'its number has two halves, the higher one first';
				return {
					...meant,
					bits,
					by: kind.toLowerCase() === 'nrpn' ? { nrpn: numbers } : { rpn: numbers }
				};
			case 'program':
				return { ...meant, bits, by: { program: true } };
			case 'bank':
				return { ...meant, bits, by: { cc: 0 } };
			default:
				return 'it begins with cc, nrpn, rpn, program or bank';
		}
	});
}

export interface SectionLine {
	id: string;
	name: string;
	size: number;
	times: number | undefined;
	/** What stands behind: a message, or an address. */
	rest: string;
}

/** `name: bytes: …`, `name: 40 x8: …`: a part of a sound a line. */
export function sectionLines(text: string): Lines<SectionLine> {
	const taken = new Set<string>();
	const found = each(text, ([name, size, ...rest]) => {
		const [, bytes, times] = /^(\d+)(?: ?[x×] ?(\d+))?$/.exec(size ?? '') ?? [];
		if (!name) return 'it has no name';
		if (bytes === undefined) return 'behind its name stands how many bytes it has, as in 40, or 40 x8';
		const id = idOf(name, taken);
		return {
			id,
			name,
			size: Number(bytes),
			times: times === undefined ? undefined : Number(times),
			rest: rest.join(':').trim()
		};
	});
	return found.rows?.length === 0 ? { rows: null, fault: 'at least one is needed' } : found;
}
