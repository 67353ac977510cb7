import { z } from 'zod';

/** The two fields that a device with a profile takes. */
export const quickSchema = z.object({
	name: z.string().trim().min(1, 'Give the device a name.').max(60, 'Keep the name within 60 characters.'),
	profileId: z.string().min(1, 'Choose its model.')
});
