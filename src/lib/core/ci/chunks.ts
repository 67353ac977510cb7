import { joinBytes } from '../midi';
import type { Chunk } from './message';

/** A message of property exchange, its chunks joined. */
export interface Property {
	header: Uint8Array;
	data: Uint8Array;
}

/** Bytes of a message besides header and data: F0 to the numbers, and F7. */
const AROUND = 24;
/** What every instrument has to take (M2-101: at least 128, and 512 with property exchange). */
const LEAST = 512;

/**
 * A property as chunks, none longer than what the other side takes.
 * @param mostBytes the longest message that it takes
 */
export function chunksOf(request: number, { header, data }: Property, mostBytes: number): Chunk[] {
	const room = Math.min(Math.max(mostBytes, LEAST), 16_000) - AROUND;
	const cuts: Uint8Array[] = [data.subarray(0, Math.max(0, room - header.length))];
	for (let at = cuts[0].length; at < data.length; at += room) cuts.push(data.subarray(at, at + room));
	return cuts.map((cut, i) => ({
		request,
		header: i === 0 ? header : new Uint8Array(),
		chunks: cuts.length,
		chunk: i + 1,
		data: cut
	}));
}

/** Joins the chunks of one answer. */
export class Joined {
	readonly #chunks: Chunk[] = [];

	/**
	 * Takes the next one in.
	 * @returns the whole once the last has come; `broken` where one is missing or counts otherwise; null where more is to come
	 */
	push(chunk: Chunk): Property | 'broken' | null {
		if (chunk.chunk !== this.#chunks.length + 1) return 'broken';
		if (chunk.chunks !== 0 && chunk.chunks < chunk.chunk) return 'broken';
		const announced = this.#chunks.find(({ chunks }) => chunks !== 0)?.chunks;
		if (announced !== undefined && announced !== chunk.chunks) return 'broken';
		this.#chunks.push(chunk);
		// Whoever does not know how many there are says so with the last one.
		if (chunk.chunks !== chunk.chunk) return null;
		return { header: this.#chunks[0].header, data: joinBytes(this.#chunks.map(({ data }) => data)) };
	}
}
