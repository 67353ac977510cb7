import { favourites, findSounds, findTexts } from '$lib/server/find';

/** What one looks through; whoever looks for more writes more of the name. */
const SHOWN = 40;

export async function load({ locals: { studio }, url }) {
	const query = url.searchParams.get('q') ?? '';
	const starred = url.searchParams.has('favourites');
	const [found, texts] = await Promise.all([
		starred ? favourites(studio) : findSounds(studio, query, SHOWN),
		starred ? [] : findTexts(studio, query)
	]);
	return { query, favourites: starred, texts, ...found };
}
