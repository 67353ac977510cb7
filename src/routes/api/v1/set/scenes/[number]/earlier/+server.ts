import { z } from 'zod';
import { answer } from '$lib/server/answer';
import { sceneHistory } from '$lib/server/set';

const number = z.coerce.number().int().min(0).max(999);

export const GET = ({ locals, params }) =>
	answer(async () => sceneHistory(locals.studio, number.parse(params.number)));
