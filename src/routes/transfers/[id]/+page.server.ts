import { orError } from '$lib/server/answer';
import { readTrace } from '$lib/server/store/traces';
import { transferResult } from '$lib/server/transfer-result';

export async function load({ locals, params }) {
	return {
		result: await orError(transferResult(locals.studio, params.id)),
		trace: await readTrace(locals.studio, params.id)
	};
}
