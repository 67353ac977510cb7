import { answer, body } from '$lib/server/answer';
import { beginSwitching, beginSwitchingSchema, listSwitchings } from '$lib/server/switching';

export const GET = ({ locals }) => answer(() => listSwitchings(locals.studio));

export const POST = (event) =>
	answer(async () => beginSwitching(event.locals.studio, await body(event, beginSwitchingSchema)), 201);
