import type { HeardMessage } from './recording';

/** A value of a series: `at` is the place of its message among all that were heard. */
export interface Value {
	at: number;
	atMs: number;
	value: number;
}

export type SeriesKind =
	'cc' | 'rpn' | 'nrpn' | 'note' | 'pitch-bend' | 'channel-pressure' | 'key-pressure' | 'program-change';

/** Everything that was heard under one address: a channel (1–16) and, where it has one, a number. */
export interface Series {
	kind: SeriesKind;
	channel: number;
	number: number | null;
	/** Messages that belong to it, those without a value of their own among them. */
	messages: number;
	/** Note: velocities of what was struck. Parameters: see `parameters.ts`. */
	values: Value[];
}

const KINDS: Partial<Record<number, { kind: SeriesKind; numbered: boolean }>> = {
	0x80: { kind: 'note', numbered: true },
	0x90: { kind: 'note', numbered: true },
	0xa0: { kind: 'key-pressure', numbered: true },
	0xb0: { kind: 'cc', numbered: true },
	0xc0: { kind: 'program-change', numbered: false },
	0xd0: { kind: 'channel-pressure', numbered: false },
	0xe0: { kind: 'pitch-bend', numbered: false }
};

/**
 * Channel messages sorted by what they speak of, in order of appearance. System messages are passed over.
 * @param taken places of messages that belong to something else
 * Values are the wire's: 0–127, pitch bend 0–16383 with its middle at 8192.
 */
export function seriesOf(heard: readonly HeardMessage[], taken: ReadonlySet<number>): Series[] {
	const found = new Map<string, Series>();
	heard.forEach(({ bytes, atMs }, at) => {
		const known = bytes[0] < 0xf0 ? KINDS[bytes[0] & 0xf0] : undefined;
		if (!known || taken.has(at)) return;
		const channel = (bytes[0] & 0x0f) + 1;
		const number = known.numbered ? bytes[1] : null;
		const key = `${known.kind} ${channel} ${number}`;
		let series = found.get(key);
		if (!series) found.set(key, (series = { kind: known.kind, channel, number, messages: 0, values: [] }));
		series.messages++;
		const value =
			known.kind === 'pitch-bend' ? bytes[1] | (bytes[2] << 7) : known.numbered ? bytes[2] : bytes[1];
		// A note-on of velocity nought is a note-off (MIDI 1.0, “Note On”).
		if (known.kind !== 'note' || ((bytes[0] & 0xf0) === 0x90 && value > 0))
			series.values.push({ at, atMs, value });
	});
	return [...found.values()];
}
