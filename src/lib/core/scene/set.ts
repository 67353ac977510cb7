import { z } from 'zod';
import { fromHex, isWholeMessage } from '../midi';
import { sceneCallsSchema } from './scene-calls';
import { listedSoundSchema, setupSchema, zoneSchema, type Setup } from './setup';

const id = z.string().min(1).max(60);
const name = z.string().trim().min(1, 'Give it a name.').max(60);
const channel = z.number().int().min(1).max(16);

/** Where the numbers of a sound come from. A name of General MIDI is a guess for a module not known to follow it. */
export const SOUND_SOURCES = ['drawer', 'list', 'typed', 'general midi'] as const;

/** A sound by its name, with what selects it; values as on the wire. */
export const soundSchema = listedSoundSchema.extend({
	from: z.enum(SOUND_SOURCES).default('typed'),
	/** For one out of a drawer: the slot that the numbers select, and the content (SHA-256) that is meant. */
	kept: z
		.object({
			area: z.string().min(1).max(60),
			index: z.number().int().min(0),
			record: z.string().length(64)
		})
		.nullable()
		.default(null)
});
export type Sound = z.infer<typeof soundSchema>;

/** What a channel of an instrument plays. */
export const partSchema = z.object({
	instrument: id,
	channel,
	/** Null: whatever it plays already. */
	sound: soundSchema.nullable().default(null),
	/** Per cent of the instrument’s own level; null: as it is. */
	volume: z.number().int().min(0).max(200).nullable().default(null)
});
export type Part = z.infer<typeof partSchema>;

/** Hexadecimal that is one whole message. */
export const wholeMessage = (hex: z.ZodString) =>
	hex.refine(
		(text) => isWholeMessage(fromHex(text)),
		'One whole message: a status byte, and what belongs to it.'
	);

/** A message of one’s own, to a channel of an instrument: hexadecimal, whole; the channel replaces its own. */
export const ownMessageSchema = z.object({
	instrument: id,
	channel: channel.nullable().default(null),
	says: name,
	bytes: wholeMessage(
		z
			.string()
			.max(1536)
			.regex(/^\s*[0-9a-f]{2}(\s*[0-9a-f]{2})*\s*$/i, 'Bytes in hexadecimal, two digits each.')
	)
});

/** What a scene holds beside its number and name: what the players' keys come to. */
export const deskSchema = z.object({
	zones: z.array(zoneSchema).max(128).default([]),
	parts: z.array(partSchema).max(256).default([]),
	/** Whether a player’s keys play its own sound, by player; as it is where nobody said. */
	local: z.record(id, z.boolean()).default({}),
	/** Pages that controllers show, by the names that are on them; turned by hand. */
	pages: z
		.array(z.object({ controller: name, page: name }))
		.max(32)
		.default([]),
	/** Beats per minute. */
	tempo: z.number().min(20).max(400).nullable().default(null),
	messages: z.array(ownMessageSchema).max(64).default([]),
	/** Whatever sounds when it comes ends. */
	silence: z.boolean().default(false)
});
export type Desk = z.infer<typeof deskSchema>;

export const sceneSchema = deskSchema.extend({ number: z.number().int().min(0).max(999), name });
export type Scene = z.infer<typeof sceneSchema>;

/** A song of the set. */
export const songSchema = z.object({
	id,
	name,
	/** Numbers of scenes, in their order. */
	scenes: z.array(z.number().int().min(0).max(999)).max(60).default([]),
	notes: z.string().max(4000).default(''),
	tempo: z.number().min(20).max(400).nullable().default(null),
	/** What a hand must do before it. */
	hands: z.array(z.string().trim().min(1).max(200)).max(20).default([]),
	/** The pause before it; null where nobody said. */
	pauseSeconds: z.number().min(0).max(3600).nullable().default(null)
});
export type Song = z.infer<typeof songSchema>;

/** What is on the desk now, the scenes that are stored, and the songs that use them. */
export const setSchema = z
	.object({
		format: z.literal('silent-drawer.set').default('silent-drawer.set'),
		version: z.literal(1).default(1),
		name: z.string().max(60).default(''),
		setup: setupSchema.prefault({}),
		...deskSchema.omit({ zones: true, local: true }).shape,
		scenes: z.array(sceneSchema).max(1000).default([]),
		/** The scene that was recalled last; what is on the desk may differ from it since. */
		recalled: z.number().int().nullable().default(null),
		/** The scene that the studio starts with. */
		start: z.number().int().nullable().default(null),
		songs: z.array(songSchema).max(200).default([]),
		/** Program changes that call scenes; null where none do. */
		calls: sceneCallsSchema.nullable().default(null),
		/** Jumps of level beyond this are told, dB. */
		loudDb: z.number().min(0).max(60).default(6)
	})
	.refine(
		({ scenes }) => new Set(scenes.map(({ number }) => number)).size === scenes.length,
		'Two scenes have one number.'
	);
export type ShowSet = z.infer<typeof setSchema>;

/** What is on the desk now, as a scene would hold it. */
export const deskOf = ({ setup, parts, pages, tempo, messages, silence }: ShowSet): Desk => ({
	zones: setup.zones,
	parts,
	local: Object.fromEntries(setup.players.map(({ id, local }) => [id, local])),
	pages,
	tempo,
	messages,
	silence
});

/** The setup as a scene plays it. */
export const setupOf = ({ setup }: ShowSet, { zones, local }: Pick<Desk, 'zones' | 'local'>): Setup => ({
	...setup,
	players: setup.players.map((player) => ({ ...player, local: local[player.id] ?? player.local })),
	zones
});

export const sceneNumbered = ({ scenes }: ShowSet, number: number | null): Scene | null =>
	scenes.find((scene) => scene.number === number) ?? null;

/** What an instrument is called; its id where it is gone. */
export const instrumentName = ({ setup }: Pick<ShowSet, 'setup'>, id: string): string =>
	setup.instruments.find((each) => each.id === id)?.name ?? id;

/** The scenes of the songs that there are, in the order in which they come. */
export const scenesPlayed = (set: ShowSet): { song: Song; scene: Scene; first: boolean }[] =>
	set.songs.flatMap((song) =>
		song.scenes.flatMap((number, i) => {
			const scene = sceneNumbered(set, number);
			return scene ? [{ song, scene, first: i === 0 }] : [];
		})
	);

/** The part at a place; empty where nobody said anything of it. */
export const partAt = ({ parts }: Pick<Desk, 'parts'>, instrument: string, on: number): Part =>
	parts.find((part) => part.instrument === instrument && part.channel === on) ?? {
		instrument,
		channel: on,
		sound: null,
		volume: null
	};
