import { Problem } from '../core/problem';
import { Turn } from './in-steps';

/** The deepest that what is sent may be nested: documents that people make are a tenth of it. */
const DEEPEST = 200;

/** The most values in what is sent: a restore of the largest device tells of a hundredth. */
const MOST_VALUES = 500_000;

/** The most that JSON may be long: the longest message in hexadecimal, and what goes with it. Files are sent as files. */
const LONGEST_JSON = 20 * 1024 * 1024;

/** A sign that ends texts in some places and not in others: nothing that people write holds it. */
export const nulProblem = () =>
	new Problem(
		'request.nul',
		'There is a NUL character in the request.',
		'Leave it out: no name, text or id holds one.'
	);

const tooDeep = () =>
	new Problem(
		'request.depth',
		`The request is nested more than ${DEEPEST} levels deep.`,
		'Send it as the description of the API says.'
	);

/**
 * Looks through what was sent before anything else walks it, level by level.
 * @throws Problem `request.nul`, `request.depth`
 */
export function mustBeSane(value: unknown): void {
	let level: unknown[] = [value];
	for (let depth = 0; level.length > 0; depth++) {
		if (depth > DEEPEST) throw tooDeep();
		const next: unknown[] = [];
		for (const each of level) {
			if (typeof each === 'string') {
				if (each.includes('\0')) throw nulProblem();
			} else if (Array.isArray(each)) for (const inner of each) next.push(inner);
			else if (each !== null && typeof each === 'object')
				for (const [key, inner] of Object.entries(each)) next.push(key, inner);
		}
		level = next;
	}
}

const tooMany = () =>
	new Problem(
		'request.values',
		`There are more than ${MOST_VALUES.toLocaleString('en')} values in the request.`,
		'Send it in parts.'
	);

const tooLong = () =>
	new Problem(
		'request.too-large',
		`The request is longer than ${LONGEST_JSON / 1024 / 1024} MiB.`,
		'Send it in parts; files are sent as files.'
	);

const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const [OPENS, CLOSES] = [
	[0x5b, 0x7b],
	[0x5d, 0x7d]
];

/** Counts what JSON holds while it arrives, before anything takes memory for it. */
export class JsonCount {
	#depth = 0;
	#values = 0;
	#length = 0;
	#inText = false;
	#escaped = false;

	/** @throws Problem `request.depth`, `request.values`, `request.too-large` */
	take(bytes: Uint8Array): void {
		this.#length += bytes.length;
		if (this.#length > LONGEST_JSON) throw tooLong();
		for (let i = 0; i < bytes.length; i++) {
			const byte = bytes[i];
			if (this.#inText) {
				if (this.#escaped) this.#escaped = false;
				else if (byte === BACKSLASH) this.#escaped = true;
				else if (byte === QUOTE) this.#inText = false;
			} else if (byte === QUOTE) this.#inText = true;
			else if (byte === COMMA) this.#values++;
			else if (OPENS.includes(byte)) {
				this.#values++;
				if (++this.#depth > DEEPEST) throw tooDeep();
			} else if (CLOSES.includes(byte)) this.#depth--;
		}
		if (this.#values > MOST_VALUES) throw tooMany();
	}
}

/**
 * The text of JSON that a stream holds, counted while it arrives.
 * @throws Problem `request.depth`, `request.values`, `request.too-large`; TypeError where it is no UTF-8
 */
export async function jsonText(
	stream: ReadableStream<Uint8Array> | null,
	turn = new Turn()
): Promise<string> {
	const [counted, decoder] = [new JsonCount(), new TextDecoder('utf-8', { fatal: true })];
	const parts: string[] = [];
	let wrong: unknown = null;
	if (stream)
		for await (const part of stream as unknown as AsyncIterable<Uint8Array>) {
			// The rest is let pass: who still sends would not hear the answer.
			if (wrong) continue;
			try {
				counted.take(part);
				parts.push(decoder.decode(part, { stream: true }));
			} catch (error) {
				wrong = error;
				parts.length = 0;
			}
			// The next part may be there already.
			if (turn.over) await turn.next();
		}
	if (wrong) throw wrong;
	parts.push(decoder.decode());
	return parts.join('');
}

/** What it holds. @throws SyntaxError where it is no JSON, Problem `request.nul`, and as `jsonText` */
export async function readJson(stream: ReadableStream<Uint8Array> | null): Promise<unknown> {
	const turn = new Turn();
	const text = await jsonText(stream, turn);
	// Each of these takes a while where one text is all of it.
	if (turn.over) await turn.next();
	const value: unknown = JSON.parse(text);
	if (turn.over) await turn.next();
	mustBeSane(value);
	return value;
}
