import { matrixOf } from '$lib/core/pedal';

export async function load({ parent }) {
	const { document } = (await parent()).opened;
	return { matrix: matrixOf(document), pedals: document.pedals.map(({ id, name }) => ({ id, name })) };
}
