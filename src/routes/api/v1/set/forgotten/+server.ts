import { answer, body } from '$lib/server/answer';
import { setDocument } from '$lib/server/set';
import { forgetPlayed, forgetPlayedSchema } from '$lib/server/set-held';

export const POST = (event) =>
	answer(async () => {
		const { studio } = event.locals;
		await forgetPlayed(studio, await setDocument(studio), await body(event, forgetPlayedSchema));
		return {};
	});
