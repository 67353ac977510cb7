import { answer, body } from '$lib/server/answer';
import { planPagesSchema } from '$lib/server/control-orders';
import { planPagesApart } from '$lib/server/plan-apart';

export const POST = (event) =>
	answer(async () => {
		const { task, seconds } = await body(event, planPagesSchema);
		return planPagesApart(task, seconds, event.request.signal);
	});
