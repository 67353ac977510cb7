import { checkMap, mapSchema } from '$lib/core/control';
import { answer, body } from '$lib/server/answer';

export const POST = (event) => answer(async () => checkMap(await body(event, mapSchema)));
