import { z } from 'zod';
import { CHECKSUM_IDS, PACKING_IDS } from '../../sysex';
import { count, hexBytes, id } from './common';

const partName = id.optional();

/** How a number stands in a message: so many bytes of seven bits (or of four), the highest first unless it says otherwise. */
const onWire = {
	order: z.enum(['high-first', 'low-first']).optional(),
	/** Bits of the number in each byte: 7 where none are named, 4 for nibbles. */
	digits: z.union([z.literal(7), z.literal(4)]).optional()
};
const width = z.number().int().min(1).max(8);

/** What a message can be about; `slot` and `channel` as the app counts them, `address` and `size` in bytes of the device, `total` a checksum over a whole dump. */
export const VARIABLES = [
	'deviceId',
	'channel',
	'slot',
	'part',
	'packet',
	'address',
	'size',
	'total'
] as const;
const variable = z.enum(VARIABLES);

const offset = z.number().int().min(0).max(16383);
const divide = z.number().int().min(1).max(1024);
/** Only what is left over when the value is divided by this: the number within a bank, whose number another part carries. */
const modulo = z.number().int().min(2).max(16384).optional();

/** A checksum by its parts, where none of the named ones is it. */
const checksumRule = z.strictObject({
	by: z.enum(['sum', 'xor', 'crc-16']),
	bits: z.union([z.literal(7), z.literal(8), z.literal(14), z.literal(16)]).optional(),
	start: z.number().int().min(0).max(65535).optional(),
	complement: z.enum(['none', 'ones', 'twos']).optional(),
	polynomial: z.number().int().min(1).max(65535).optional(),
	reflected: z.boolean().optional(),
	last: z.number().int().min(0).max(65535).optional(),
	carried: z.enum(['seven-bit', 'nibbles']).optional(),
	order: z.enum(['high-first', 'low-first']).optional()
});
export const checksum = z.union([z.enum(CHECKSUM_IDS), checksumRule]);

const packing = z.enum(PACKING_IDS);
/** A value that a panel tells in two halves travels as such. */
const carriedAs = z.enum([...PACKING_IDS, 'data-entry']);
/** A checksum behind each record, over the record as it travels. */
const eachSum = checksum.optional();

export const part = z.discriminatedUnion('part', [
	z.strictObject({ part: z.literal('bytes'), name: partName, bytes: hexBytes }),
	/** The status byte of a channel message, on the device’s channel: such a message has no F0 and no F7. */
	z.strictObject({ part: z.literal('status'), name: partName, of: z.enum(['controller', 'program']) }),
	z.strictObject({
		part: z.literal('variable'),
		name: partName,
		variable,
		/** Bytes that it takes. */
		width: width.default(1),
		...onWire,
		/** The wire carries value ÷ divide + add. */
		add: offset.default(0),
		divide: divide.default(1),
		modulo
	}),
	/** One byte that several things share, the highest bits first; they make up seven bits. */
	z.strictObject({
		part: z.literal('bits'),
		name: partName,
		fields: z
			.array(
				z.union([
					z.strictObject({ bits: z.number().int().min(1).max(7), value: z.number().int().min(0).max(127) }),
					z.strictObject({
						bits: z.number().int().min(1).max(7),
						variable,
						add: offset.default(0),
						divide: divide.default(1),
						modulo
					})
				])
			)
			.min(1)
			.max(7)
	}),
	/** How much there is in the message, plus `add`: bytes as they travel of the parts `from` to `to`, bytes of memory, or records. */
	z.strictObject({
		part: z.literal('count'),
		name: partName,
		of: z.enum(['bytes', 'memory', 'records']),
		from: id.optional(),
		to: id.optional(),
		width: width.default(1),
		...onWire,
		add: z.number().int().min(-16384).max(16383).default(0)
	}),
	/** Whole records of slots that follow each other. */
	z.strictObject({
		part: z.literal('body'),
		name: partName,
		area: id,
		/** Records of consecutive slots that the body holds. */
		records: count.max(1024),
		packing,
		eachSum
	}),
	/** One section of a slot's record; which of several like ones, the variable `part` says. */
	z.strictObject({ part: z.literal('section'), name: partName, area: id, section: id, packing: carriedAs }),
	/** One section of the records of slots that follow each other: a table of their names, say. */
	z.strictObject({
		part: z.literal('column'),
		name: partName,
		area: id,
		section: id,
		/** Slots whose section it holds. */
		records: count.max(1024),
		packing
	}),
	/** Memory from the message's `address` on, as much as it holds. */
	z.strictObject({ part: z.literal('memory'), name: partName, packing }),
	/** Packet number so and so of a record, or of a whole area: `bytes` of memory in each, fewer in the last. */
	z.strictObject({
		part: z.literal('stream'),
		name: partName,
		area: id,
		of: z.enum(['slot', 'area']),
		bytes: count.max(65536),
		packing
	}),
	/** The slots whose records the message holds, one after another. */
	z.strictObject({
		part: z.literal('contents'),
		name: partName,
		width: width.default(1),
		...onWire,
		add: offset.default(0)
	}),
	/** The records of the slots that `contents` names, in that order. */
	z.strictObject({ part: z.literal('listed'), name: partName, area: id, packing, eachSum }),
	z.strictObject({
		part: z.literal('checksum'),
		name: partName,
		checksum,
		/** First and last part that it covers, by name. */
		from: id,
		to: id,
		/** Over the bytes as they travel, or over the memory that they carry. */
		over: z.enum(['wire', 'memory']).optional()
	})
]);

export const message = z.strictObject({ title: z.string().min(1).max(60), parts: z.array(part).min(2) });

export type MessagePart = z.infer<typeof part>;
export type PartOf<K extends MessagePart['part']> = Extract<MessagePart, { part: K }>;
/** A part that carries memory. */
export type CarrierPart = PartOf<'body' | 'section' | 'column' | 'memory' | 'stream' | 'listed'>;
export type VariableName = (typeof VARIABLES)[number];
