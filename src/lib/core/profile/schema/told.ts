import { z } from 'zod';
import { id, milliseconds, sentence } from './common';
import { meaning, when } from './record';

const seven = z.number().int().min(0).max(127);

/** What says a value: a controller (0 and 32 are the bank of the program change behind them), a (non-)registered parameter by the two halves of its number, or the program change. */
const by = z.union([
	z.strictObject({ cc: z.number().int().min(0).max(119) }),
	z.strictObject({ nrpn: z.tuple([seven, seven]) }),
	z.strictObject({ rpn: z.tuple([seven, seven]) }),
	z.strictObject({ program: z.literal(true) })
]);

/** An area that no dump holds: the device tells each of its values as a channel message, and takes it as one. */
export const told = z.strictObject({
	/** The message that has it tell all of them; left out where a hand has to. */
	ask: id.optional(),
	/** What the musician does at the panel so that it tells them. */
	instruction: sentence.optional(),
	waitMs: milliseconds.default(120_000),
	/** Silence after which it counts as unanswered, or as all. */
	timeoutMs: milliseconds.default(700),
	/** Rest after each value that it is sent. */
	gapMs: milliseconds.default(5),
	/** What of its state it never tells, in words. */
	untold: sentence.optional(),
	/** Spelled out as a record, its messages and ways when the profile is read. */
	values: z
		.array(
			z.strictObject({
				id,
				...meaning,
				by,
				/** Bits of the value: 14 where both halves of a data entry are told. */
				bits: z.union([z.literal(7), z.literal(14)]).default(7),
				when
			})
		)
		.min(1)
		.max(512)
		.optional()
});

export type Told = z.infer<typeof told>;
export type ToldValue = NonNullable<Told['values']>[number];
