import { answer, body } from '$lib/server/answer';
import { reminderSchema, setReminder } from '$lib/server/reminders';

export const PUT = (event) =>
	answer(async () =>
		setReminder(event.locals.studio, event.params.id, (await body(event, reminderSchema)).days)
	);
