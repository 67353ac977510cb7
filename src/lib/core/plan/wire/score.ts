import { Problem } from '../../problem';
import { isRealTime, readMidiFile, SYSEX_END, SYSEX_START } from '../../midi';

/** What is played, to whom: columns again, in the order of their times. */
export interface Score {
	/** Ids of the devices that are played, each once. */
	targets: string[];
	atUs: Float64Array;
	/** Index into `targets`, for what is played to one device; or `BY_CHANNEL`. */
	to: Int32Array;
	/** For `BY_CHANNEL`: a bit for each channel (1–16 are bits 0–15) whose listeners it goes to; none for every line with anybody on it. */
	channels: Uint16Array;
	status: Uint8Array;
	bytes: Uint32Array;
	/** When a pulse of the clock is due, as long as it is played. */
	clockUs: Float64Array;
	/** Where nobody sends clock, the computer is supposed to, at every out. */
	clockSupposed: boolean;
	/** What did not find a listener. */
	unheard: { channel: number; messages: number }[];
}

/** Not to one device, but to whoever listens. */
export const BY_CHANNEL = -1;

export interface Part {
	device: string;
	/** 1–16 */
	channel: number;
}

interface Event {
	atUs: number;
	to: number;
	channels: number;
	status: number;
	bytes: number;
}

/** Events in any order, as a score. */
class Sheet {
	readonly #events: Event[] = [];

	add(atUs: number, to: number, status: number, bytes: number, channels = 0): void {
		this.#events.push({ atUs, to, channels, status, bytes });
	}

	score(more: Pick<Score, 'targets'> & Partial<Score>): Score {
		const events = this.#events.sort((a, b) => a.atUs - b.atUs);
		return {
			atUs: Float64Array.from(events, ({ atUs }) => atUs),
			to: Int32Array.from(events, ({ to }) => to),
			channels: Uint16Array.from(events, ({ channels }) => channels),
			status: Uint8Array.from(events, ({ status }) => status),
			bytes: Uint32Array.from(events, ({ bytes }) => bytes),
			clockUs: new Float64Array(),
			clockSupposed: false,
			unheard: [],
			...more
		};
	}
}

const NOTE_ON = 0x90;
const CONTROL = 0xb0;
const on = (kind: number, channel: number) => kind | (channel - 1);

/** Built-in patterns: enough of each to see what a port makes of it. */
export const PATTERNS = {
	chords: { title: 'Chords', says: 'Ten notes at once for every instrument, twice a second.' },
	drums: { title: 'Drum grid', says: 'Four voices on sixteenths at 120 a minute, all instruments in step.' },
	sweeps: { title: 'Controller sweeps', says: 'Three controllers for every instrument, every 10 ms.' },
	clock: { title: 'Clock and bass line', says: 'Clock at 120 a minute with a note on every eighth.' },
	dump: { title: 'A dump in the background', says: 'Chords, while the first instrument is sent 4 kB.' }
} as const;
export type Pattern = keyof typeof PATTERNS;

/** Pulses of a clock to a quarter note (MIDI 1.0, timing clock). */
const PULSES = 24;

/** A pattern played on some parts. `seconds` of it; at `bpm` quarter notes a minute. */
export function patternScore(pattern: Pattern, parts: readonly Part[], seconds: number, bpm = 120): Score {
	const sheet = new Sheet();
	const targets = [...new Set(parts.map(({ device }) => device))];
	const endUs = seconds * 1e6;
	const quarterUs = 60e6 / bpm;
	const every = (stepUs: number, act: (atUs: number) => void) => {
		for (let n = 0; n * stepUs < endUs; n++) act(n * stepUs);
	};
	const to = parts.map(({ device }) => targets.indexOf(device));
	const messages = (atUs: number, kind: number, many: number) =>
		parts.forEach(({ channel }, i) => {
			for (let n = 0; n < many; n++) sheet.add(atUs, to[i], on(kind, channel), 3);
		});
	switch (pattern) {
		case 'chords':
			every(500_000, (atUs) => messages(atUs, NOTE_ON, 10));
			break;
		case 'drums':
			every(quarterUs / 4, (atUs) => messages(atUs, NOTE_ON, 4));
			break;
		case 'sweeps':
			every(10_000, (atUs) => messages(atUs, CONTROL, 3));
			break;
		case 'clock':
			every(quarterUs / 2, (atUs) => messages(atUs, NOTE_ON, 1));
			break;
		case 'dump':
			every(500_000, (atUs) => messages(atUs, NOTE_ON, 10));
			if (parts.length > 0) sheet.add(250_000, 0, SYSEX_START, 4096);
			break;
	}
	const pulses: number[] = [];
	every(quarterUs / PULSES, (atUs) => pulses.push(atUs));
	return sheet.score({
		targets,
		clockUs: Float64Array.from(pulses),
		clockSupposed: pattern === 'clock'
	});
}

/** The messages in an escape packet outside of a SysEx message: each with its status byte. */
function* escaped(data: Uint8Array): Generator<{ status: number; bytes: number }> {
	for (let at = 0; at < data.length;) {
		const status = data[at];
		let end = at + 1;
		if (status === SYSEX_START) {
			const close = data.indexOf(SYSEX_END, at);
			end = close < 0 ? data.length : close + 1;
		} else if (!isRealTime(status)) while (end < data.length && data[end] < 0x80) end++;
		// Data bytes without a status have no meaning by themselves.
		if (status >= 0x80 && status !== SYSEX_END) yield { status, bytes: end - at };
		at = end;
	}
}

/**
 * A Standard MIDI File as a score, by its own tempo: channel messages to whoever listens on their channel; SysEx, whole
 * or in packets, to where the channels of its track go, or everywhere where it has none; real-time bytes everywhere.
 * @throws Problem `smf.not-a-midi-file`, `score.empty`, `score.timecode`
 */
export function fileScore(bytes: Uint8Array, parts: readonly Part[]): Score {
	const file = readMidiFile(bytes);
	if (file.division & 0x8000)
		throw new Problem(
			'score.timecode',
			'This MIDI file counts in time code instead of beats.',
			'Save it with beats (ticks per quarter note).'
		);
	const bit = (status: number) => 1 << (status & 0x0f);
	const events = file.tracks
		.flatMap((track, at) => {
			const mask = track.reduce((sum, { kind, data }) => (kind === 'channel' ? sum | bit(data[0]) : sum), 0);
			return track.map((event) => ({ ...event, mask, track: at }));
		})
		.sort((a, b) => a.tick - b.tick);
	const sheet = new Sheet();
	const able = new Set(parts.map(({ channel }) => channel));
	const unheard = new Map<number, number>();
	const pulses: number[] = [];
	let [tick, atUs, quarterUs, sent] = [0, 0, 500_000, 0];
	const play = (status: number, length: number, mask: number) => {
		if (status < SYSEX_START) {
			const channel = (status & 0x0f) + 1;
			if (!able.has(channel)) {
				unheard.set(channel, (unheard.get(channel) ?? 0) + 1);
				return;
			}
			sheet.add(atUs, BY_CHANNEL, status, length, bit(status));
			sent++;
		} else sheet.add(atUs, BY_CHANNEL, status, length, status === SYSEX_START ? mask : 0);
	};
	/** Tracks in which a SysEx message has begun and not ended. */
	const open = new Set<number>();
	const sysex = (track: number, data: Uint8Array, length: number, mask: number) => {
		play(SYSEX_START, length, mask);
		if (data.at(-1) === SYSEX_END) open.delete(track);
		else open.add(track);
	};
	for (const { tick: next, kind, data, mask, track } of events) {
		// Pulses up to here, at the tempo until here.
		for (let n = Math.ceil((tick * PULSES) / file.division); n * file.division < next * PULSES; n++)
			pulses.push(atUs + (((n * file.division) / PULSES - tick) * quarterUs) / file.division);
		atUs += ((next - tick) * quarterUs) / file.division;
		tick = next;
		if (kind === 'meta') {
			// Set tempo: three bytes, microseconds per quarter note.
			if (data[0] === 0x51 && data.length === 4) quarterUs = (data[1] << 16) | (data[2] << 8) | data[3];
		} else if (kind === 'channel') play(data[0], data.length, mask);
		else if (kind === 'sysex') sysex(track, data, data.length + 1, mask);
		// A packet that goes on with the message before it.
		else if (open.has(track) && !isRealTime(data[0])) sysex(track, data, data.length, mask);
		else for (const message of escaped(data)) play(message.status, message.bytes, mask);
	}
	if (sent === 0)
		throw new Problem(
			'score.empty',
			unheard.size > 0
				? `Nothing in this file is on a channel of your instruments: it plays on ${[...unheard.keys()].sort((a, b) => a - b).join(', ')}.`
				: 'There is no note in this file.',
			'Choose a file that plays on the channels of the ledger.'
		);
	return sheet.score({
		targets: [...new Set(parts.map(({ device }) => device))],
		clockUs: Float64Array.from(pulses),
		unheard: [...unheard].map(([channel, messages]) => ({ channel, messages }))
	});
}
