import { answer, body } from '$lib/server/answer';
import { answerFile, jsonFile } from '$lib/server/file-answer';
import { powerDocument, takePower, takePowerSchema } from '$lib/server/power';

export const GET = ({ locals }) =>
	answerFile(async () => jsonFile('power', await powerDocument(locals.studio)));

export const POST = (event) =>
	answer(async () => takePower(event.locals.studio, await body(event, takePowerSchema)));
