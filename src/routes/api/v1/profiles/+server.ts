import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { isOwnProfile, knownProfiles, saveProfile } from '$lib/server/profiles';

export const GET = ({ locals }) =>
	answer(async () =>
		knownProfiles(locals.studio).map(({ id, maker, model, kind, revision }) => ({
			id,
			maker,
			model,
			kind,
			revision,
			own: isOwnProfile(locals.studio, id)
		}))
	);

export const POST = (event) =>
	answer(async () => saveProfile(event.locals.studio, await body(event, z.unknown())), 201);
