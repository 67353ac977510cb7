import { answer } from '$lib/server/answer';
import { familiesOf } from '$lib/server/sounds';

export const GET = ({ locals, url }) =>
	answer(() =>
		familiesOf(locals.studio, url.searchParams.get('profile') ?? '', url.searchParams.get('area') ?? '', {
			parameters: Number(url.searchParams.get('parameters') ?? 3),
			distance: Number(url.searchParams.get('distance') ?? 0.08)
		})
	);
