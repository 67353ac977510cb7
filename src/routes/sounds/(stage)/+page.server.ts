import { favourites, findSounds, findTexts } from '$lib/server/find';

export async function load({ locals: { studio }, url }) {
	const query = url.searchParams.get('q') ?? '';
	const starred = url.searchParams.has('favourites');
	const [found, texts] = await Promise.all([
		starred ? favourites(studio) : findSounds(studio, query),
		starred ? [] : findTexts(studio, query)
	]);
	return { query, favourites: starred, texts, ...found };
}
