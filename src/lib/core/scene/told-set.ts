import type { StoredLine } from '../contact';
import type { LiveWorld } from '../drawer';
import type { Followed, NamedSound } from './follow';
import type { Held } from './held';
import type { Readiness } from './ready';
import type { ZoneFinding } from './rules';
import type { ShowSet } from './set';
import type { Setup } from './setup';
import type { StudioNotes } from './studio-needs';

/** A sound that scenes name, and what became of it. */
export interface FollowedSound extends NamedSound {
	followed: Followed;
}

/** What instruments hold by what they were sent, and when they were sent to last, ISO 8601. */
export interface KnownHeld {
	held: Held;
	at: string | null;
}

/** What is told of a set besides the document. */
export interface ToldSet {
	/** What is wrong with what is on its desk, or not known. */
	findings: ZoneFinding[];
	/** Where its sounds are, by what is known in the studio’s own world. */
	sounds: FollowedSound[];
	/** How long a zone’s notes take on today’s wiring to each place that it plays, ms, by zone; null where nobody knows. */
	lateMs: Record<string, (number | null)[]>;
	held: Record<LiveWorld, KnownHeld>;
	/** Players and instruments that the wiring has and the set has not. */
	found: Pick<Setup, 'players' | 'instruments'>;
	/** Controllers that have maps, with their pages. */
	controllers: StudioNotes['controllers'];
	/** What the songs need, in the order of the set. */
	readiness: Readiness;
	/** The channel that each instrument is set to. */
	channels: Record<string, number>;
}

/** How the devices of a set's instruments are reached, and which of them can be asked what they play. */
export interface SetLines {
	/** Of which instruments and devices, by `linesKey`. */
	of: string;
	/** By instrument. */
	lines: Record<string, StoredLine>;
	/** Instrument → the profile that says how it is asked, or tells by itself, with the device ID and channel (1–16) that it is on. */
	asked: Record<string, { profile: string; deviceId: number; channel: number }>;
	/** Devices of Gear. */
	devices: { id: string; name: string }[];
}

/** Whose lines a set wants: another one, and they have to be told anew. */
export const linesKey = ({ setup: { instruments } }: ShowSet): string =>
	JSON.stringify(instruments.map(({ id, device }) => [id, device]));
