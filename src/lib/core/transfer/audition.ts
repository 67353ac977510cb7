import type { Conversation } from './conversation';

/** What is sent so that a sound can be heard. */
export interface Audition {
	/** What selects it, or puts it into the edit buffer; nothing of it is stored. */
	first: readonly Uint8Array[];
	/** 1–16. */
	channel: number;
	/** Note and velocity as on the wire; null where nothing shall be played. */
	note: { key: number; velocity: number; ms: number } | null;
}

/** Rest before the note, while the device loads the sound, ms. */
const LOAD_MS = 120;

/** Ends a note and whatever else sounds on a channel: note off, sustain up, all notes off (MIDI 1.0). */
export const noteEnd = (channel: number, key: number): Uint8Array[] => {
	const at = channel - 1;
	return [
		Uint8Array.of(0x80 | at, key, 64),
		Uint8Array.of(0xb0 | at, 64, 0),
		Uint8Array.of(0xb0 | at, 123, 0)
	];
};

/** Silences all channels: sustain up, all sound off, all notes off (MIDI 1.0). */
export const panicMessages = (): Uint8Array[] =>
	Array.from({ length: 16 }, (_, at) =>
		[64, 120, 123].map((controller) => Uint8Array.of(0xb0 | at, controller, 0))
	).flat();

/**
 * Sends what selects a sound, then a note and its end. The end is sent even where the note did not leave whole.
 * @param sounding told when the note has left
 * @returns whether everything left
 */
export function* audition(
	{ first, channel, note }: Audition,
	sounding: () => void = () => undefined
): Conversation<boolean> {
	for (const bytes of first) if ((yield { do: 'send', bytes }).heard !== 'done') return false;
	if (!note) return true;
	yield { do: 'sleep', ms: LOAD_MS };
	const begun = yield { do: 'send', bytes: Uint8Array.of(0x90 | (channel - 1), note.key, note.velocity) };
	if (begun.heard === 'done') {
		sounding();
		yield { do: 'sleep', ms: note.ms };
	}
	let left = begun.heard === 'done';
	for (const bytes of noteEnd(channel, note.key))
		if ((yield { do: 'send', bytes }).heard !== 'done') left = false;
	return left;
}
