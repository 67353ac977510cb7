import { joinBytes } from './bytes';
import { SYSEX_START, dataBytesAfter, isStatus } from './status';

const CONTROLLER = 0xb0;
const PROGRAM = 0xc0;
const DATA_HIGH = 6;
const DATA_LOW = 38;
/** Controllers that say which parameter the data entry behind them is of, the higher half first. */
const SELECTS = [
	[99, 98],
	[101, 100]
] as const;

interface Channel {
	/** Which of `SELECTS`, and its halves as far as they were said. */
	select: { which: 0 | 1; halves: [number | null, number | null] } | null;
	/** The higher half of the value, where it came last. */
	high: number | null;
}

/**
 * Whole statements out of channel messages, as one message each, their repeated status bytes left out: a controller, a
 * program change, or a (non-)registered parameter with its number and value (MIDI 1.0, controllers 98–101, 6 and 38). A
 * value of fourteen bits is stated by its lower half: `Bn 63 mm 62 ll 06 hi 26 lo`; its higher half alone is a statement too.
 */
export class Statements {
	readonly #channels = new Map<number, Channel>();

	/** @param message one whole channel message @returns the statement that it makes; null where it makes none */
	push(message: Uint8Array): Uint8Array | null {
		const [status, first, second] = message;
		const kind = status & 0xf0;
		if (kind === PROGRAM) return message.slice();
		if (kind !== CONTROLLER) return null;
		let channel = this.#channels.get(status & 15);
		if (!channel) this.#channels.set(status & 15, (channel = { select: null, high: null }));
		for (const which of [0, 1] as const) {
			const half = SELECTS[which].indexOf(first as never);
			if (half < 0) continue;
			if (channel.select?.which !== which) channel.select = { which, halves: [null, null] };
			channel.select.halves[half] = second;
			channel.high = null;
			return null;
		}
		if (first !== DATA_HIGH && first !== DATA_LOW) return message.slice();
		const { select } = channel;
		if (!select || select.halves.includes(null)) return null;
		const [high, low] = SELECTS[select.which];
		const head = [status, high, select.halves[0]!, low, select.halves[1]!, DATA_HIGH];
		if (first === DATA_HIGH) {
			channel.high = second;
			return Uint8Array.of(...head, second);
		}
		return channel.high === null ? null : Uint8Array.of(...head, channel.high, DATA_LOW, second);
	}
}

/** The whole messages of a statement, each with its status byte; anything else as it is. */
export function wholeMessages(bytes: Uint8Array): Uint8Array[] {
	const [status] = bytes;
	if (status === undefined || status >= SYSEX_START || !isStatus(status)) return [bytes];
	const messages: Uint8Array[] = [];
	let running = status;
	for (let at = 0; at < bytes.length;) {
		if (isStatus(bytes[at])) running = bytes[at++];
		const length = Math.max(1, dataBytesAfter(running));
		messages.push(Uint8Array.of(running, ...bytes.subarray(at, at + length)));
		at += length;
	}
	return messages;
}

/** The same as one stretch of bytes. */
export function spelledOut(bytes: Uint8Array): Uint8Array {
	const messages = wholeMessages(bytes);
	return messages.length === 1 && messages[0].length === bytes.length ? bytes : joinBytes(messages);
}
