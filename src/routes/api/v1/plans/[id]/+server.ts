import { answer } from '$lib/server/answer';
import { dropPlan, getPlan } from '$lib/server/plans';

export const GET = ({ params, locals }) => answer(() => getPlan(locals.studio, params.id));
export const DELETE = ({ params, locals }) => answer(() => dropPlan(locals.studio, params.id));
