import { z } from 'zod';

const id = z.string().min(1).max(60);
const name = z.string().trim().min(1, 'Give it a name.').max(60);
const value = z.number().int().min(0).max(127);
const key = value;
const velocity = z.number().int().min(1).max(127);
const channel = z.number().int().min(1).max(16);
const range = (of: z.ZodNumber) =>
	z
		.tuple([of, of])
		.refine(([low, high]) => low <= high, 'The lower one first: from, then to.')
		.readonly();

/** Somebody who plays: a keyboard, or a wind or string controller. */
export const playerSchema = z.object({
	id,
	name,
	/** The device of Gear that it is, if any. */
	device: z.string().max(120).nullable().default(null),
	/** The channel that it sends on; null for whichever no other player has. */
	sends: channel.nullable().default(null),
	/** Notes that its keys, or its body, can send. */
	keys: range(key).default([0, 127]),
	/** Which instrument its own keys play inside, without any cable, while local is on; null for none. */
	own: id.nullable().default(null),
	local: z.boolean().default(true),
	/** How hard a key is struck is meant to be heard. */
	touch: z.boolean().default(true)
});
export type Player = z.infer<typeof playerSchema>;

export const MOST_NAMES = 4096;
/** A sound by its name, with what selects it; values as on the wire. */
export const listedSoundSchema = z.object({
	name,
	msb: value.nullable().default(null),
	lsb: value.nullable().default(null),
	program: value
});
export type ListedSound = z.infer<typeof listedSoundSchema>;

/** What sounds: a module, or the sound inside a keyboard. */
export const instrumentSchema = z.object({
	id,
	name,
	device: z.string().max(120).nullable().default(null),
	/** Notes that sound on it. */
	keys: range(key).default([0, 127]),
	/** Notes that it plays at once; null where nobody knows. */
	voices: z.number().int().min(1).max(512).nullable().default(null),
	/** Sounds on channels of their own that it plays at once; null where nobody knows. */
	parts: z.number().int().min(1).max(16).nullable().default(null),
	/** Its own level: the volume (controller 7) that 100 per cent is. */
	level: z.number().int().min(1).max(127).default(100),
	/** Which halves of a bank select it heeds; null where nobody knows. */
	banks: z.enum(['none', 'msb', 'lsb', 'both']).nullable().default(null),
	/** The number of its first program as its panel shows it; null where nobody knows. */
	counts: z
		.union([z.literal(0), z.literal(1)])
		.nullable()
		.default(null),
	/** From a program change until it plays that sound; null where nobody measured. */
	loadMs: z.number().min(0).max(60_000).nullable().default(null),
	/** Rest that it needs after any message. */
	restMs: z.number().min(0).max(1000).default(0),
	/** Notes that are held sound on over a program change; null where nobody knows. */
	rings: z.boolean().nullable().default(null),
	/** Its sounds, as a list of names has them. */
	names: z.array(listedSoundSchema).max(MOST_NAMES).default([]),
	/** Nobody can store anything in it: its sounds are where they were made. */
	fixed: z.boolean().default(false),
	/** Slots that a set may write, in one area; null for those that its scenes name. */
	showSlots: z
		.object({ area: z.string().min(1).max(60), slots: range(z.number().int().min(0).max(16_383)) })
		.nullable()
		.default(null),
	/** It is away, broken or switched off. */
	away: z.boolean().default(false),
	/** It drops out while it is spoken to: nothing is sent to it unasked. */
	dropsOut: z.boolean().default(false)
});
export type Instrument = z.infer<typeof instrumentSchema>;

/** How hard a key was struck becomes how hard the note sounds. */
export const CURVES = ['even', 'soft', 'hard', 'full'] as const;
export type Curve = (typeof CURVES)[number];

export const zoneSchema = z.object({
	id,
	name,
	player: id,
	on: z.boolean().default(true),
	keys: range(key).default([0, 127]),
	octaves: z.number().int().min(-8).max(8).default(0),
	semitones: z.number().int().min(-11).max(11).default(0),
	/** It plays what is struck so hard: a layer that comes in by velocity. */
	struck: range(velocity).default([1, 127]),
	/** Over so many velocities above the lower end, and below the upper one, it comes in and goes out. */
	fadeIn: z.number().int().min(0).max(126).default(0),
	fadeOut: z.number().int().min(0).max(126).default(0),
	curve: z.enum(CURVES).default('even'),
	/** No note sounds softer or harder than this; a floor at 127 makes every note full. */
	floor: velocity.default(1),
	ceiling: velocity.default(127),
	/** Per cent of how hard it would sound. */
	strength: z.number().int().min(0).max(200).default(100),
	to: z
		.array(z.object({ instrument: id, channel }))
		.max(8)
		.default([]),
	/** What of the player goes on to the instruments. */
	through: z.object({ pedals: z.boolean().default(true), wheels: z.boolean().default(true) }).prefault({}),
	/** What an expression pedal does here. */
	expression: z.enum(['nothing', 'volume', 'velocity']).default('nothing'),
	/** A pedal that takes the zone out and brings it back, and what becomes of the notes that are held then. */
	leaves: z
		.object({
			controller: z.number().int().min(0).max(119),
			when: z.enum(['down', 'up']).default('down'),
			notes: z.enum(['end', 'ring']).default('end')
		})
		.nullable()
		.default(null)
});
export type Zone = z.infer<typeof zoneSchema>;

/** Players, instruments, and the zones that join them. */
export const setupSchema = z.object({
	format: z.literal('silent-drawer.setup').default('silent-drawer.setup'),
	version: z.literal(1).default(1),
	players: z.array(playerSchema).max(16).default([]),
	instruments: z.array(instrumentSchema).max(64).default([]),
	zones: z.array(zoneSchema).max(128).default([])
});
export type Setup = z.infer<typeof setupSchema>;
