import { joinBytes, SYSEX_END, SYSEX_START, dataBytesAfter, isRealTime } from '../midi';
import { Problem } from '../problem';
import { finished, type Steps } from '../steps';

/**
 * What the framer found. `offset` counts bytes from the start of the stream; every byte of the stream belongs
 * to exactly one event, so nothing can vanish.
 */
export type FrameEvent =
	/** A whole SysEx message, F0 … F7, real-time bytes taken out. */
	| { kind: 'sysex'; offset: number; bytes: Uint8Array }
	/** A real-time byte, reported at the place where it stood. */
	| { kind: 'realtime'; offset: number; bytes: Uint8Array }
	/** A channel or system-common message; `running` when its status byte was left out on the wire. */
	| { kind: 'message'; offset: number; bytes: Uint8Array; running: boolean }
	/** Bytes that make no whole message, with the reason. */
	| { kind: 'broken'; offset: number; bytes: Uint8Array; reason: BreakReason };

export type BreakReason =
	/** Another status byte came before the end. */
	| 'cut off'
	/** The input ended, or fell silent, before the end. */
	| 'unfinished'
	/** Longer than the limit; the rest follows in further events of the same reason. */
	| 'oversized'
	/** Data bytes or an F7 that belong to no message. */
	| 'stray';

/** The longest message that is kept, in bytes: over the wire, in files and in requests alike. */
export const LONGEST_MESSAGE = 8 * 1024 * 1024;
/** The most messages in a file: sound data of an hour's transfer are so many. */
const MOST_MESSAGES = 100_000;
/** How much of a file is looked at before its events are counted. */
const LOOK = 16 * 1024;
/** The most bytes that belong to nothing which one event tells of; the rest follows in further ones. */
const MOST_STRAY = 1024 * 1024;

/** A file that is no dump anybody has: counted while it is read, so that it takes no memory. */
const tooManyEvents = (): Problem =>
	new Problem(
		'file.too-many',
		`There are more than ${MOST_MESSAGES.toLocaleString('en')} messages in this file.`,
		'Choose the dump of one device, or cut the file in parts.'
	);

export interface FramerOptions {
	/** A SysEx message longer than this many bytes is reported as oversized. By default `LONGEST_MESSAGE`. */
	maxBytes?: number;
}

/** Where the data bytes that begin at a place end: sixteen of them are looked at in one step. */
function pastData(view: DataView, from: number): number {
	const length = view.byteLength;
	let at = from;
	while (
		at + 16 <= length &&
		((view.getInt32(at) | view.getInt32(at + 4) | view.getInt32(at + 8) | view.getInt32(at + 12)) &
			0x80808080) ===
			0
	)
		at += 16;
	while (at < length && view.getInt8(at) >= 0) at++;
	return at;
}

/**
 * Cuts a stream of MIDI bytes, given in chunks of any size, into messages (MIDI 1.0, “System exclusive” and
 * “Running status”). Events come in the order in which they are finished; a real-time byte inside a message comes
 * before that message.
 */
export class Framer {
	readonly #maxBytes: number;
	#position = 0;
	/** Parts of the SysEx message that is open, empty when none is. */
	#parts: Uint8Array[] = [];
	#openLength = 0;
	#openOffset = 0;
	#inSysex = false;
	#oversized = false;
	/** Status and data of the channel or common message that is open. */
	#pending: number[] = [];
	#pendingOffset = 0;
	#needed = 0;
	#running = 0;
	#pendingIsRunning = false;
	#stray: Uint8Array[] = [];
	#strayLength = 0;
	#strayOffset = 0;

	constructor(options: FramerOptions = {}) {
		this.#maxBytes = options.maxBytes ?? LONGEST_MESSAGE;
	}

	/** Bytes of a SysEx message that has begun and not ended; 0 when none is open. */
	get openBytes(): number {
		return this.#inSysex ? this.#openLength : 0;
	}

	/** Takes the next chunk and gives what it finished. The chunk is not kept. */
	push(chunk: Uint8Array): FrameEvent[] {
		const events: FrameEvent[] = [];
		const length = chunk.length;
		const view = new DataView(chunk.buffer, chunk.byteOffset, length);
		let i = 0;
		while (i < length) {
			if (this.#inSysex) {
				const from = i;
				i = pastData(view, i);
				if (i > from) this.#append(chunk.slice(from, i), this.#position + from, events);
				if (i === length) break;
				const byte = chunk[i];
				if (isRealTime(byte)) {
					events.push({ kind: 'realtime', offset: this.#position + i, bytes: chunk.slice(i, i + 1) });
					i++;
				} else if (byte === SYSEX_END) {
					this.#append(chunk.slice(i, i + 1), this.#position + i, events);
					this.#close(events, this.#oversized ? 'oversized' : null);
					i++;
				} else this.#close(events, this.#oversized ? 'oversized' : 'cut off');
				continue;
			}
			const byte = chunk[i];
			const offset = this.#position + i;
			if (byte === SYSEX_START) {
				// A whole message inside one chunk is by far the commonest case: copy it once.
				this.#flush(events);
				const end = pastData(view, i + 1);
				if (end < length && chunk[end] === SYSEX_END && end + 1 - i <= this.#maxBytes) {
					events.push({ kind: 'sysex', offset, bytes: chunk.slice(i, end + 1) });
					i = end + 1;
				} else {
					this.#inSysex = true;
					this.#append(chunk.slice(i, end), offset, events);
					i = end;
				}
				this.#running = 0;
				continue;
			}
			if (byte < 0x80 && this.#pending.length === 0 && this.#running === 0) {
				// Data that belongs to nothing, as far as it goes.
				const end = Math.min(pastData(view, i), i + MOST_STRAY - this.#strayLength);
				if (this.#stray.length === 0) this.#strayOffset = offset;
				this.#stray.push(chunk.slice(i, end));
				this.#strayLength += end - i;
				if (this.#strayLength === MOST_STRAY) this.#flush(events);
				i = end;
				continue;
			}
			this.#single(byte, offset, events);
			i++;
		}
		this.#position += length;
		return events;
	}

	/** Ends the stream (or gives it up after a silence) and reports what was left open. */
	end(): FrameEvent[] {
		const events: FrameEvent[] = [];
		if (this.#inSysex) this.#close(events, this.#oversized ? 'oversized' : 'unfinished');
		this.#flush(events, 'unfinished');
		this.#running = 0;
		return events;
	}

	#append(part: Uint8Array, offset: number, events: FrameEvent[]): void {
		let rest = part;
		let at = offset;
		while (this.#openLength + rest.length > this.#maxBytes) {
			const room = this.#maxBytes - this.#openLength;
			if (this.#parts.length === 0) this.#openOffset = at;
			this.#parts.push(rest.subarray(0, room));
			this.#openLength += room;
			this.#oversized = true;
			this.#report(events, 'oversized');
			rest = rest.subarray(room);
			at += room;
		}
		if (rest.length === 0) return;
		if (this.#parts.length === 0) this.#openOffset = at;
		this.#parts.push(rest);
		this.#openLength += rest.length;
	}

	#report(events: FrameEvent[], reason: BreakReason | null): void {
		if (this.#openLength > 0) {
			const bytes = this.#parts.length === 1 ? this.#parts[0] : joinBytes(this.#parts);
			events.push(
				reason === null
					? { kind: 'sysex', offset: this.#openOffset, bytes }
					: { kind: 'broken', offset: this.#openOffset, bytes, reason }
			);
		}
		this.#parts = [];
		this.#openLength = 0;
	}

	#close(events: FrameEvent[], reason: BreakReason | null): void {
		this.#report(events, reason);
		this.#inSysex = false;
		this.#oversized = false;
	}

	/** Reports an unfinished short message and stray bytes. */
	#flush(events: FrameEvent[], reason: BreakReason = 'cut off'): void {
		if (this.#pending.length > 0) {
			const bytes = Uint8Array.from(this.#pendingIsRunning ? this.#pending.slice(1) : this.#pending);
			events.push({ kind: 'broken', offset: this.#pendingOffset, bytes, reason });
			this.#pending = [];
		}
		if (this.#stray.length > 0) {
			events.push({
				kind: 'broken',
				offset: this.#strayOffset,
				bytes: joinBytes(this.#stray),
				reason: 'stray'
			});
			this.#stray = [];
			this.#strayLength = 0;
		}
	}

	#single(byte: number, offset: number, events: FrameEvent[]): void {
		if (isRealTime(byte)) {
			events.push({ kind: 'realtime', offset, bytes: Uint8Array.of(byte) });
			return;
		}
		if (byte < 0x80) {
			if (this.#pending.length === 0 && this.#running !== 0) {
				this.#pending = [this.#running];
				this.#pendingOffset = offset;
				this.#pendingIsRunning = true;
				this.#needed = dataBytesAfter(this.#running);
			}
			this.#pending.push(byte);
		} else {
			this.#flush(events);
			if (byte === SYSEX_END) {
				events.push({ kind: 'broken', offset, bytes: Uint8Array.of(byte), reason: 'stray' });
				this.#running = 0;
				return;
			}
			this.#pending = [byte];
			this.#pendingOffset = offset;
			this.#pendingIsRunning = false;
			this.#needed = dataBytesAfter(byte);
			this.#running = byte < 0xf0 ? byte : 0;
		}
		if (this.#pending.length === this.#needed + 1) {
			events.push({
				kind: 'message',
				offset: this.#pendingOffset,
				bytes: Uint8Array.from(this.#pending),
				running: this.#pendingIsRunning
			});
			this.#pending = [];
		}
	}
}

/** Frames a whole buffer at once. @throws Problem `file.too-many` */
export const frameAll = (bytes: Uint8Array, options?: FramerOptions): FrameEvent[] =>
	finished(framing(bytes, options));

/** The same with pauses. */
export function* framing(bytes: Uint8Array, options?: FramerOptions): Steps<FrameEvent[]> {
	const framer = new Framer(options);
	const events: FrameEvent[] = [];
	for (let at = 0; at < bytes.length; at += LOOK) {
		for (const event of framer.push(bytes.subarray(at, at + LOOK))) events.push(event);
		if (events.length > MOST_MESSAGES) throw tooManyEvents();
		yield;
	}
	for (const event of framer.end()) events.push(event);
	return events;
}

/** The system exclusive messages of a buffer, all else left aside. @throws Problem `file.too-many` */
export function* sysexOf(bytes: Uint8Array): Steps<Uint8Array[]> {
	const framer = new Framer();
	const messages: Uint8Array[] = [];
	const take = (events: FrameEvent[]) => {
		for (const { kind, bytes: message } of events) if (kind === 'sysex') messages.push(message);
	};
	for (let at = 0; at < bytes.length; at += LOOK) {
		take(framer.push(bytes.subarray(at, at + LOOK)));
		if (messages.length > MOST_MESSAGES) throw tooManyEvents();
		yield;
	}
	take(framer.end());
	return messages;
}
