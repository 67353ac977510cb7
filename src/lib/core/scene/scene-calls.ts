import { z } from 'zod';

/** How program changes that come in call scenes by their numbers. */
export const sceneCallsSchema = z.object({
	channel: z.number().int().min(1).max(16),
	/** The scene that program 0 on the wire calls: panels count from 0 or from 1. */
	first: z.union([z.literal(0), z.literal(1)]).default(1)
});
export type SceneCalls = z.infer<typeof sceneCallsSchema>;

/** The number of the scene that a message calls; null where it calls none. */
export const sceneCalled = (bytes: Uint8Array, { channel, first }: SceneCalls): number | null =>
	bytes.length === 2 && bytes[0] === 0xbf + channel ? bytes[1] + first : null;
