import { answerFile } from '$lib/server/file-answer';
import { getMap } from '$lib/server/maps';

export const GET = ({ params, locals }) =>
	answerFile(async () => {
		const { document } = await getMap(locals.studio, params.id);
		return {
			name: `${document.name}.map.json`,
			type: 'application/json',
			bytes: new TextEncoder().encode(JSON.stringify(document, null, '\t') + '\n')
		};
	});
