import { answer } from '$lib/server/answer';
import { soundsFor } from '$lib/server/sounds';

export const GET = ({ locals, url }) =>
	answer(() =>
		soundsFor(
			locals.studio,
			url.searchParams.get('profile') ?? '',
			url.searchParams.get('area') ?? '',
			url.searchParams.get('q') ?? ''
		)
	);
