import { answerFile, jsonFile } from '$lib/server/file-answer';
import { getRun } from '$lib/server/procedure-runs';

export const GET = ({ locals, params }) =>
	answerFile(async () => jsonFile('procedure-run', (await getRun(locals.studio, params.id)).run));
