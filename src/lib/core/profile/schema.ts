import { z } from 'zod';
import { firmwareWaysSchema } from './firmware';
import { targetSchema } from './targets';
import { CHECKSUM_IDS, PACKING_IDS } from '../sysex';

const id = z
	.string()
	.regex(/^[a-z][a-z0-9-]*$/, 'use lower-case letters, digits and hyphens, a letter first');
const hexBytes = z
	.string()
	.regex(
		/^[0-9A-Fa-f]{2}( [0-9A-Fa-f]{2})*$/,
		'write bytes as pairs of hexadecimal digits with one space between, such as “F0 7D 21”'
	);
const count = z.number().int().min(1);
const sentence = z.string().min(1).max(300);
const milliseconds = z.number().min(0).max(600_000);

/** How slots are numbered on the device's own panel. */
const slotLabels = z.discriminatedUnion('style', [
	z.strictObject({
		style: z.literal('number'),
		/** The number of the first slot, usually 0 or 1. */
		first: z.number().int().min(0).default(1),
		/** Digits, filled with zeros. */
		digits: z.number().int().min(1).max(4).default(1),
		prefix: z.string().max(4).default('')
	}),
	z.strictObject({
		style: z.literal('grid'),
		/** One list of signs for each place; the last place counts fastest. */
		places: z
			.array(z.array(z.string().min(1).max(3)).min(1))
			.min(1)
			.max(4)
	}),
	z.strictObject({ style: z.literal('list'), labels: z.array(z.string().min(1).max(12)).min(1) })
]);

const area = z.strictObject({
	id,
	name: z.string().min(1).max(40),
	/** What the panel calls one slot: program, kit, preset … */
	slotWord: z.string().min(1).max(20).default('program'),
	slots: count.max(1024),
	labels: slotLabels.default({ style: 'number', first: 1, digits: 1, prefix: '' }),
	record: id,
	/** How slots are selected from outside: from each of these slots on, a bank select (where given) and program changes that count up. */
	recall: z
		.array(
			z.strictObject({
				/** Its first slot, from 0. */
				from: z.number().int().min(0),
				/** The program change of that slot, as on the wire. */
				program: z.number().int().min(0).max(127).default(0),
				/** Bank select, controller 0 and controller 32, as far as the device wants them. */
				msb: z.number().int().min(0).max(127).optional(),
				lsb: z.number().int().min(0).max(127).optional()
			})
		)
		.min(1)
		.optional(),
	/** The message that puts a record where it can be played and is not stored. */
	editBuffer: z.strictObject({ send: id }).optional(),
	/** How it is asked which slot it plays: the question, and the answer, which names the slot. */
	playing: z.strictObject({ ask: id, says: id, timeoutMs: milliseconds.default(700) }).optional(),
	/** Its dumps name no slot: each is of the slot that the panel stands at. */
	panel: z
		.strictObject({
			/** What asks where the panel stands. */
			ask: id,
			/** What it answers: the message names the slot. It is kept with each dump, before it. */
			says: id,
			/** What calls a slot up from outside; left out where only a hand can. */
			select: id.optional(),
			/** Rest after a slot was called up. */
			settleMs: milliseconds.default(0),
			/** Silence after which the question counts as unanswered. */
			timeoutMs: milliseconds.default(1000),
			/** How long a hand may take to call a slot up. */
			waitMs: milliseconds.default(120_000)
		})
		.optional()
});

const charset = z.strictObject({
	/** The byte that stands for the first character. */
	first: z.number().int().min(0).max(255),
	characters: z.string().min(1).max(256)
});

/** So many parameters and texts a record has at most, all rows spelled out. */
export const MOST_FIELDS = 20_000;

/** The same again for each of a row of the record, or of rows within rows, the outer one first. Spelled out when it is read. */
const each = z.union([id, z.array(id).min(1).max(3)]).optional();

const parameter = z.strictObject({
	id,
	name: z.string().min(1).max(60),
	/** Byte in the record. */
	offset: z.number().int().min(0),
	/** Lowest bit in that byte. */
	bit: z.number().int().min(0).max(7).default(0),
	/** Width in bits; more than the byte holds goes on in the next byte. */
	bits: z.number().int().min(1).max(16).default(7),
	/** Which byte of a wide parameter comes first. */
	order: z.enum(['high-first', 'low-first']).default('high-first'),
	/** Raw values that the device uses. */
	range: z.tuple([z.number().int().min(0), z.number().int().min(0)]),
	/** What the panel shows for the ends of the range; between them it counts evenly. */
	shows: z.tuple([z.number(), z.number()]).optional(),
	decimals: z.number().int().min(0).max(3).default(0),
	unit: z.string().max(8).default(''),
	/** Names of the raw values, from the first of the range. */
	values: z.array(z.string().min(1).max(24)).optional(),
	each
});

/** A text of fixed length. */
const textField = {
	offset: z.number().int().min(0),
	length: count.max(64),
	/** `ascii`, or one of the profile's charsets. */
	charset: z.string().default('ascii'),
	/** The character that fills a short one. */
	fill: z.string().length(1).default(' ')
};
const text = z.strictObject({ id, name: z.string().min(1).max(60), ...textField, each });

const record = z.strictObject({
	/** Bytes in the device's memory, before packing. */
	size: count.max(65536),
	name: z.strictObject(textField).optional(),
	parameters: z.array(parameter).default([]),
	/** Texts besides the name. */
	texts: z.array(text).default([]),
	/** Things of one kind that follow each other every `stride` bytes; ids and names of their parameters begin with theirs. */
	rows: z
		.record(
			id,
			z.strictObject({
				stride: count,
				of: z
					.array(z.strictObject({ id, name: z.string().min(1).max(24) }))
					.min(1)
					.max(1000)
			})
		)
		.optional(),
	/** The parameter with named values that says what kind of sound it is. */
	category: id.optional()
});

const partName = id.optional();
const part = z.discriminatedUnion('part', [
	z.strictObject({ part: z.literal('bytes'), name: partName, bytes: hexBytes }),
	z.strictObject({
		part: z.literal('variable'),
		name: partName,
		variable: z.enum(['deviceId', 'channel', 'slot']),
		/** 7-bit bytes that it takes, high byte first. */
		width: z.union([z.literal(1), z.literal(2)]).default(1),
		/** The wire carries value ÷ divide + add. */
		add: z.number().int().min(0).max(16383).default(0),
		divide: z.number().int().min(1).max(1024).default(1)
	}),
	z.strictObject({
		part: z.literal('body'),
		name: partName,
		area: id,
		/** Records of consecutive slots that the body holds. */
		records: count.max(1024),
		packing: z.enum(PACKING_IDS)
	}),
	z.strictObject({
		part: z.literal('checksum'),
		name: partName,
		checksum: z.enum(CHECKSUM_IDS),
		/** First and last part that it covers, by name. */
		from: id,
		to: id
	})
]);

const message = z.strictObject({ title: z.string().min(1).max(60), parts: z.array(part).min(2) });

const captureWay = z.strictObject({
	area: id,
	start: z.discriminatedUnion('by', [
		z.strictObject({ by: z.literal('request'), send: id }),
		z.strictObject({
			by: z.literal('panel'),
			/** What the musician does on the device, once the app listens. */
			instruction: sentence,
			waitMs: milliseconds.default(120_000)
		})
	]),
	expect: id,
	/** Silence after which a request counts as unanswered. */
	timeoutMs: milliseconds.default(1500),
	/** Silence after which a panel-started dump counts as ended. */
	quietMs: milliseconds.default(1000),
	retries: z.number().int().min(0).max(10).default(2),
	/** Rest between one message and the next request. */
	gapMs: milliseconds.default(0),
	/** What the device wants to hear after each message. */
	confirm: z.strictObject({ good: id, bad: id }).optional()
});

const restoreWay = z.strictObject({
	area: id,
	send: id,
	/** Rest after each message, while the device writes its memory. */
	gapMs: milliseconds.default(0),
	/** Long messages go out in pieces with a rest between them. */
	chunk: z.strictObject({ bytes: count, gapMs: milliseconds }).optional(),
	timeoutMs: milliseconds.default(2000),
	retries: z.number().int().min(0).max(10).default(2),
	/** What the device answers to a write, if it answers. */
	replies: z
		.strictObject({ accepted: id, rejected: id, busy: id.optional(), locked: id.optional() })
		.optional()
});

const check = z.strictObject({
	id,
	/** What the device's panel must show, or what must be done on it. */
	says: sentence,
	/** Forgotten at power-off, so it is asked every time. */
	forgets: z.boolean().default(false),
	/** What the panel is set back to when the transfer is over. */
	after: sentence.optional()
});

/** What a cell of a controller's template can tell, and how: as maps call it. */
export const CELL_KINDS = [
	'off',
	'cc',
	'cc-14',
	'rpn',
	'nrpn',
	'note',
	'program-change',
	'pitch-bend',
	'channel-pressure',
	/** Nothing is sent while it is held. */
	'rest'
] as const;
export const CELL_WAYS = [
	'absolute',
	'relative twos-complement',
	'relative sign-bit',
	'relative offset-64',
	'momentary',
	'toggle',
	'value'
] as const;
/** Fields of a cell: parameters whose ids are the cell's, a hyphen, and one of these. */
export const CELL_FIELDS = ['kind', 'way', 'channel', 'number', 'low', 'high'] as const;

/** A controller's templates: how the records of an area say what its controls do. */
const surface = z.strictObject({
	/** The body, a `silent-drawer.surface`, by its id. */
	body: z.string().min(1).max(60),
	area: id,
	/** What the raw values of the field `kind` stand for, from the lowest; the same for `way`. */
	kinds: z.array(z.enum(CELL_KINDS)).min(1),
	ways: z.array(z.enum(CELL_WAYS)).min(1),
	/** One for each gesture that a template can say something of. A field `quick` says what a notch counts at its quickest, a text `text` what its display shows. */
	/** The parameter that says for all cells what a notch counts at its quickest, where one setting is for all. */
	quick: id.optional(),
	/**
	 * Where a slot holds all pages at once: what stands before a cell's id, for each of them in their order. Left out, a slot
	 * is one page.
	 */
	pages: z.array(id).min(1).max(128).optional(),
	cells: z
		.array(z.strictObject({ cell: id, control: z.string().min(1).max(60), gesture: z.string().max(20) }))
		.min(1)
		.max(1000)
});

/**
 * A device profile: how one model speaks, as data. Lengths are bytes, times milliseconds, slot numbers count from 0
 * (labels are what people see), device IDs are wire values (0–127) shown with `panelAdd` added.
 */
export const profileShape = z.strictObject({
	format: z.literal('silent-drawer.profile'),
	version: z.literal(1),
	id,
	/** Counts up whenever the profile changes; every stored dump remembers the revision that read it. */
	revision: count,
	maker: z.string().min(1).max(60),
	model: z.string().min(1).max(60),
	kind: z.string().min(1).max(40),
	remarks: z.string().max(2000).default(''),
	identity: z.strictObject({
		manufacturer: hexBytes,
		family: hexBytes,
		member: hexBytes,
		/** Whether it answers an identity request. */
		answers: z.boolean()
	}),
	addressing: z.strictObject({
		deviceId: z
			.strictObject({
				range: z.tuple([z.number().int().min(0).max(126), z.number().int().min(0).max(126)]),
				default: z.number().int().min(0).max(126),
				panelAdd: z.number().int().min(0).max(1).default(0)
			})
			.optional()
	}),
	charsets: z.record(id, charset).default({}),
	areas: z.array(area).min(1),
	records: z.record(id, record),
	messages: z.record(id, message),
	capture: z.array(captureWay).default([]),
	restore: z.array(restoreWay).default([]),
	preflight: z.strictObject({ capture: z.array(check).default([]), restore: z.array(check).default([]) }),
	/** Settings or content that the device loses at power-off. */
	battery: z.string().max(200).optional(),
	surface: surface.optional(),
	/** How it takes a new system; left out where the app does not know. */
	firmware: firmwareWaysSchema.optional(),
	/** What it can be told while it plays, for controllers. */
	targets: z.array(targetSchema).max(4000).optional()
});

export type Profile = z.infer<typeof profileShape>;
export type ProfileArea = z.infer<typeof area>;
export type ProfileRecord = z.infer<typeof record>;
export type ProfileParameter = z.infer<typeof parameter>;
export type ProfileText = z.infer<typeof text>;
export type SurfaceMemory = z.infer<typeof surface>;
export type MessagePart = z.infer<typeof part>;
export type CaptureWay = z.infer<typeof captureWay>;
export type RestoreWay = z.infer<typeof restoreWay>;
export type SlotLabels = z.infer<typeof slotLabels>;
export type Charset = z.infer<typeof charset>;
export type PreflightCheck = z.infer<typeof check>;
