import { fail, redirect } from '@sveltejs/kit';
import { message, superValidate } from 'sveltekit-superforms';
import { zod4 } from 'sveltekit-superforms/adapters';
import { deviceEditSchema, deviceSchema, mergeFacts } from '$lib/core/gear';
import { Problem } from '$lib/core/problem';
import { orError } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { saveDevice } from '$lib/server/give-profile';
import { profileTitle } from '$lib/core/profile';
import { knownProfiles } from '$lib/server/profiles';

export async function load({ locals, params }) {
	const device = await orError(getDevice(locals.studio, params.device));
	return {
		form: await superValidate(
			{ ...deviceSchema.parse(device), was: deviceSchema.parse(device) },
			zod4(deviceEditSchema)
		),
		profiles: knownProfiles(locals.studio).map((profile) => ({
			id: profile.id,
			title: profileTitle(profile),
			panelAdd: profile.addressing.deviceId?.panelAdd ?? 0
		}))
	};
}

export const actions = {
	default: async ({ request, locals, params }) => {
		const form = await superValidate(request, zod4(deviceEditSchema));
		if (!form.valid) return fail(400, { form });
		const { was, ...facts } = form.data;
		let again;
		try {
			({ again } = await saveDevice(locals.studio, params.device, facts, was));
		} catch (error) {
			if (!(error instanceof Problem && error.code === 'device.conflict'))
				return orError(Promise.reject(error as Error));
			// What others changed alone is taken over; saved again, the rest is as it was typed here.
			const now = deviceSchema.parse(await getDevice(locals.studio, params.device));
			const { facts: merged, conflicts } = mergeFacts(was ?? now, facts, now);
			Object.assign(form.data, merged, { was: now });
			for (const { field, mine } of conflicts) Object.assign(form.data, { [field]: mine });
			return message(form, `${error.message} ${error.remedy}`, { status: 409 });
		}
		redirect(303, `/gear/${params.device}${again ? `?read=${again.read}&raw=${again.raw}` : ''}`);
	}
};
