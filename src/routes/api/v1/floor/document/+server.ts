import { answer, body } from '$lib/server/answer';
import { answerFile, jsonFile } from '$lib/server/file-answer';
import { floorDocument, takeFloor, takeFloorSchema } from '$lib/server/floor';

export const GET = ({ locals }) =>
	answerFile(async () => jsonFile('floor', await floorDocument(locals.studio)));

export const POST = (event) =>
	answer(async () => takeFloor(event.locals.studio, await body(event, takeFloorSchema)));
