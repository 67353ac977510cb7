import { answer, body } from '$lib/server/answer';
import { planPagesSchema } from '$lib/server/control-orders';
import { hangUp } from '$lib/server/hang-up';
import { planPagesApart } from '$lib/server/plan-apart';

export const POST = (event) =>
	answer(async () => {
		const { task, seconds } = await body(event, planPagesSchema);
		const { signal, end } = hangUp(event);
		return planPagesApart(task, seconds, signal).finally(end);
	});
