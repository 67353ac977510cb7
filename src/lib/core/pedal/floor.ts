import { z } from 'zod';

const id = z.string().min(1).max(60);
const name = z.string().trim().min(1, 'Give it a name.').max(60);
const words = (limit: number) => z.string().trim().max(limit).default('');
const kilohm = z.number().min(0.01).max(10_000);

/** The contacts of a plug, from its point on. */
export const CONTACTS = ['tip', 'ring', 'sleeve'] as const;
export type Contact = (typeof CONTACTS)[number];
const contact = z.enum(CONTACTS);

/** What a jack can be set to be, and what of it can be set in the box’s menus. */
export const jackModeSchema = z.object({
	id,
	/** One switch on the tip; two on tip and ring; a pot between them. */
	takes: z.enum(['switch', 'switches', 'expression']),
	/** Which contact an expression jack reads. */
	wiper: z.enum(['tip', 'ring']).default('tip'),
	/**
	 * What a switch jack takes for a foot that is up: always an open contact; what a setting says; what it finds when it is
	 * switched on.
	 */
	rest: z.enum(['open', 'set', 'at-power-on']).default('open'),
	/** It can be told that a switch latches. */
	latching: z.boolean().default(false),
	/** It learns both ends of a pedal. */
	calibrates: z.boolean().default(false),
	/** It can be told to read a pedal the other way round. */
	reverses: z.boolean().default(false),
	/** Resistor from its supply to each switch contact; null where nobody knows. */
	pullKohm: kilohm.nullable().default(null),
	/** Resistor from its supply to the pot; null where nobody knows. */
	feedKohm: kilohm.nullable().default(null),
	/** What its input draws, as a resistor to the sleeve; null where nobody knows. */
	loadKohm: kilohm.nullable().default(null),
	/** Where in the box’s menus it is chosen; empty where it is always so. */
	menu: words(120),
	/** Where in the box’s menus rest, direction or calibration are set. */
	settingMenu: words(120)
});
export type JackMode = z.infer<typeof jackModeSchema>;

export const jackSchema = z.object({
	id,
	/** As the box calls it. */
	name,
	socket: z.enum(['ts', 'trs']).default('trs'),
	modes: z.array(jackModeSchema).min(1).max(6),
	/** How it is set today. */
	set: z
		.object({
			mode: id.optional(),
			/** Where the mode’s rest is set: what a foot that is up reads as. */
			rest: z.enum(['open', 'closed']).default('open'),
			latching: z.boolean().default(false),
			reversed: z.boolean().default(false)
		})
		.prefault({})
});
export type Jack = z.infer<typeof jackSchema>;

/** A button of a page: what it does on a short and on a long press; empty where nothing. */
const buttonSchema = z.object({ id, name, short: words(80), long: words(80) });
const pageSchema = z.object({
	id,
	name,
	buttons: z.array(buttonSchema).max(24).default([]),
	/** Another page whose buttons it shows, whatever that one has. */
	follows: id.nullable().default(null)
});

export const boxSchema = z.object({
	id,
	name,
	/** The device of Gear that it is, if any. */
	device: z.string().max(120).nullable().default(null),
	jacks: z.array(jackSchema).max(24).default([]),
	/** Numbered control slots that presets can read. */
	slots: z.number().int().min(0).max(64).default(0),
	pages: z.array(pageSchema).max(40).default([]),
	/** Switches that no page has: on a jack, or on the box. */
	spares: z.array(z.object({ id, name })).max(24).default([]),
	/** Each spare can stand in for one button of one page, whatever page is showing. */
	deputies: z
		.array(z.object({ spare: id, page: id, button: id }))
		.max(48)
		.default([]),
	/** Where else in its menus a thing is set, in the box’s own words. */
	menus: z
		.array(z.object({ setting: name, path: z.string().trim().min(1).max(120) }))
		.max(60)
		.default([])
});
export type Box = z.infer<typeof boxSchema>;

/** A foot: a switch between two contacts. */
const switchPart = z.object({
	is: z.literal('switch'),
	name: words(30),
	between: z.tuple([contact, contact]).default(['tip', 'sleeve']),
	rest: z.enum(['open', 'closed']).default('open'),
	acts: z.enum(['momentary', 'latching']).default('momentary')
});
/** A pot that a pedal or a knob turns. */
const potPart = z.object({
	is: z.literal('pot'),
	name: words(30),
	/** The end that the wiper reaches at the toe, and the other one. */
	ends: z.tuple([contact, contact]).default(['ring', 'sleeve']),
	wiper: contact.default('tip'),
	/** Between its ends; null where nobody knows. */
	kohm: kilohm.nullable().default(null),
	/** How far along its track the wiper stands at the heel and at the toe, 0–1. */
	heel: z.number().min(0).max(1).default(0),
	toe: z.number().min(0).max(1).default(1),
	taper: z.enum(['even', 'slow', 'fast']).default('even')
});
export const pedalPartSchema = z.discriminatedUnion('is', [switchPart, potPart]);
export type PedalPart = z.infer<typeof pedalPartSchema>;
export type SwitchPart = z.infer<typeof switchPart>;
export type PotPart = z.infer<typeof potPart>;

export const pedalSchema = z.object({
	id,
	name,
	/** A cable of its own that ends in a plug, or a socket that wants one. */
	plug: z.enum(['own-ts', 'own-trs', 'socket-ts', 'socket-trs']),
	parts: z.array(pedalPartSchema).min(1).max(3),
	/** A switch on it exchanges open and closed. */
	flips: z.boolean().default(false),
	/** That switch is set so that open and closed are exchanged. */
	flipped: z.boolean().default(false),
	/** Turned by hand. */
	knob: z.boolean().default(false),
	/** What its bench pedal is like: how far it reaches, how much it wanders, where its track is worn. */
	bench: z
		.object({
			reads: z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]).default([0, 1]),
			noise: z.number().min(0).max(20).default(0),
			holes: z
				.array(z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]))
				.max(8)
				.default([])
		})
		.prefault({}),
	note: words(200)
});
export type Pedal = z.infer<typeof pedalSchema>;

export const CABLE_KINDS = {
	ts: 'TS cable',
	trs: 'TRS cable',
	crossed: 'TRS cable with tip and ring crossed',
	split: 'splitting cable, TRS to two TS'
} as const;
export type CableKind = keyof typeof CABLE_KINDS;
export const footCableSchema = z.object({
	id,
	name,
	kind: z.enum(Object.keys(CABLE_KINDS) as [CableKind, ...CableKind[]])
});
export type FootCable = z.infer<typeof footCableSchema>;

const jackAt = z.object({ box: id, jack: id });
export type JackAt = z.infer<typeof jackAt>;
/** What is plugged together: a jack and a pedal, or two of either at the two ends of a splitting cable. */
export const footLineSchema = z.object({
	id,
	jacks: z.array(jackAt).min(1).max(2),
	/** Null where the pedal has a cable of its own. */
	cable: id.nullable().default(null),
	pedals: z.array(id).min(1).max(2),
	/** What the box sends for it, where that is known: a controller and its channel. */
	sends: z
		.object({ controller: z.number().int().min(0).max(119), channel: z.number().int().min(1).max(16) })
		.nullable()
		.default(null)
});
export type FootLine = z.infer<typeof footLineSchema>;

/** How a travel of 0–1 becomes a share of the range: by a shape, or by points of one’s own between its ends. */
export const responseSchema = z.discriminatedUnion('shape', [
	z.object({ shape: z.enum(['even', 'slow start', 'fast start']) }),
	z.object({
		shape: z.literal('own points'),
		points: z
			.array(z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]))
			.min(1)
			.max(16)
	})
]);
export type Response = z.infer<typeof responseSchema>;

const value = z.number().int().min(0).max(127);
/** What a pedal was found to send, as values of its controller. */
export const calibrationSchema = z.object({
	line: id,
	/** Which controller it was, and on which channel. */
	controller: value,
	channel: z.number().int().min(1).max(16),
	at: z.string().max(40),
	/** Where it was heard: a bench pedal is not the pedal on the floor. */
	world: z.enum(['bench', 'hardware', 'file']),
	heel: z.number().min(0).max(127),
	toe: z.number().min(0).max(127),
	/** Everything at or beyond these is the end. */
	deadHeel: value,
	deadToe: value,
	/** How many values it wanders over at rest, at most. */
	noise: z.number().int().min(1).max(128),
	/** Stretches that it leapt over each time. */
	worn: z
		.array(z.object({ from: value, to: value, times: z.number().int().min(1) }))
		.max(32)
		.default([])
});
export type KeptCalibration = z.infer<typeof calibrationSchema>;

/** What a preset’s parameter does with a pedal. */
export const readingSchema = z.object({
	parameter: name,
	unit: words(12),
	/** A numbered slot of the box, or a jack of it named outright. */
	from: z.union([z.object({ slot: z.number().int().min(1).max(64) }), z.object({ jack: id })]),
	/** In the parameter’s own unit, at heel and toe. */
	least: z.number(),
	most: z.number(),
	response: responseSchema.default({ shape: 'even' }),
	/** The effect engages by itself when the pedal is moved, and rests when it stands still at the heel. */
	engages: z
		.object({
			/** Share of the travel that must be passed, 0–1. */
			above: z.number().min(0).max(1),
			/** Time above it before it engages, and below it before it lets go. */
			waitMs: z.number().int().min(0).max(10_000),
			releaseMs: z.number().int().min(0).max(60_000)
		})
		.nullable()
		.default(null)
});
export type Reading = z.infer<typeof readingSchema>;

export const footPresetSchema = z.object({
	id,
	box: id,
	name,
	reads: z.array(readingSchema).max(24).default([])
});
export type FootPreset = z.infer<typeof footPresetSchema>;

/** A pedal that feeds a numbered slot of a box. */
const feedSchema = z.object({ box: id, slot: z.number().int().min(1).max(64), line: id });

/** Everything that is on the floor: boxes with their jacks, pedals, cables, and what is plugged in to what. */
export const floorSchema = z
	.object({
		format: z.literal('silent-drawer.floor').default('silent-drawer.floor'),
		version: z.literal(1).default(1),
		boxes: z.array(boxSchema).max(60).default([]),
		pedals: z.array(pedalSchema).max(120).default([]),
		cables: z.array(footCableSchema).max(200).default([]),
		lines: z.array(footLineSchema).max(120).default([]),
		calibrations: z.array(calibrationSchema).max(120).default([]),
		feeds: z.array(feedSchema).max(200).default([]),
		presets: z.array(footPresetSchema).max(1000).default([])
	})
	.superRefine((floor, context) => {
		const twice = (what: string, things: readonly { id: string }[]) => {
			const ids = things.map(({ id: each }) => each);
			const again = ids.find((each, i) => ids.indexOf(each) !== i);
			if (again !== undefined)
				context.addIssue({ code: 'custom', message: `Two ${what} are called “${again}”.` });
		};
		twice('boxes', floor.boxes);
		twice('pedals', floor.pedals);
		twice('cables', floor.cables);
		twice('lines', floor.lines);
		twice('presets', floor.presets);
		for (const box of floor.boxes) {
			twice(`jacks of ${box.name}`, box.jacks);
			twice(`pages of ${box.name}`, box.pages);
			twice(`spare switches of ${box.name}`, box.spares);
			for (const page of box.pages) twice(`buttons of ${page.name}`, page.buttons);
			for (const jack of box.jacks) twice(`modes of ${jack.name}`, jack.modes);
		}
		// Jacks of two boxes do not share a ground.
		for (const { id: line, jacks } of floor.lines)
			if (new Set(jacks.map(({ box }) => box)).size > 1)
				context.addIssue({ code: 'custom', message: `The line “${line}” joins jacks of two boxes.` });
	});
export type Floor = z.infer<typeof floorSchema>;

/** How a jack is set today. */
export const modeOf = (jack: Jack): JackMode =>
	jack.modes.find((mode) => mode.id === jack.set.mode) ?? jack.modes[0];

export const jackOf = (floor: Floor, at: JackAt): { box: Box; jack: Jack } | null => {
	const box = floor.boxes.find((each) => each.id === at.box);
	const jack = box?.jacks.find((each) => each.id === at.jack);
	return box && jack ? { box, jack } : null;
};
