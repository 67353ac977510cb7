import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { plugDevice } from '$lib/server/gear';

export const PUT = (event) =>
	answer(async () =>
		plugDevice(
			event.locals.studio,
			event.params.id,
			(await body(event, z.object({ unit: z.string().nullable() }))).unit
		)
	);
