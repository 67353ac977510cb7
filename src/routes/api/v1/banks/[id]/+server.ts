import { answer, body } from '$lib/server/answer';
import { getBank, removeBank, saveBank } from '$lib/server/banks';
import { saveBankSchema } from '$lib/server/bank-orders';

export const GET = ({ locals, params }) => answer(() => getBank(locals.studio, params.id));

export const PUT = (event) =>
	answer(async () => {
		const { revision, document } = await body(event, saveBankSchema);
		return saveBank(event.locals.studio, event.params.id, revision, document);
	});

export const DELETE = ({ locals, params }) => answer(() => removeBank(locals.studio, params.id));
