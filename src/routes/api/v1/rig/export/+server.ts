import { readStudioRig } from '$lib/server/rig';

/** The studio's wiring as a `silent-drawer.rig` file. */
export async function GET({ locals }) {
	const { rig } = await readStudioRig(locals.studio);
	return new Response(JSON.stringify(rig, null, '\t') + '\n', {
		headers: {
			'content-type': 'application/json; charset=utf-8',
			'content-disposition': 'attachment; filename="studio.rig.json"'
		}
	});
}
