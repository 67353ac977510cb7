import { answer } from '$lib/server/answer';
import { shippedProfiles } from '$lib/server/profiles';

export const GET = () =>
	answer(async () =>
		shippedProfiles().map(({ id, maker, model, kind, revision }) => ({ id, maker, model, kind, revision }))
	);
