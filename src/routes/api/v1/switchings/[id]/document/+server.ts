import { answerFile, jsonFile } from '$lib/server/file-answer';
import { getSwitching } from '$lib/server/switching';

export const GET = ({ locals, params }) =>
	answerFile(async () => jsonFile('switching', (await getSwitching(locals.studio, params.id)).run));
