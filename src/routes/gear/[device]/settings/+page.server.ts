import { settingsSchema } from '$lib/core/drawer';

export const load = async ({ locals, params }) => {
	const row = await locals.studio.models.devices.findByPk(params.device, { attributes: ['settings'] });
	return { settings: settingsSchema.parse(row?.get('settings') ?? []) };
};
