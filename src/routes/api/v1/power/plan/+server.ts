import { answer, body } from '$lib/server/answer';
import { hangUp } from '$lib/server/hang-up';
import { planPowerApart } from '$lib/server/plan-apart';
import { planPowerSchema } from '$lib/server/power';

export const POST = (event) =>
	answer(async () => {
		const { power, seconds } = await body(event, planPowerSchema);
		const { signal, end } = hangUp(event);
		return planPowerApart(power, seconds, signal).finally(end);
	});
