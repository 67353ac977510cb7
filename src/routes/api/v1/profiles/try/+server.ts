import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { tryOnStudio } from '$lib/server/profile-trial';

export const POST = (event) =>
	answer(async () => tryOnStudio(event.locals.studio, await body(event, z.unknown())));
