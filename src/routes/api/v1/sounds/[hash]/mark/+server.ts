import { soundMarkSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { markSound } from '$lib/server/sound-marks';

export const PUT = (event) =>
	answer(async () => markSound(event.locals.studio, event.params.hash, await body(event, soundMarkSchema)));
