import { answer } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { getProcedure, removeProcedure } from '$lib/server/procedures';

export const GET = ({ locals, params, url }) =>
	answer(async () => {
		const device = url.searchParams.get('device');
		return getProcedure(locals.studio, params.id, device ? await getDevice(locals.studio, device) : null);
	});
export const DELETE = ({ locals, params }) => answer(() => removeProcedure(locals.studio, params.id));
