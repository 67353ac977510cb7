import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { previewCatalogue } from '$lib/server/catalogue';

export const POST = (event) =>
	answer(async () =>
		previewCatalogue(
			event.locals.studio,
			(await body(event, z.object({ text: z.string().max(5_000_000) }))).text
		)
	);
