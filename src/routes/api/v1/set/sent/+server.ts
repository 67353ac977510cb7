import { answer, body } from '$lib/server/answer';
import { setDocument } from '$lib/server/set';
import { heldInWorlds, noteSent, sentSchema } from '$lib/server/set-held';

export const POST = (event) =>
	answer(async () => {
		const { studio } = event.locals;
		await noteSent(studio, await body(event, sentSchema));
		return heldInWorlds(studio, await setDocument(studio));
	});
