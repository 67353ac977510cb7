import { z } from 'zod';
import { liveWorldSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { controllerMemory, preparePage, sendPageSchema } from '$lib/server/controllers';

const askedSchema = z.object({
	page: z.coerce.number().int().min(1).max(128),
	world: liveWorldSchema.optional(),
	device: z.string().max(60).optional(),
	slot: z.coerce.number().int().min(0).max(1023).optional()
});

export const GET = ({ locals, params, url }) =>
	answer(() => {
		const { world = locals.studio.world, ...asked } = askedSchema.parse(Object.fromEntries(url.searchParams));
		return controllerMemory(locals.studio, params.id, { ...asked, world });
	});

export const POST = (event) =>
	answer(async () => preparePage(event.locals.studio, event.params.id, await body(event, sendPageSchema)));
