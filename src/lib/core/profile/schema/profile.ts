import { z } from 'zod';
import { firmwareWaysSchema } from '../firmware';
import { targetSchema } from '../targets';
import { about, report } from './about';
import { area } from './area';
import { count, hexBytes, id } from './common';
import { message } from './message';
import { charset, record } from './record';
import { surface } from './surface';
import { variant } from './variant';
import { captureWay, check, restoreWay } from './ways';

/**
 * A device profile: how one model speaks, as data. Lengths are bytes, times milliseconds, slot numbers count from 0
 * (labels are what people see), device IDs are wire values (0–127) shown with `panelAdd` added.
 */
export const profileShape = z.strictObject({
	format: z.literal('silent-drawer.profile'),
	version: z.union([z.literal(1), z.literal(2)]),
	id,
	/** Counts up whenever the profile changes; every stored dump remembers the revision that read it. */
	revision: count,
	maker: z.string().min(1).max(60),
	model: z.string().min(1).max(60),
	kind: z.string().min(1).max(40),
	remarks: z.string().max(2000).default(''),
	about: about.optional(),
	/** What it was tried on, the newest last. */
	tried: z.array(report).max(50).optional(),
	identity: z.strictObject({
		manufacturer: hexBytes,
		family: hexBytes,
		member: hexBytes,
		/** Whether it answers an identity request. */
		answers: z.boolean()
	}),
	/** Which of several that its model comes as it is for. */
	variant: variant.optional(),
	addressing: z.strictObject({
		deviceId: z
			.strictObject({
				range: z.tuple([z.number().int().min(0).max(126), z.number().int().min(0).max(126)]),
				default: z.number().int().min(0).max(126),
				panelAdd: z.number().int().min(0).max(1).default(0)
			})
			.optional()
	}),
	charsets: z.record(id, charset).default({}),
	areas: z.array(area).min(1),
	records: z.record(id, record),
	messages: z.record(id, message),
	capture: z.array(captureWay).default([]),
	restore: z.array(restoreWay).default([]),
	preflight: z.strictObject({ capture: z.array(check).default([]), restore: z.array(check).default([]) }),
	/** Settings or content that the device loses at power-off. */
	battery: z.string().max(200).optional(),
	surface: surface.optional(),
	/** How it takes a new system; left out where the app does not know. */
	firmware: firmwareWaysSchema.optional(),
	/** What it can be told while it plays, for controllers. */
	targets: z.array(targetSchema).max(4000).optional()
});

export type Profile = z.infer<typeof profileShape>;
