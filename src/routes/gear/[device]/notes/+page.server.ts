import { fail } from '@sveltejs/kit';
import { deviceSchema } from '$lib/core/gear';
import { Problem } from '$lib/core/problem';
import { orError } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { saveDevice } from '$lib/server/give-profile';

export const actions = {
	default: async ({ request, locals, params }) => {
		const sent = await request.formData();
		// A form sends its line ends as CR LF.
		const text = (name: string) => String(sent.get(name) ?? '').replaceAll('\r\n', '\n');
		const notes = text('notes');
		const facts = deviceSchema.parse(await orError(getDevice(locals.studio, params.device)));
		const parsed = deviceSchema.safeParse({ ...facts, notes });
		if (!parsed.success) return fail(400, { says: parsed.error.issues[0].message, notes, theirs: undefined });
		const was = { ...facts, notes: sent.has('was') ? text('was') : facts.notes };
		try {
			await saveDevice(locals.studio, params.device, parsed.data, was);
		} catch (error) {
			if (!(error instanceof Problem && error.code === 'device.conflict'))
				return orError(Promise.reject(error as Error));
			// Another window saved something else meanwhile: it is shown, and nothing is overwritten.
			const { notes: theirs } = await orError(getDevice(locals.studio, params.device));
			return fail(409, {
				says: 'Meanwhile another note was saved here:',
				theirs: theirs as string | undefined,
				notes
			});
		}
		return { saved: true };
	}
};
