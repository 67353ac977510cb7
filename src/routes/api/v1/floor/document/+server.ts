import { answer, body } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';
import { floorDocument, takeFloor, takeFloorSchema } from '$lib/server/floor';

export const GET = ({ locals }) =>
	answerFile(async () => {
		const document = await floorDocument(locals.studio);
		return {
			name: 'floor.json',
			type: 'application/json',
			bytes: new TextEncoder().encode(JSON.stringify(document, null, '\t') + '\n')
		};
	});

export const POST = (event) =>
	answer(async () => takeFloor(event.locals.studio, await body(event, takeFloorSchema)));
