import { answer } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';
import { readKeptFile, removeKeptFile } from '$lib/server/kept-files';

export const GET = ({ params, locals }) =>
	answerFile(async () => {
		const { name, bytes } = await readKeptFile(locals.studio, params.id);
		return { name, bytes };
	});
export const DELETE = ({ params, locals }) => answer(() => removeKeptFile(locals.studio, params.id));
