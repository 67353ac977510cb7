import type { Edit } from '../edit';
import type { HeardMessage } from '../control';
import { GENERAL_MIDI } from './general-midi';
import type { Selected } from './held';
import { mostAtOnce } from './places-played';
import { placesOf } from './scene-change';
import { deskOf, soundSchema, type ShowSet } from './set';
import { inPart } from './set-edits';

/** What a channel of a file asks of whatever plays it. */
export interface ChannelExpects {
	/** 1–16. */
	channel: number;
	/** Programs that it selects, in the order of time; a half of the bank is null until the file says it. */
	programs: (Selected & { atMs: number })[];
	notes: number;
	/** The lowest and the highest note; null where there is none. */
	keys: [number, number] | null;
	/** Notes at once, as long as keys are held; pedals are not counted. */
	most: number;
	/** A note comes before any program: it sounds with whatever is played then. */
	unsaid: boolean;
}

export interface FileExpects {
	/** Channels with notes or programs, in their order. */
	channels: ChannelExpects[];
	/** It turns General MIDI on or off by the universal message; null where it does neither. */
	turnsOn: boolean | null;
	/** Notes at once over all channels. */
	most: number;
	/** What General MIDI 1 would not play as it is meant; by empty, nothing of what was looked at. */
	beyondGeneralMidi: string[];
}

/** General MIDI 1 (RP-003): voices at once, the percussion channel, and the keys of its percussion map. */
const GM = { voices: 24, drums: 10, keys: [35, 81] } as const;

/** F0 7E device 09 01 F7 turns General MIDI on; 02 turns it off, 03 turns General MIDI 2 on. */
const generalMidi = (bytes: Uint8Array): number | null =>
	bytes.length === 6 && bytes[0] === 0xf0 && bytes[1] === 0x7e && bytes[3] === 9 ? bytes[4] : null;

/** What setup a file expects: programs, ranges and notes at once, by channel. @param heard in the order of time */
export function fileExpects(heard: readonly HeardMessage[], untilMs: number): FileExpects {
	const banks = new Map<number, { msb: number | null; lsb: number | null }>();
	const channels = new Map<number, ChannelExpects>();
	const of = (channel: number) => {
		const known = channels.get(channel);
		if (known) return known;
		const fresh: ChannelExpects = { channel, programs: [], notes: 0, keys: null, most: 0, unsaid: false };
		channels.set(channel, fresh);
		return fresh;
	};
	const notes = new Map<number, { atMs: number; untilMs: number }[]>();
	const open = new Map<string, { atMs: number; untilMs: number }>();
	let turnsOn: boolean | null = null;
	let [second, makers] = [false, 0];
	for (const { atMs, bytes } of heard) {
		if (bytes[0] === 0xf0) {
			const says = generalMidi(bytes);
			if (says === 1 || says === 3) turnsOn = true;
			else if (says === 2) turnsOn = false;
			second ||= says === 3;
			if (bytes[1] < 0x7e) makers++;
			continue;
		}
		const [kind, channel, first, value] = [bytes[0] & 0xf0, (bytes[0] & 15) + 1, bytes[1], bytes[2]];
		const bank = banks.get(channel) ?? { msb: null, lsb: null };
		const key = `${channel} ${first}`;
		if (kind === 0xb0 && first === 0) banks.set(channel, { ...bank, msb: value });
		else if (kind === 0xb0 && first === 32) banks.set(channel, { ...bank, lsb: value });
		else if (kind === 0xc0) of(channel).programs.push({ atMs, ...bank, program: first });
		else if (kind === 0x90 && value > 0) {
			const one = of(channel);
			one.notes++;
			one.unsaid ||= one.programs.length === 0;
			one.keys = one.keys ? [Math.min(one.keys[0], first), Math.max(one.keys[1], first)] : [first, first];
			const note = { atMs, untilMs };
			const before = open.get(key);
			if (before) before.untilMs = atMs;
			open.set(key, note);
			const own = notes.get(channel);
			if (own) own.push(note);
			else notes.set(channel, [note]);
		} else if (kind === 0x80 || kind === 0x90) {
			const note = open.get(key);
			if (note) note.untilMs = atMs;
			open.delete(key);
		}
	}
	for (const [channel, own] of notes) of(channel).most = mostAtOnce(own);
	const all = [...channels.values()].sort((a, b) => a.channel - b.channel);
	const most = mostAtOnce([...notes.values()].flat());
	const banked = all.filter(({ programs }) =>
		programs.some(({ msb, lsb }) => (msb ?? 0) > 0 || (lsb ?? 0) > 0)
	);
	const drums = channels.get(GM.drums)?.keys;
	return {
		channels: all,
		turnsOn,
		most,
		beyondGeneralMidi: [
			...(second ? ['It turns General MIDI 2 on.'] : []),
			...(banked.length > 0
				? [
						`It selects banks on channel ${banked.map(({ channel }) => channel).join(', ')}: General MIDI has one.`
					]
				: []),
			...(most > GM.voices ? [`It holds ${most} notes at once: ${GM.voices} are promised.`] : []),
			...(drums && (drums[0] < GM.keys[0] || drums[1] > GM.keys[1])
				? [`Channel ${GM.drums} goes beyond the drums that have a place (${GM.keys[0]}–${GM.keys[1]}).`]
				: []),
			...(makers > 0 ? [`It holds ${makers} messages of makers' own: only their instruments heed them.`] : [])
		]
	};
}

/** What a program is called by General MIDI 1: a guess for whatever is not known to follow it. */
export const guessedName = ({ channel }: Pick<ChannelExpects, 'channel'>, { program }: Selected): string =>
	channel === GM.drums ? 'a drum set' : GENERAL_MIDI[program];

/**
 * The edits that put the first program of each channel on the desk, where exactly one instrument plays on that channel.
 * Names are those of General MIDI, and marked as guessed.
 */
export function programsToDesk(set: ShowSet, { channels }: Pick<FileExpects, 'channels'>): Edit[] {
	const places = placesOf(set, deskOf(set));
	let after = set;
	return channels.flatMap((one) => {
		const [first] = one.programs;
		const plays = places.filter(({ channel }) => channel === one.channel);
		if (!first || plays.length !== 1) return [];
		const { msb, lsb, program } = first;
		const sound = soundSchema.parse({
			name: guessedName(one, first),
			msb,
			lsb,
			program,
			from: 'general midi'
		});
		const edits = inPart(after, plays[0].instrument, one.channel, { sound });
		// The next one that is new comes behind this one.
		const at = edits[0].path[1] as number;
		if (at === after.parts.length)
			after = { ...after, parts: [...after.parts, edits[0].value as ShowSet['parts'][number]] };
		return edits;
	});
}
