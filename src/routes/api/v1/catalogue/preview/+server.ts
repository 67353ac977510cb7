import { answer, body } from '$lib/server/answer';
import { previewCatalogue, previewCatalogueSchema } from '$lib/server/catalogue';

export const POST = (event) =>
	answer(async () => previewCatalogue(event.locals.studio, (await body(event, previewCatalogueSchema)).text));
