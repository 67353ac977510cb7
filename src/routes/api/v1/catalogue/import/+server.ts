import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { importCatalogue } from '$lib/server/catalogue';

const order = z.object({
	text: z.string().max(5_000_000),
	lines: z.array(z.number().int().min(2)).min(1, 'Choose at least one row.')
});

export const POST = (event) =>
	answer(async () => {
		const { text, lines } = await body(event, order);
		return { added: await importCatalogue(event.locals.studio, text, lines) };
	}, 201);
