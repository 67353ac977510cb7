import { answer, body } from '$lib/server/answer';
import { applyRetention, applyRetentionSchema } from '$lib/server/keeping';

export const POST = (event) =>
	answer(async () => {
		const { rules, versions } = await body(event, applyRetentionSchema);
		return applyRetention(event.locals.studio, rules, versions);
	});
