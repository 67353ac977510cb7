import { fail, redirect } from '@sveltejs/kit';
import { setError, superValidate } from 'sveltekit-superforms';
import { zod4 } from 'sveltekit-superforms/adapters';
import { interfaceFacts } from '$lib/core/contact';
import { deviceSchema } from '$lib/core/gear';
import { Problem } from '$lib/core/problem';
import { addDevice, factsOfModel } from '$lib/server/gear';
import { profileTitle } from '$lib/core/profile';
import { knownProfiles } from '$lib/server/profiles';
import { nextFreeSockets, plugIntoFree } from '$lib/server/rig';
import { interfaceSchema, quickSchema } from './quick';

export async function load({ locals }) {
	return {
		quick: await superValidate(zod4(quickSchema), { id: 'quick' }),
		sockets: await superValidate(zod4(interfaceSchema), { id: 'sockets' }),
		bare: await superValidate(zod4(deviceSchema), { id: 'bare' }),
		/** Where the next device would be plugged in; null where no interface has a free out. */
		free: await nextFreeSockets(locals.studio),
		profiles: knownProfiles(locals.studio).map((profile) => ({
			id: profile.id,
			model: profile.model,
			title: profileTitle(profile),
			kind: profile.kind,
			panelAdd: profile.addressing.deviceId?.panelAdd ?? 0
		}))
	};
}

export const actions = {
	quick: async ({ request, locals }) => {
		const form = await superValidate(request, zod4(quickSchema), { id: 'quick' });
		if (!form.valid) return fail(400, { form });
		let id: string;
		try {
			({ id } = await addDevice(
				locals.studio,
				factsOfModel(locals.studio, form.data.profileId, form.data.name)
			));
			if (form.data.plug) await plugIntoFree(locals.studio, id);
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			return setError(form, 'profileId', `${error.message} ${error.remedy}`);
		}
		redirect(303, `/gear/${id}/drawer`);
	},
	sockets: async ({ request, locals }) => {
		const form = await superValidate(request, zod4(interfaceSchema), { id: 'sockets' });
		if (!form.valid) return fail(400, { form });
		const { name, ins, outs } = form.data;
		const { id } = await addDevice(locals.studio, interfaceFacts(name, ins, outs));
		redirect(303, `/gear/${id}`);
	},
	bare: async ({ request, locals }) => {
		const form = await superValidate(request, zod4(deviceSchema), { id: 'bare' });
		if (!form.valid) return fail(400, { form });
		const { id } = await addDevice(locals.studio, form.data);
		redirect(303, `/gear/${id}`);
	}
};
