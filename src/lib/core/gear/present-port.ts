import { z } from 'zod';

/** A port as the browser names it. Its id changes when the computer starts anew, on some systems with every plug. */
export const presentPortSchema = z.object({
	id: z.string().max(300),
	name: z.string().max(200),
	manufacturer: z.string().max(200),
	direction: z.enum(['in', 'out'])
});
export type PresentPort = z.infer<typeof presentPortSchema>;

/** A port of an interface in the catalogue (as the rig names it), with the browser port that it was the last time. */
export const rememberedPortSchema = presentPortSchema.extend({ key: z.string().min(1).max(120) });
export type RememberedPort = z.infer<typeof rememberedPortSchema>;
