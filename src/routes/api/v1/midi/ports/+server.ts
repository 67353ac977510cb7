import { answer, body } from '$lib/server/answer';
import { adapterTests, rememberPorts, rememberSchema, rememberedPorts } from '$lib/server/midi-ports';

export const GET = ({ locals }) =>
	answer(async () => ({
		ports: await rememberedPorts(locals.studio),
		tests: await adapterTests(locals.studio)
	}));

export const PUT = (event) =>
	answer(async () => rememberPorts(event.locals.studio, (await body(event, rememberSchema)).ports));
