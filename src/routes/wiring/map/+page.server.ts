import { mapOf } from '$lib/server/rig-map';

export async function load({ parent }) {
	const { rig } = await parent();
	return { map: await mapOf(rig) };
}
