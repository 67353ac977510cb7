import { z } from 'zod';
import { scopeSchema } from '../transfer';

/** A slot and the content (SHA-256 of the record) that it shall hold. */
export interface WantedSlot {
	area: string;
	index: number;
	record: string;
	/** The content that it was thought to hold: where it holds another one, nothing is written. */
	over?: string;
	/** It is written though the slot holds it already: to try whether the profile writes right. */
	rewrite?: true;
}

/**
 * `keep`: whatever names a slot that is moved is pointed to its new place in the same restore; `bring`: and sounds that
 * it plays and the device has nowhere come along, into places whose sound the device has twice.
 */
export const linksSchema = z.enum(['keep', 'bring']).optional();
const links = linksSchema;

/** Where the content of a restore comes from. */
export const sourceSchema = z.discriminatedUnion('from', [
	z.strictObject({
		from: z.literal('version'),
		versionId: z.string(),
		scope: scopeSchema.default({ kind: 'all' }),
		links
	}),
	z.strictObject({ from: z.literal('bank'), bankId: z.string(), links }),
	/** Sounds by their content, each to a slot of its own choice. */
	z.strictObject({
		from: z.literal('sounds'),
		sounds: z
			.array(
				z.strictObject({
					area: z.string(),
					index: z.number().int().min(0),
					record: z.string(),
					name: z.string().max(64).optional(),
					over: z.string().optional(),
					rewrite: z.literal(true).optional(),
					/** The version that it is out of: what it names is meant as it was there. */
					of: z.string().optional()
				})
			)
			.min(1)
			.max(2048),
		links
	})
]);

export type RestoreSource = z.infer<typeof sourceSchema>;
