import { fromHex } from '../midi';
import type { Recall } from '../profile';
import { instrumentAt, sceneKey } from './place';
import { deskOf, type ShowSet } from './set';

/** What selects a sound; a half of the bank that nobody knows is null. */
export type Selected = Recall;

/** What a channel of an instrument is known to hold by what it was sent. Null: not known. */
export interface HeldPart {
	/** Bank select as it was sent last: the next program change is of that bank. */
	msb: number | null;
	lsb: number | null;
	/** What the last program change selected. */
	selected: Selected | null;
	/** Controller 7. */
	volume: number | null;
}

/** What is known by what was sent; whatever a hand did since is not in it. */
export interface Held {
	/** By place. */
	parts: Readonly<Record<string, HeldPart>>;
	/** By player: whether its keys play its own sound. */
	local: Readonly<Record<string, boolean>>;
	/** By controller: the page that a hand was asked to turn to. */
	pages: Readonly<Record<string, string>>;
	tempo: number | null;
}

export const nothingHeld: Held = { parts: {}, local: {}, pages: {}, tempo: null };
export const unknownPart: HeldPart = { msb: null, lsb: null, selected: null, volume: null };

export const heldAt = (held: Held, instrument: string, channel: number): HeldPart =>
	held.parts[sceneKey(instrument, channel)] ?? unknownPart;

/** Knowledge that may be changed in place. */
export interface HeldDraft extends Held {
	parts: Record<string, HeldPart>;
}
/** A copy that `noteHeld` may change. */
export const draftOf = (held: Held): HeldDraft => ({ ...held, parts: { ...held.parts } });

function forget({ parts }: HeldDraft, instrument: string): void {
	for (const key of Object.keys(parts)) if (instrumentAt(key) === instrument) delete parts[key];
}

/** Nothing of an instrument is known any more. */
export function forgotten(held: Held, instrument: string): Held {
	const draft = draftOf(held);
	forget(draft, instrument);
	return draft;
}

/**
 * Notes what is known once a message arrived (MIDI 1.0: bank select waits for the program change). After a dump, a mode message
 * or a reset nothing of the instrument is.
 * @param channel 1–16, of a channel message
 */
export function noteHeld(
	draft: HeldDraft,
	instrument: string,
	channel: number,
	message: ArrayLike<number>
): void {
	const [kind, first, second] = [message[0] & 0xf0, message[1], message[2]];
	if (message[0] >= 0xf0) {
		if (message[0] === 0xf0 || message[0] === 0xff) forget(draft, instrument);
		return;
	}
	const part = heldAt(draft, instrument, channel);
	const is = (more: Partial<HeldPart>) => {
		draft.parts[sceneKey(instrument, channel)] = { ...part, ...more };
	};
	if (kind === 0xc0) is({ selected: { msb: part.msb, lsb: part.lsb, program: first } });
	else if (kind !== 0xb0) return;
	else if (first === 0) is({ msb: second });
	else if (first === 32) is({ lsb: second });
	else if (first === 7) is({ volume: second });
	// Reset all controllers and the mode messages: what they do to volume and parts is the instrument's own affair.
	else if (first === 121 || first >= 124) forget(draft, instrument);
}

/** Whether a selection is what is wanted: a half of the bank that the sound does not name may be anything. */
export const isSelected = (wanted: Selected, { selected }: HeldPart): boolean =>
	selected !== null &&
	selected.program === wanted.program &&
	(wanted.msb === null || wanted.msb === selected.msb) &&
	(wanted.lsb === null || wanted.lsb === selected.lsb);

/** What left for instruments, in its order, and what is said of them besides. */
export interface SentNote {
	/** Bytes in hexadecimal. */
	messages: readonly { instrument: string; channel: number | null; bytes: string }[];
	local: Readonly<Record<string, boolean>>;
	pages: Readonly<Record<string, string>>;
	tempo: number | null;
	/** Instruments of which nothing is known any more: not everything left, or somebody said so. */
	forget: readonly string[];
	/** What instruments said that they play, when they were asked. */
	says: readonly { instrument: string; channel: number; selected: Selected }[];
}

/** What is known once something was sent. What an instrument says itself is believed before what it was sent. */
export function heldSent(
	held: Held,
	{ messages, local, pages, tempo, forget: forgets, says }: SentNote
): Held {
	const now = draftOf(held);
	for (const { instrument, channel, bytes } of messages)
		noteHeld(now, instrument, channel ?? 1, fromHex(bytes));
	for (const instrument of forgets) forget(now, instrument);
	for (const { instrument, channel, selected } of says)
		now.parts[sceneKey(instrument, channel)] = { ...heldAt(now, instrument, channel), selected };
	return {
		parts: now.parts,
		local: { ...now.local, ...local },
		pages: { ...now.pages, ...pages },
		tempo: tempo ?? now.tempo
	};
}

/** The same of what a set has: what is known of anything else is left out. */
export function heldOf(set: ShowSet, { parts, local, pages, tempo }: Held): Held {
	const instruments = new Set(set.setup.instruments.map(({ id }) => id));
	const players = new Set(set.setup.players.map(({ id }) => id));
	const controllers = new Set(
		[deskOf(set), ...set.scenes].flatMap((desk) => desk.pages.map(({ controller }) => controller))
	);
	const only = <T>(known: Readonly<Record<string, T>>, has: (key: string) => boolean): Record<string, T> =>
		Object.fromEntries(Object.entries(known).filter(([key]) => has(key)));
	return {
		parts: only(parts, (key) => instruments.has(instrumentAt(key))),
		local: only(local, (id) => players.has(id)),
		pages: only(pages, (name) => controllers.has(name)),
		tempo
	};
}
