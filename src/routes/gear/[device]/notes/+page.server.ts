import { fail } from '@sveltejs/kit';
import { deviceSchema } from '$lib/core/gear';
import { orError } from '$lib/server/answer';
import { getDevice, updateDevice } from '$lib/server/gear';

export const actions = {
	default: async ({ request, locals, params }) => {
		// A form sends its line ends as CR LF.
		const notes = String((await request.formData()).get('notes') ?? '').replaceAll('\r\n', '\n');
		const device = await orError(getDevice(locals.studio, params.device));
		const parsed = deviceSchema.safeParse({ ...device, notes });
		if (!parsed.success) return fail(400, { says: parsed.error.issues[0].message, notes });
		await orError(updateDevice(locals.studio, device.id, parsed.data));
		return { saved: true };
	}
};
