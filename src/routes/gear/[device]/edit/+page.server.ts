import { fail, redirect } from '@sveltejs/kit';
import { superValidate } from 'sveltekit-superforms';
import { zod4 } from 'sveltekit-superforms/adapters';
import { deviceSchema } from '$lib/core/gear';
import { orError } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { saveDevice } from '$lib/server/give-profile';
import { profileTitle } from '$lib/core/profile';
import { knownProfiles } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const device = await orError(getDevice(locals.studio, params.device));
	return {
		form: await superValidate(deviceSchema.parse(device), zod4(deviceSchema)),
		profiles: knownProfiles(locals.studio).map((profile) => ({
			id: profile.id,
			title: profileTitle(profile),
			panelAdd: profile.addressing.deviceId?.panelAdd ?? 0
		}))
	};
}

export const actions = {
	default: async ({ request, locals, params }) => {
		const form = await superValidate(request, zod4(deviceSchema));
		if (!form.valid) return fail(400, { form });
		const { again } = await orError(saveDevice(locals.studio, params.device, form.data));
		redirect(303, `/gear/${params.device}${again ? `?read=${again.read}&raw=${again.raw}` : ''}`);
	}
};
