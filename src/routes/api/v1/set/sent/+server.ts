import { answer, body } from '$lib/server/answer';
import { setDocument } from '$lib/server/set';
import { heldInWorlds, noteSent, sentSchema } from '$lib/server/set-held';

export const POST = (event) =>
	answer(async () => {
		const { studio } = event.locals;
		const order = await body(event, sentSchema);
		const set = await setDocument(studio);
		await noteSent(studio, set, order);
		return heldInWorlds(studio, set);
	});
