import { matrixOf } from '$lib/core/pedal';
import { getFloor } from '$lib/server/floor';

export const load = async ({ locals }) => {
	const { document } = await getFloor(locals.studio);
	return { matrix: matrixOf(document), pedals: document.pedals.map(({ id, name }) => ({ id, name })) };
};
