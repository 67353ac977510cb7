import { z } from 'zod';
import { CHECKSUM_IDS, PACKING_IDS } from '../../sysex';
import { count, hexBytes, id } from './common';

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

export const message = z.strictObject({ title: z.string().min(1).max(60), parts: z.array(part).min(2) });

export type MessagePart = z.infer<typeof part>;
