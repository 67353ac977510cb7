import { fail } from '@sveltejs/kit';
import { deviceSchema } from '$lib/core/gear';
import { orError } from '$lib/server/answer';
import { getDevice, updateDevice } from '$lib/server/gear';

export const actions = {
	default: async ({ request, locals, params }) => {
		// A form sends its line ends as CR LF.
		const sent = await request.formData();
		const text = (name: string) => String(sent.get(name) ?? '').replaceAll('\r\n', '\n');
		const notes = text('notes');
		const device = await orError(getDevice(locals.studio, params.device));
		// Another window saved something else meanwhile: it is shown, and nothing is overwritten.
		if (sent.has('was') && text('was') !== device.notes && device.notes !== notes.trim())
			return fail(409, {
				says: 'Meanwhile another note was saved here:',
				theirs: device.notes as string | undefined,
				notes
			});
		const parsed = deviceSchema.safeParse({ ...device, notes });
		if (!parsed.success) return fail(400, { says: parsed.error.issues[0].message, notes, theirs: undefined });
		await orError(updateDevice(locals.studio, device.id, parsed.data));
		return { saved: true };
	}
};
