import { answer, body } from '$lib/server/answer';
import { answerFile, jsonFile } from '$lib/server/file-answer';
import { powerOnDocument, takePowerOn, takePowerOnSchema } from '$lib/server/switching';

export const GET = ({ locals }) =>
	answerFile(async () => jsonFile('power-on', await powerOnDocument(locals.studio)));

export const POST = (event) =>
	answer(async () => takePowerOn(event.locals.studio, await body(event, takePowerOnSchema)));
