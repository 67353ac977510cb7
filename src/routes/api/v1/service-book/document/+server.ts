import { answer, body } from '$lib/server/answer';
import { answerFile, jsonFile } from '$lib/server/file-answer';
import { serviceDocument, takeServiceBook, takeServiceBookSchema } from '$lib/server/service-book';

export const GET = ({ locals }) =>
	answerFile(async () => jsonFile('service-book', await serviceDocument(locals.studio)));

export const POST = (event) =>
	answer(async () => takeServiceBook(event.locals.studio, await body(event, takeServiceBookSchema)));
