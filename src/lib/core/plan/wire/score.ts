import { Problem } from '../../problem';
import { readMidiFile } from '../../midi';

/** What is played, to whom: columns again. `target` is an index into `targets`. */
export interface Score {
	/** Ids of devices. */
	targets: string[];
	atUs: Float64Array;
	target: Int32Array;
	status: Uint8Array;
	bytes: Uint32Array;
	/** What did not find a listener. */
	unheard: { channel: number; messages: number }[];
}

export interface Part {
	device: string;
	/** 1–16 */
	channel: number;
}

/** Events in any order, as a score. */
class Sheet {
	readonly #events: { atUs: number; target: number; status: number; bytes: number }[] = [];

	add(atUs: number, target: number, status: number, bytes: number): void {
		this.#events.push({ atUs, target, status, bytes });
	}

	score(targets: string[], unheard: Score['unheard'] = []): Score {
		const events = this.#events.sort((a, b) => a.atUs - b.atUs);
		return {
			targets,
			atUs: Float64Array.from(events, ({ atUs }) => atUs),
			target: Int32Array.from(events, ({ target }) => target),
			status: Uint8Array.from(events, ({ status }) => status),
			bytes: Uint32Array.from(events, ({ bytes }) => bytes),
			unheard
		};
	}
}

const NOTE_ON = 0x90;
const CONTROL = 0xb0;
const CLOCK = 0xf8;
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

/** A pattern played on some parts. `seconds` of it; at `bpm` quarter notes a minute. */
export function patternScore(pattern: Pattern, parts: readonly Part[], seconds: number, bpm = 120): Score {
	const sheet = new Sheet();
	const targets = parts.map(({ device }) => device);
	const endUs = seconds * 1e6;
	const quarterUs = 60e6 / bpm;
	const every = (stepUs: number, act: (atUs: number) => void) => {
		for (let n = 0; n * stepUs < endUs; n++) act(n * stepUs);
	};
	const notes = (atUs: number, many: number) =>
		parts.forEach(({ channel }, target) => {
			for (let n = 0; n < many; n++) sheet.add(atUs, target, on(NOTE_ON, channel), 3);
		});
	const clock = () =>
		parts.forEach((_, target) => every(quarterUs / 24, (atUs) => sheet.add(atUs, target, CLOCK, 1)));
	switch (pattern) {
		case 'chords':
			every(500_000, (atUs) => notes(atUs, 10));
			break;
		case 'drums':
			every(quarterUs / 4, (atUs) => notes(atUs, 4));
			break;
		case 'sweeps':
			every(10_000, (atUs) =>
				parts.forEach(({ channel }, target) => {
					for (let n = 0; n < 3; n++) sheet.add(atUs, target, on(CONTROL, channel), 3);
				})
			);
			break;
		case 'clock':
			clock();
			every(quarterUs / 2, (atUs) => notes(atUs, 1));
			break;
		case 'dump':
			every(500_000, (atUs) => notes(atUs, 10));
			if (parts.length > 0) sheet.add(250_000, 0, 0xf0, 4096);
			break;
	}
	return sheet.score(targets);
}

/**
 * A Standard MIDI File as a score: its channel messages and SysEx, by its own tempo, each to the devices on its channel.
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
	const events = file.tracks.flat().sort((a, b) => a.tick - b.tick);
	const sheet = new Sheet();
	const unheard = new Map<number, number>();
	let [tick, atUs, quarterUs, sent] = [0, 0, 500_000, 0];
	for (const { tick: next, kind, data } of events) {
		atUs += ((next - tick) * quarterUs) / file.division;
		tick = next;
		if (kind === 'meta') {
			// Set tempo: three bytes, microseconds per quarter note.
			if (data[0] === 0x51 && data.length === 4) quarterUs = (data[1] << 16) | (data[2] << 8) | data[3];
			continue;
		}
		if (kind !== 'channel') continue;
		const channel = (data[0] & 0x0f) + 1;
		const able = parts.flatMap((part, target) => (part.channel === channel ? [target] : []));
		if (able.length === 0) unheard.set(channel, (unheard.get(channel) ?? 0) + 1);
		for (const target of able) sheet.add(atUs, target, data[0], data.length);
		sent += able.length;
	}
	if (sent === 0)
		throw new Problem(
			'score.empty',
			unheard.size > 0
				? `Nothing in this file is on a channel of your instruments: it plays on ${[...unheard.keys()].sort((a, b) => a - b).join(', ')}.`
				: 'There is no note in this file.',
			'Choose a file that plays on the channels of the ledger.'
		);
	return sheet.score(
		parts.map(({ device }) => device),
		[...unheard].map(([channel, messages]) => ({ channel, messages }))
	);
}
