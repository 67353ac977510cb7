import { answer, body } from '$lib/server/answer';
import { importCatalogue, importCatalogueSchema } from '$lib/server/catalogue';

export const POST = (event) =>
	answer(async () => {
		const { text, lines } = await body(event, importCatalogueSchema);
		return { added: await importCatalogue(event.locals.studio, text, lines) };
	}, 201);
