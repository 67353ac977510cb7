import { tableCsv } from '$lib/core/control';
import { answer, body } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';
import { getMap, tableMap, tableMapSchema } from '$lib/server/maps';

export const GET = ({ params, locals }) =>
	answerFile(async () => {
		const { document } = await getMap(locals.studio, params.id);
		return {
			name: `${document.name}.csv`,
			type: 'text/csv; charset=utf-8',
			bytes: new TextEncoder().encode(tableCsv(document))
		};
	});

export const POST = (event) =>
	answer(async () => tableMap(event.locals.studio, event.params.id, await body(event, tableMapSchema)));
