import { answer } from '$lib/server/answer';
import { soundsToChoose } from '$lib/server/set';

export const GET = ({ locals, url }) =>
	answer(() => soundsToChoose(locals.studio, url.searchParams.get('instrument') ?? ''));
