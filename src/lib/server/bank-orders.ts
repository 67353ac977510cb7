import { z } from 'zod';
import { bankDocumentSchema, bankEntrySchema } from '../core/drawer';

/** A new bank: empty or given, or begun from what a version holds. */
export const newBankSchema = z.discriminatedUnion('from', [
	z.strictObject({
		from: z.literal('document'),
		deviceId: z.string(),
		document: bankDocumentSchema,
		baseVersionId: z.string().nullable().default(null)
	}),
	z.strictObject({
		from: z.literal('version'),
		versionId: z.string(),
		area: z.string(),
		title: z.string().trim().min(1).max(80)
	})
]);

export const saveBankSchema = z.strictObject({ revision: z.number().int(), document: bankDocumentSchema });

/** Sounds for the first free slots of a bank. */
export const addToBankSchema = z.strictObject({
	sounds: z
		.array(bankEntrySchema.pick({ record: true, from: true }))
		.min(1)
		.max(1024)
});

export const mergeSchema = z.strictObject({
	revision: z.number().int(),
	/** What the device was shown to hold when the choices were made. */
	deviceState: z.string(),
	choices: z
		.array(
			z.strictObject({
				index: z.number().int().min(0),
				choice: z.enum(['device', 'drawer', 'base', 'combined'])
			})
		)
		.max(1024)
});
