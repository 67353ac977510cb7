import { answer, body } from '$lib/server/answer';
import { answerFile, jsonFile } from '$lib/server/file-answer';
import { setDocument, takeSet, takeSetSchema } from '$lib/server/set';

export const GET = ({ locals }) => answerFile(async () => jsonFile('set', await setDocument(locals.studio)));

export const POST = (event) =>
	answer(async () => takeSet(event.locals.studio, await body(event, takeSetSchema)));
