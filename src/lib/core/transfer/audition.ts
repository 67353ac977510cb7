import type { Conversation } from './conversation';

/** A note as on the wire; channel 1–16. */
export interface AuditionNote {
	channel: number;
	key: number;
	velocity: number;
}

/** What is sent so that a sound can be heard. */
export interface Audition {
	/** What selects it, or puts it into the edit buffer; nothing of it is stored. */
	first: readonly Uint8Array[];
	/** What is played, together; none where nothing shall be. */
	notes: readonly AuditionNote[];
	/** How long. */
	ms: number;
}

/** Rest before the notes, while the device loads the sound, ms. */
const LOAD_MS = 120;

/** Ends a note and whatever else sounds on its channel: note off, sustain up, all notes off (MIDI 1.0). */
export const noteEnd = ({ channel, key }: Pick<AuditionNote, 'channel' | 'key'>): Uint8Array[] => {
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
 * Sends what selects a sound, then notes and their ends. The ends are sent even where a note did not leave whole.
 * @param sounding told when all of the notes have left
 * @returns whether everything left
 */
export function* audition(
	{ first, notes, ms }: Audition,
	sounding: () => void = () => undefined
): Conversation<boolean> {
	for (const bytes of first) if ((yield { do: 'send', bytes }).heard !== 'done') return false;
	if (notes.length === 0) return true;
	if (first.length > 0) yield { do: 'sleep', ms: LOAD_MS };
	let left = true;
	const begun: AuditionNote[] = [];
	for (const note of notes) {
		begun.push(note);
		const bytes = Uint8Array.of(0x90 | (note.channel - 1), note.key, note.velocity);
		left = (yield { do: 'send', bytes }).heard === 'done';
		if (!left) break;
	}
	if (left) {
		sounding();
		yield { do: 'sleep', ms };
	}
	for (const note of begun)
		for (const bytes of noteEnd(note)) if ((yield { do: 'send', bytes }).heard !== 'done') left = false;
	return left;
}
