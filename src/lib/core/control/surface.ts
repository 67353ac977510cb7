import { z } from 'zod';
import { DISPLAY_CHARSET_IDS } from './names';
import { CONTROL_KINDS } from './stream';

/** Kinds of things that a hand moves, with whether they have a position of their own. */
export const BODY_KINDS = {
	knob: { title: 'knob with end stops', position: true },
	encoder: { title: 'endless encoder', position: false },
	fader: { title: 'fader', position: true },
	pad: { title: 'pad', position: false },
	button: { title: 'button', position: false },
	strip: { title: 'touch strip', position: true },
	axis: { title: 'axis of a joystick', position: true },
	keys: { title: 'key bed', position: false },
	socket: { title: 'socket for a foot control', position: false }
} as const;
export type BodyKind = keyof typeof BODY_KINDS;

/** What a control with a position does where that and the value of its target are apart. */
export const PICK_UPS = {
	jump: 'the value jumps to where the control stands',
	wait: 'nothing moves until the control has passed the value',
	scale: 'the value goes on from where it is, and meets the control at the end'
} as const;
export type PickUp = keyof typeof PICK_UPS;
export const pickUpSchema = z.enum(Object.keys(PICK_UPS) as [PickUp, ...PickUp[]]);

/** What a hand can do at a control; with shift, the same again. */
export const GESTURES = [
	'move',
	'push',
	'double',
	'long',
	'shift-move',
	'shift-push',
	'shift-double',
	'shift-long'
] as const;
export type Gesture = (typeof GESTURES)[number];

const id = z.string().regex(/^[a-z0-9][a-z0-9.-]{0,59}$/, 'Ids are small letters, digits, dots and hyphens.');
const words = (limit: number) => z.string().max(limit).default('');
const millimetres = z.number().min(0).max(2000);

export const surfacePortSchema = z.object({
	id,
	name: z.string().min(1).max(60),
	connector: z.enum(['din', 'trs-a', 'trs-b', 'usb-device', 'usb-host', 'wireless']),
	/** What speaks on it: what is played, or what talks to the host. */
	use: z.enum(['playing', 'control', 'both']).default('both'),
	/** Some systems do not show it. */
	hidden: z.boolean().default(false)
});

export const surfaceControlSchema = z.object({
	id,
	/** As it is printed beside it, or what the maker calls it. */
	name: z.string().min(1).max(40),
	kind: z.enum(Object.keys(BODY_KINDS) as [BodyKind, ...BodyKind[]]),
	/** Upper left corner and size, in millimetres. */
	x: millimetres,
	y: millimetres,
	width: millimetres.min(1),
	height: millimetres.min(1),
	/** The strip of paper that it stands above; controls of one row share one. */
	row: id,
	gestures: z.array(z.enum(GESTURES)).min(1).default(['move']),
	sends: z.array(z.enum(CONTROL_KINDS)).min(1).default(['absolute']),
	/** On so many channels at a time: mostly one. */
	channels: z.number().int().min(1).max(16).default(1),
	/** Notches in a turn of an encoder. */
	detents: z.number().int().min(1).max(1000).optional(),
	/** Each is what a notch counts when it is turned at its quickest. */
	accelerations: z.array(z.number().min(1).max(100)).default([1]),
	/** What the computer can show at it, and the port on which it is told. */
	shows: z.array(z.enum(['lamp', 'ring', 'bar', 'text', 'motor'])).default([]),
	shownOn: id.optional(),
	/** It speaks on this port; left out, on the first one. */
	port: id.optional()
});

/** `silent-drawer.surface`: a controller's body as data. */
export const surfaceSchema = z.object({
	format: z.literal('silent-drawer.surface'),
	version: z.literal(1),
	id,
	maker: words(60),
	model: z.string().min(1).max(60),
	says: words(400),
	ports: z.array(surfacePortSchema).min(1).max(8),
	controls: z.array(surfaceControlSchema).min(1).max(400),
	/** Null where it has none: what it cannot name goes on the strip. */
	display: z
		.object({
			characters: z.number().int().min(1).max(64),
			charset: z.enum(DISPLAY_CHARSET_IDS),
			/** Characters for the long name; nought where there is none. */
			long: z.number().int().min(0).max(128).default(0),
			/** A name for each control, or for the one that was touched last. */
			names: z.enum(['each', 'last-touched'])
		})
		.nullable()
		.default(null),
	pages: z
		.object({
			/** The maker's word. */
			word: z.enum(['page', 'bank', 'layer', 'setup', 'template']).default('page'),
			count: z.number().int().min(1).max(128),
			/** Presses to any page by its number; null where there is no such key. */
			direct: z.number().int().min(1).max(4).nullable().default(null),
			/** Presses from a page to the next one; null where one cannot step. */
			step: z.number().int().min(1).max(4).nullable().default(1),
			/** The last one is followed by the first. */
			round: z.boolean().default(false)
		})
		.prefault({ count: 1 }),
	/** In plain MIDI, or in a host's protocol, and on which port it then speaks. */
	modes: z
		.array(z.object({ id, name: z.string().min(1).max(60), protocol: z.enum(['midi', 'host']), port: id }))
		.max(16)
		.default([]),
	transport: z.enum(['none', 'machine-control', 'cc', 'host']).default('none'),
	followsClock: z.boolean().default(false),
	/** What its controls with a position do where that and the value are apart; mostly there is no choice. */
	pickUp: z.array(pickUpSchema).min(1).default(['jump']),
	/** One acceleration is for all its encoders. */
	oneAcceleration: z.boolean().default(false),
	/** A push can be set so that nothing is sent while it is held: controls are moved meanwhile, and are not heard. */
	rests: z.boolean().default(false),
	/** What a map needs to get into it. */
	template: z
		.object({ send: z.enum(['none', 'sysex', 'file', 'by-hand']), restart: z.boolean() })
		.prefault({ send: 'by-hand', restart: false }),
	settings: z
		.array(z.object({ name: z.string().min(1).max(60), says: words(200) }))
		.max(40)
		.default([]),
	/** What it does not offer, in words. */
	lacks: z.array(z.string().max(120)).max(20).default([])
});

export type Surface = z.infer<typeof surfaceSchema>;
export type SurfaceControl = z.infer<typeof surfaceControlSchema>;

/** What a control is called; its id where the surface has none of it. */
export const controlName = ({ controls }: Pick<Surface, 'controls'>, id: string): string =>
	controls.find((control) => control.id === id)?.name ?? id;

/** Presses from one page to another, by number or by steps, whichever is fewer; null where there is no way. Pages count from 1. */
export function pressesBetween({ count, direct, step, round }: Surface['pages'], from: number, to: number) {
	if (from === to) return 0;
	const apart = Math.abs(from - to);
	const steps = step === null ? Infinity : step * (round ? Math.min(apart, count - apart) : apart);
	const least = Math.min(steps, direct ?? Infinity);
	return least === Infinity ? null : least;
}

/** The port of a surface with this id; what names none speaks on the first one. */
export const portNamed = ({ ports }: Pick<Surface, 'ports'>, id: string | undefined) =>
	ports.find((port) => port.id === id) ?? ports[0];
