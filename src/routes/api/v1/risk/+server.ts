import { riskSettingsSchema } from '$lib/core/care';
import { answer, body } from '$lib/server/answer';
import { readRiskSettings, writeRiskSettings } from '$lib/server/reminders';

export const GET = ({ locals }) => answer(() => readRiskSettings(locals.studio));

export const PUT = (event) =>
	answer(async () => writeRiskSettings(event.locals.studio, await body(event, riskSettingsSchema)));
