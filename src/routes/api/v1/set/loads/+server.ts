import { answer, body } from '$lib/server/answer';
import { setDocument } from '$lib/server/set';
import { layOutLoad, loadOrderSchema } from '$lib/server/set-loads';

export const POST = (event) =>
	answer(async () => {
		const { studio } = event.locals;
		const order = await body(event, loadOrderSchema);
		return layOutLoad(studio, await setDocument(studio), order);
	}, 201);
