import { answer, body } from '$lib/server/answer';
import { mergeSchema } from '$lib/server/bank-orders';
import { applyMerge } from '$lib/server/merging';

export const POST = (event) =>
	answer(async () => {
		const { revision, deviceState, choices } = await body(event, mergeSchema);
		return applyMerge(event.locals.studio, event.params.id, revision, deviceState, choices);
	});
