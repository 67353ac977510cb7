import { findSounds } from '$lib/server/find';

export async function load({ locals, url }) {
	const query = url.searchParams.get('q') ?? '';
	return { query, ...(await findSounds(locals.studio, query)) };
}
