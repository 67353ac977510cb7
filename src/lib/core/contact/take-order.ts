import { z } from 'zod';
import { presentPortSchema } from '../gear';

const id = z.string().min(1).max(300);
/** One thing that is taken into the catalogue where it was found. */
const takeItemSchema = z.object({
	/** Ids of the computer's ports that reach it and that it comes in at; null where that is not known. */
	out: id.nullable(),
	in: id.nullable(),
	/** The bench unit that it is, instead of ports. */
	unit: z.string().max(60).nullable().default(null),
	/** The device of the catalogue that it is; a new one where null. */
	device: z.string().max(60).nullable(),
	name: z.string().trim().max(60).default(''),
	profileId: z.string().max(60).nullable(),
	/** As on the wire, where it was heard. */
	deviceId: z.number().int().min(0).max(126).nullable(),
	/** Whether it answered an identity request there. */
	answered: z.boolean().default(false),
	firmware: z.string().max(30).nullable().default(null)
});

export const takeSchema = z.object({
	/** The computer's ports as they are now. */
	present: z.array(presentPortSchema).max(512),
	items: z.array(takeItemSchema).max(128),
	/** Names of groups of ports that are taken as interfaces, whoever hangs on them. */
	interfaces: z.array(z.string().max(200)).max(64).default([])
});
export type TakeOrder = z.infer<typeof takeSchema>;
export type TakeItem = TakeOrder['items'][number];
