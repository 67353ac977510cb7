import { z } from 'zod';
import { count, id } from './common';

/** The four bytes of an identity reply that say the version, as they are sent. */
const version = z
	.string()
	.regex(/^[0-7][0-9A-F]( [0-7][0-9A-F]){3}$/, 'write the four bytes of the version as in “01 05 00 00”');

/** One of several that a model comes as: by its firmware, or with a card. Each is a profile of its own. */
export const variant = z.strictObject({
	/** What all of them share: the same text in each. */
	of: id,
	/** Which one this is, as a musician would say it. */
	title: z.string().min(1).max(60),
	/** The versions that it is for: from this one on, and before that one. */
	from: version.optional(),
	before: version.optional(),
	/** What it is asked besides, and the answer that says that it is this one: where versions do not tell, as with a card. */
	tells: z.strictObject({ ask: id, says: id, timeoutMs: count.max(10_000).default(700) }).optional(),
	/** What sounds of the others become here, where ids alone do not say it. */
	takes: z
		.array(
			z.strictObject({
				/** The profile of the other variant. */
				from: id,
				/** Areas, and parameters and texts, by their id here: what they are called there. */
				areas: z.record(id, id).optional(),
				fields: z.record(id, id).optional()
			})
		)
		.max(32)
		.optional(),
	/** What parameters are set to that no other variant has: those that are not named get the lowest of their range, or nought. */
	fresh: z.record(id, z.number().int()).optional()
});

export type Variant = z.infer<typeof variant>;
