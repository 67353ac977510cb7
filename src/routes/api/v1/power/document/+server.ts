import { answer, body } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';
import { powerDocument, takePower, takePowerSchema } from '$lib/server/power';

export const GET = ({ locals }) =>
	answerFile(async () => {
		const document = await powerDocument(locals.studio);
		return {
			name: 'power.json',
			type: 'application/json',
			bytes: new TextEncoder().encode(JSON.stringify(document, null, '\t') + '\n')
		};
	});

export const POST = (event) =>
	answer(async () => takePower(event.locals.studio, await body(event, takePowerSchema)));
