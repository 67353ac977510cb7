import { Problem } from '../problem';
import { joinBytes } from './bytes';
import { SYSEX_END, SYSEX_START, dataBytesAfter } from './status';
import { wireMs } from './wire';

/** One event of a Standard MIDI File track. */
export interface FileEvent {
	/** Ticks from the start of the track. */
	tick: number;
	/** Offset of the event's first byte (its delta time) in the file. */
	offset: number;
	kind: 'channel' | 'meta' | 'sysex' | 'continuation';
	/** channel: status and data · meta: type and data · sysex and continuation: the payload, without F0 or F7 marker, a view of the file. */
	data: Uint8Array;
}

export interface MidiFile {
	format: number;
	/** Ticks per quarter note, or the raw SMPTE division. */
	division: number;
	tracks: FileEvent[][];
	/** What could not be read: nothing is dropped without a line here. */
	damage: { offset: number; reason: string }[];
}

const text = (bytes: Uint8Array, at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
const u32 = (b: Uint8Array, at: number) =>
	((b[at] << 24) | (b[at + 1] << 16) | (b[at + 2] << 8) | b[at + 3]) >>> 0;
const u16 = (b: Uint8Array, at: number) => (b[at] << 8) | b[at + 1];

/** Whether `bytes` begin as a Standard MIDI File. */
export const isMidiFile = (bytes: Uint8Array): boolean => bytes.length >= 14 && text(bytes, 0) === 'MThd';

/**
 * Reads a Standard MIDI File (RP-001): types 0, 1 and 2, running status, SysEx and its continuation packets.
 * Damage inside a track ends that track, is listed in `damage`, and leaves the events before it.
 * @throws Problem `smf.not-a-midi-file` where there is no header
 */
export function readMidiFile(bytes: Uint8Array): MidiFile {
	if (!isMidiFile(bytes))
		throw new Problem(
			'smf.not-a-midi-file',
			'This is not a MIDI file: its header is missing.',
			'Choose a .mid file, or a .syx file.'
		);
	const headerLength = u32(bytes, 4);
	const file: MidiFile = { format: u16(bytes, 8), division: u16(bytes, 12), tracks: [], damage: [] };
	const declared = u16(bytes, 10);
	let at = 8 + headerLength;
	while (at + 8 <= bytes.length) {
		const length = u32(bytes, at + 4);
		const start = at + 8;
		const end = Math.min(start + length, bytes.length);
		if (text(bytes, at) === 'MTrk') {
			file.tracks.push(readTrack(bytes, start, end, file.damage));
			if (start + length > bytes.length)
				file.damage.push({
					offset: bytes.length,
					reason: `the file ends ${start + length - bytes.length} bytes before its track does`
				});
		}
		at = start + length;
	}
	if (at < bytes.length)
		file.damage.push({ offset: at, reason: `${bytes.length - at} bytes after the last chunk` });
	if (file.tracks.length < declared)
		file.damage.push({
			offset: bytes.length,
			reason: `${declared} tracks are announced, ${file.tracks.length} are there`
		});
	return file;
}

/** The most events that a file of dumps, or a track, may hold: a real one has a tenth of it. */
export const MOST_EVENTS = 250_000;

function readTrack(bytes: Uint8Array, start: number, end: number, damage: MidiFile['damage']): FileEvent[] {
	const events: FileEvent[] = [];
	let at = start;
	let tick = 0;
	let running = 0;

	const number = (): number => {
		let value = 0;
		for (let i = 0; i < 4; i++) {
			if (at >= end) return -1;
			const byte = bytes[at++];
			value = (value << 7) | (byte & 0x7f);
			if (byte < 0x80) return value;
		}
		return -1;
	};
	const fail = (offset: number, reason: string) => {
		damage.push({ offset, reason });
		return events;
	};

	while (at < end) {
		if (events.length > MOST_EVENTS) return fail(at, `a track holds more than ${MOST_EVENTS} events`);
		const offset = at;
		const delta = number();
		if (delta < 0 || at >= end) return fail(offset, 'a time is cut off');
		tick += delta;
		let status = bytes[at];
		if (status >= 0x80) at++;
		else if (running === 0) return fail(at, `a data byte ${status} stands where an event should begin`);
		else status = running;

		if (status === SYSEX_START || status === SYSEX_END || status === 0xff) {
			running = 0;
			const type = status === 0xff ? bytes[at++] : -1;
			const length = number();
			if (length < 0 || at + length > end) {
				if (status !== 0xff && length >= 0)
					events.push({
						tick,
						offset,
						kind: status === SYSEX_START ? 'sysex' : 'continuation',
						data: bytes.subarray(at, end)
					});
				return fail(offset, 'an event is longer than its track');
			}
			const body = bytes.subarray(at, at + length);
			at += length;
			if (status === 0xff)
				events.push({ tick, offset, kind: 'meta', data: joinBytes([Uint8Array.of(type), body]) });
			else events.push({ tick, offset, kind: status === SYSEX_START ? 'sysex' : 'continuation', data: body });
			continue;
		}
		const length = dataBytesAfter(status);
		if (length < 0 || status >= 0xf0)
			return fail(at - 1, `a status byte ${status.toString(16)} has no place in a file`);
		if (at + length > end) return fail(offset, 'an event is cut off');
		running = status;
		events.push({
			tick,
			offset,
			kind: 'channel',
			data: joinBytes([Uint8Array.of(status), bytes.subarray(at, at + length)])
		});
		at += length;
	}
	return events;
}

/** One SysEx message taken out of a file, with its continuation packets joined. */
export interface FileSysex {
	/** Offset of the first packet's event in the file. */
	offset: number;
	/** F0 … F7, or up to where it breaks off when `complete` is false. */
	bytes: Uint8Array;
	complete: boolean;
}

/**
 * The SysEx messages of a MIDI file in track order, then time order. A message may be continued over several
 * packets (RP-001, “F7” events); a packet outside a message is an escape, which may hold any number of messages.
 */
export function sysexOfMidiFile(file: MidiFile): FileSysex[] {
	const found: FileSysex[] = [];
	for (const track of file.tracks) {
		let open: { offset: number; parts: Uint8Array[] } | null = null;
		const close = (complete: boolean) => {
			if (!open) return;
			const bytes = open.parts.length === 1 ? Uint8Array.from(open.parts[0]) : joinBytes(open.parts);
			// A status byte inside is no system exclusive data: the message is broken, whatever its length says.
			found.push({ offset: open.offset, bytes, complete: complete && onlyData(bytes) });
			open = null;
		};
		for (const { kind, offset, data } of track) {
			if (kind === 'sysex') {
				close(false);
				open = { offset, parts: [START, data] };
				if (data[data.length - 1] === SYSEX_END) close(true);
			} else if (kind === 'continuation') {
				// Pieces of the packet, each up to an F7 or before an F0.
				for (let from = 0; from < data.length;) {
					if (data[from] === SYSEX_START) {
						close(false);
						open = { offset, parts: [] };
					}
					const end = data.indexOf(SYSEX_END, from);
					const next = data.indexOf(SYSEX_START, from + 1);
					const ends = end >= 0 && (next < 0 || end < next);
					const to = ends ? end + 1 : next < 0 ? data.length : next;
					const target = open as { parts: Uint8Array[] } | null;
					if (target) target.parts.push(data.subarray(from, to));
					if (ends) close(true);
					from = to;
				}
			}
		}
		close(false);
	}
	return found;
}

const START = Uint8Array.of(SYSEX_START);

/** Whether everything between the first and the last byte is data; looked at four bytes at a time. */
function onlyData(message: Uint8Array): boolean {
	const last = message.length - 1;
	let i = 1;
	const words =
		message.byteOffset % 4 === 0 ? new Uint32Array(message.buffer, message.byteOffset, last >> 2) : null;
	if (words && words.length > 1) {
		while (i < 4) if (message[i++] > 0x7f) return false;
		let seen = 0;
		for (let w = 1; w < words.length; w++) seen |= words[w];
		if ((seen & 0x80808080) !== 0) return false;
		i = words.length * 4;
	}
	for (; i < last; i++) if (message[i] > 0x7f) return false;
	return true;
}

function writeNumber(value: number): number[] {
	const out = [value & 0x7f];
	for (let rest = value >>> 7; rest > 0; rest >>>= 7) out.unshift((rest & 0x7f) | 0x80);
	return out;
}

/** A track to be written: whole messages with their times, in the order of time. */
export interface TrackToWrite {
	/** Shown by programs that show tracks; none for no name. */
	name?: string;
	messages: readonly { atMs: number; bytes: Uint8Array }[];
	/** When the track ends. */
	untilMs: number;
}

/** At 120 beats a minute and 480 ticks a beat, as files are written here. */
const TICKS_PER_MS = 480 / 500;
const TEMPO = [0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20];

/** An event for a message: SysEx, a channel message as it is, and all else as an escape (RP-001). */
function eventOf(bytes: Uint8Array): Uint8Array[] {
	const [status] = bytes;
	if (status === SYSEX_START)
		return [Uint8Array.of(SYSEX_START, ...writeNumber(bytes.length - 1)), bytes.subarray(1)];
	return status < SYSEX_START ? [bytes] : [Uint8Array.of(SYSEX_END, ...writeNumber(bytes.length)), bytes];
}

function chunk(name: string, body: Uint8Array): Uint8Array {
	const head = new Uint8Array(8);
	head.set(new TextEncoder().encode(name));
	new DataView(head.buffer).setUint32(4, body.length);
	return joinBytes([head, body]);
}

/** A MIDI file of 120 beats a minute and 480 ticks a beat: type 0 for one track, type 1 for several. */
export function writeMidiFile(tracks: readonly TrackToWrite[]): Uint8Array {
	const body = ({ name, messages, untilMs }: TrackToWrite, first: boolean) => {
		const parts: Uint8Array[] = [Uint8Array.from(first ? TEMPO : [])];
		if (name !== undefined) {
			const text = new TextEncoder().encode(name);
			parts.push(Uint8Array.of(0, 0xff, 3, ...writeNumber(text.length)), text);
		}
		let tick = 0;
		const wait = (atMs: number) => {
			const due = Math.max(tick, Math.round(atMs * TICKS_PER_MS));
			parts.push(Uint8Array.from(writeNumber(due - tick)));
			tick = due;
		};
		for (const { atMs, bytes } of messages) {
			wait(atMs);
			parts.push(...eventOf(bytes));
		}
		wait(untilMs);
		parts.push(Uint8Array.of(0xff, 0x2f, 0));
		return joinBytes(parts);
	};
	const type = tracks.length === 1 ? 0 : 1;
	return joinBytes([
		chunk('MThd', Uint8Array.of(0, type, tracks.length >> 8, tracks.length & 0xff, 480 >> 8, 480 & 0xff)),
		...tracks.map((track, i) => chunk('MTrk', body(track, i === 0)))
	]);
}

/**
 * A MIDI file that plays `messages` one after another, each given its time on the wire plus `gapMs`, so that a plain player
 * sends them at a safe pace.
 */
export function writeSysexMidiFile(messages: readonly Uint8Array[], gapMs = 100): Uint8Array {
	let untilMs = 0;
	const timed = messages.map((bytes) => {
		const atMs = untilMs;
		untilMs += wireMs(bytes.length) + gapMs;
		return { atMs, bytes };
	});
	return writeMidiFile([{ messages: timed, untilMs }]);
}
