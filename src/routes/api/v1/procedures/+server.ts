import { procedureSchema } from '$lib/core/care';
import { answer, body } from '$lib/server/answer';
import { listProcedures, saveProcedure } from '$lib/server/procedures';

export const GET = ({ locals }) => answer(() => listProcedures(locals.studio));

export const POST = (event) =>
	answer(async () => saveProcedure(event.locals.studio, await body(event, procedureSchema)), 201);
