import { z } from 'zod';
import { answer, body } from '$lib/server/answer';
import { listUnits, putUnit } from '$lib/server/bench';

const newUnit = z.object({
	profileId: z.string(),
	name: z.string().trim().min(1, 'Give the unit a name.').max(40)
});

export const GET = ({ locals }) =>
	answer(async () =>
		(await listUnits(locals.studio)).map(({ id, name, profileId, revision }) => ({
			id,
			name,
			profileId,
			revision
		}))
	);

export const POST = (event) =>
	answer(async () => {
		const { profileId, name } = await body(event, newUnit);
		const { id } = await putUnit(
			event.locals.studio,
			profileId,
			name,
			event.locals.studio.now().getTime() % 1_000_003
		);
		return { id };
	}, 201);
