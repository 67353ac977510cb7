import { settingsSchema } from '$lib/core/drawer';
import { deviceRow } from '$lib/server/store/devices';

export const load = async ({ locals, params }) => {
	const device = await deviceRow(locals.studio, params.device);
	return { settings: settingsSchema.parse(device?.settings ?? []) };
};
