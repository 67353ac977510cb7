import { answer } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';
import { readMapFile, removeMapFile } from '$lib/server/map-files';

export const GET = ({ params, locals }) =>
	answerFile(async () => {
		const { name, bytes } = await readMapFile(locals.studio, params.id);
		return { name, bytes };
	});
export const DELETE = ({ params, locals }) => answer(() => removeMapFile(locals.studio, params.id));
