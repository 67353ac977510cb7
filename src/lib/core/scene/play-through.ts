import type { HeardMessage } from '../control';
import { Performance, type Dropped, type Heard } from './performance';
import type { Player, Setup } from './setup';
import { Voices, type Voice } from './voices';

/** A note that an instrument sounded. */
export interface Sounded {
	atMs: number;
	untilMs: number;
	instrument: string;
	channel: number;
	note: number;
	velocity: number;
	/** It had to end for another one: the instrument has no more voices. */
	cut: boolean;
}

export interface PlayedThrough {
	/** In the order in which they began. */
	notes: Sounded[];
	dropped: (Dropped & { atMs: number })[];
	/** Messages on channels that no player sends on. */
	nobodys: number;
	/** Keys that no zone has which is on, and no sound of their own. */
	unplayed: number;
}

/** Whose messages come on a channel (1–16): the player that sends on it, or the first that may send on any. */
export const playerOn = (setup: Setup, channel: number): Player | undefined =>
	setup.players.find(({ sends }) => sends === channel) ?? setup.players.find(({ sends }) => sends === null);

/** A channel on which a player is heard, 1–16; null where other players have them all. */
export const channelOf = (setup: Setup, player: string): number | null =>
	Array.from({ length: 16 }, (_, i) => i + 1).find((channel) => playerOn(setup, channel)?.id === player) ??
	null;

/** Pedals of a player that its zones heed while they are on: the one that holds, and those that drop a layer. */
export function pedalsOf({ zones }: Setup, player: string): number[] {
	const leave = zones.flatMap((zone) =>
		zone.player === player && zone.on && zone.leaves ? [zone.leaves.controller] : []
	);
	return [...new Set([64, ...leave])];
}

/**
 * Plays a stream through a setup: which instrument sounds which note, from when until when.
 * @param played in the order of time
 * @param endMs when everything is let go that is held still
 */
export function playThrough(setup: Setup, played: readonly HeardMessage[], endMs: number): PlayedThrough {
	const performance = new Performance(setup);
	const voices = new Voices((id) => setup.instruments.find((each) => each.id === id)?.voices ?? null);
	const open = new Map<Voice, Sounded>();
	const through: PlayedThrough = { notes: [], dropped: [], nobodys: 0, unplayed: 0 };
	const hear = ({ told, dropped }: Heard, atMs: number) => {
		for (const each of told) {
			const stolen = voices.hear(each);
			const now = new Set(voices.sounding);
			for (const [voice, note] of open) {
				if (now.has(voice)) continue;
				note.untilMs = atMs;
				note.cut = voice === stolen;
				open.delete(voice);
			}
			for (const voice of now) {
				if (open.has(voice)) continue;
				const { instrument, channel, note, velocity } = voice;
				const sounded = { atMs, untilMs: atMs, instrument, channel, note, velocity, cut: false };
				open.set(voice, sounded);
				through.notes.push(sounded);
			}
		}
		through.dropped.push(...dropped.map((each) => ({ atMs, ...each })));
	};
	for (const { atMs, bytes: message } of played) {
		if (message[0] < 0x80 || message[0] >= 0xf0) continue;
		const player = playerOn(setup, (message[0] & 0x0f) + 1);
		if (!player) {
			through.nobodys++;
			continue;
		}
		const heard = performance.play(player.id, message);
		hear(heard, atMs);
		const struck = message[0] >> 4 === 9 && message[2] > 0;
		if (struck && heard.dropped.length === 0 && !heard.told.some((told) => told.message[0] >> 4 === 9))
			through.unplayed++;
	}
	hear(performance.end(), endMs);
	return through;
}
