import { z } from 'zod';

/**
 * What an instrument says of itself, resource by resource (M2-103 to M2-112), as far as it is used here. What else stands in
 * an answer is passed over.
 */
const title = z.string().max(400);
const seven = z.number().int().min(0).max(127);
const byteIds = (length: number) => z.array(seven).length(length);
const resourceId = z.string().min(1).max(64);

export const headerSchema = z.looseObject({
	status: z.number().int().optional(),
	message: z.string().max(2000).optional(),
	mutualEncoding: z.string().max(60).optional(),
	mediaType: z.string().max(200).optional(),
	totalCount: z.number().int().min(0).optional(),
	/** What answers a subscription, and goes with everything that is said of it. */
	subscribeId: z.string().max(64).optional(),
	command: z.string().max(40).optional()
});
export type ReplyHeader = z.infer<typeof headerSchema>;

export const resourceListSchema = z
	.array(
		z.looseObject({
			resource: z.string().min(1).max(64),
			canGet: z.boolean().default(true),
			canSet: z.enum(['none', 'full', 'partial']).default('none'),
			canSubscribe: z.boolean().default(false),
			canPaginate: z.boolean().default(false),
			encodings: z.array(z.string().max(60)).default(['ASCII'])
		})
	)
	.max(512);
export type ResourceList = z.infer<typeof resourceListSchema>;

export const deviceInfoSchema = z.looseObject({
	manufacturerId: byteIds(3),
	familyId: byteIds(2),
	modelId: byteIds(2),
	versionId: byteIds(4),
	manufacturer: title,
	family: title,
	model: title,
	version: title,
	serialNumber: title.optional()
});
export type DeviceInfo = z.infer<typeof deviceInfoSchema>;

const link = z.looseObject({ resource: z.string().max(64), resId: resourceId.optional() });

export const channelListSchema = z
	.array(
		z.looseObject({
			title,
			channel: z.number().int().min(1).max(256),
			links: z.array(link).max(64).default([])
		})
	)
	.max(256);

export const programListSchema = z
	.array(
		z.looseObject({
			title,
			/** Bank select, controllers 0 and 32, and the program change. */
			bankPC: byteIds(3).optional(),
			links: z.array(link).max(64).default([])
		})
	)
	.max(4096);
export type ProgramList = z.infer<typeof programListSchema>;

export const stateListSchema = z
	.array(
		z.looseObject({
			title,
			stateId: resourceId,
			/** In bytes. */
			size: z.number().int().min(0).max(4_000_000).optional()
		})
	)
	.max(4096);
export type StateList = z.infer<typeof stateListSchema>;
