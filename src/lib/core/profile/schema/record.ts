import { z } from 'zod';
import { address, count, id } from './common';

export const charset = z.strictObject({
	/** The code that stands for the first character. */
	first: z.number().int().min(0).max(65535),
	characters: z.string().min(1).max(4096),
	/** Further tables: `code` changes to one for the next character, or, where there is a code `back`, until that comes. */
	shifts: z
		.array(
			z.strictObject({
				code: z.number().int().min(0).max(65535),
				back: z.number().int().min(0).max(65535).optional(),
				first: z.number().int().min(0).max(65535),
				characters: z.string().min(1).max(4096)
			})
		)
		.min(1)
		.max(16)
		.optional()
});

/** So many parameters and texts a record has at most, all rows spelled out. */
export const MOST_FIELDS = 20_000;

/** The same again for each of a row of the record, or of rows within rows, the outer one first. Spelled out when it is read. */
const each = z.union([id, z.array(id).min(1).max(3)]).optional();

const shownText = z.string().min(1).max(24);
const whole = z.number().int();

/** What a value means: its name, what of it is used, and how the panel shows it. */
export const meaning = {
	name: z.string().min(1).max(60),
	/** Values that the device uses. */
	range: z.tuple([whole, whole]),
	/** What the panel shows for the ends of the range; between them it counts evenly, or along `curve`. */
	shows: z.tuple([z.number(), z.number()]).optional(),
	/** `exponential`: each step multiplies what is shown. `logarithmic`: what is shown counts evenly as the value multiplies. */
	curve: z.enum(['exponential', 'logarithmic']).optional(),
	/** What is shown at some values, ascending; between two of them it counts evenly. */
	points: z
		.array(z.tuple([whole, z.number()]))
		.min(2)
		.max(1024)
		.optional(),
	decimals: z.number().int().min(0).max(3).default(0),
	unit: z.string().max(8).default(''),
	/** Names of the values, from the first of the range. */
	values: z.array(shownText).optional(),
	/** Names of some values, where the others are numbers. */
	named: z
		.array(z.strictObject({ at: whole, as: shownText }))
		.min(1)
		.max(256)
		.optional(),
	/** Names of its bits, the lowest first: those that are set are shown. */
	flags: z.array(shownText).min(1).max(16).optional()
};

/** How a number is written in its bits, where it is not simply counted. */
export const CODES = ['twos-complement', 'sign-bit', 'offset', 'bcd', 'reversed'] as const;

/** What it means instead while another parameter of the record has one of these values. */
export const when = z
	.strictObject({
		parameter: id,
		cases: z
			.array(z.strictObject({ ...meaning, is: z.array(whole).min(1).max(256) }))
			.min(1)
			.max(256)
	})
	.optional();

const parameter = z.strictObject({
	id,
	...meaning,
	/** Byte in the record. */
	offset: z.number().int().min(0),
	/** Lowest bit in that byte. */
	bit: z.number().int().min(0).max(7).default(0),
	/** Width in bits; more than the byte holds goes on in the next byte. */
	bits: z.number().int().min(1).max(16).default(7),
	/** Bits of a wide value in each byte, where it does not fill them: 7, or 4 for nibbles; `bit` is the lowest in each. */
	digits: z.union([z.literal(7), z.literal(4)]).optional(),
	/** Which byte of a wide parameter comes first. */
	order: z.enum(['high-first', 'low-first']).default('high-first'),
	/** `offset`: half of what fits is nought. `reversed`: the last of the range is written as the first. */
	coded: z.enum(CODES).optional(),
	when,
	each
});

/** A text of fixed length. */
const textField = {
	offset: z.number().int().min(0),
	length: count.max(64),
	/** `ascii`, or one of the profile's charsets. */
	charset: z.string().default('ascii'),
	/** The character that fills a short one. */
	fill: z.string().length(1).default(' '),
	/** Bits of a character's code: 8 where none are named; 6 in one row of bits; two bytes; or a byte as two nibbles. */
	bitsEach: z.union([z.literal(6), z.literal(16), z.literal('nibbles')]).optional(),
	order: z.enum(['high-first', 'low-first']).optional(),
	/** Where its last characters stand, if that is elsewhere. */
	then: z
		.array(z.strictObject({ offset: z.number().int().min(0), length: count.max(64) }))
		.min(1)
		.max(8)
		.optional()
};
const text = z.strictObject({ id, name: z.string().min(1).max(60), ...textField, each });

export const record = z.strictObject({
	/** Bytes in the device's memory, before packing. */
	size: count.max(65536),
	/**
	 * What it is made of, end to end: what travels in messages of its own, or lies at addresses of its own. Left out where a
	 * record always comes in one piece.
	 */
	sections: z
		.array(
			z.strictObject({
				id,
				name: z.string().min(1).max(40),
				size: count.max(65536),
				/** So many alike, one after another. */
				times: z.number().int().min(2).max(128).optional(),
				/** Where it begins in addressed memory, counted from where the slot does; the next of several alike `every` so far on. */
				address: address.optional(),
				every: address.optional()
			})
		)
		.min(1)
		.max(256)
		.optional(),
	name: z.strictObject(textField).optional(),
	parameters: z.array(parameter).default([]),
	/** Texts besides the name. */
	texts: z.array(text).default([]),
	/** Slots of another area, or of its own, that it plays: a performance its programs, a song its patterns. */
	references: z
		.array(
			z.strictObject({
				id,
				name: z.string().min(1).max(60),
				/** The area whose slots it names. */
				to: id,
				/** The parameter that names the slot. */
				number: id,
				/** The value of `number` that names the first slot: its lowest, where nothing is said. Below it nothing is named. */
				base: z.number().int().optional(),
				/** The parameter that names the bank, where there are several, and how many slots each has. */
				bank: id.optional(),
				perBank: count.max(1024).optional(),
				/** Values of `number` that name nothing. */
				none: z.array(z.number().int()).min(1).max(256).optional(),
				each
			})
		)
		.min(1)
		.max(1024)
		.optional(),
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

export type Charset = z.infer<typeof charset>;
export type ProfileRecord = z.infer<typeof record>;
export type ProfileParameter = z.infer<typeof parameter>;
/** How a value is written in its bits. */
export type ValueCode = (typeof CODES)[number];
export type ProfileText = z.infer<typeof text>;
export type ProfileReference = NonNullable<ProfileRecord['references']>[number];
