import { answer, body } from '$lib/server/answer';
import { keepPlan, keepPlanSchema, listPlans } from '$lib/server/plans';

export const GET = ({ locals }) => answer(() => listPlans(locals.studio));

export const POST = (event) =>
	answer(async () => keepPlan(event.locals.studio, await body(event, keepPlanSchema)), 201);
