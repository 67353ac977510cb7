import { z } from 'zod';

/** What somebody says of a sound: it stays with this very content, wherever it is. */
export const soundMarkSchema = z.strictObject({
	favourite: z.boolean(),
	category: z.string().trim().max(30)
});
export type SoundMark = z.infer<typeof soundMarkSchema>;

export const UNMARKED: SoundMark = { favourite: false, category: '' };
