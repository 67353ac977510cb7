import { answer } from '$lib/server/answer';
import { findTexts } from '$lib/server/find';

export const GET = ({ locals, url }) =>
	answer(() => findTexts(locals.studio, url.searchParams.get('q') ?? ''));
