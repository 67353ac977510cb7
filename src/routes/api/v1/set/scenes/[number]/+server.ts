import { z } from 'zod';
import { SCENE_FILES } from '$lib/core/scene';
import { answerFile } from '$lib/server/file-answer';
import { sceneAsFile } from '$lib/server/set';

const number = z.coerce.number().int().min(0).max(999);
const asked = z.object({ to: number, from: number.nullable(), as: z.enum(SCENE_FILES) });

export const GET = ({ locals, params, url: { searchParams } }) =>
	answerFile(async () =>
		sceneAsFile(
			locals.studio,
			asked.parse({
				to: params.number,
				from: searchParams.get('from'),
				as: searchParams.get('as') ?? 'mid'
			})
		)
	);
