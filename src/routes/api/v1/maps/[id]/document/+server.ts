import { answerFile, jsonFile } from '$lib/server/file-answer';
import { getMap } from '$lib/server/maps';

export const GET = ({ params, locals }) =>
	answerFile(async () => {
		const { document } = await getMap(locals.studio, params.id);
		return jsonFile(`${document.name}.map`, document);
	});
