import { settingsSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { noteSettings } from '$lib/server/snapshots';

export const PUT = (event) =>
	answer(async () => noteSettings(event.locals.studio, event.params.id, await body(event, settingsSchema)));
