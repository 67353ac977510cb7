import { answer } from '$lib/server/answer';
import { findSounds } from '$lib/server/find';

export const GET = ({ locals, url }) =>
	answer(() => findSounds(locals.studio, url.searchParams.get('q') ?? ''));
