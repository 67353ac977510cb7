import { z } from 'zod';
import { answer } from '$lib/server/answer';
import { chooseRunFile } from '$lib/server/procedure-runs';
import { readUpload } from '$lib/server/upload';

const fieldsSchema = z.object({
	revision: z.coerce.number().int().min(1),
	version: z.string().trim().max(30).default('')
});

export const POST = (event) =>
	answer(async () => {
		const { bytes, name, form } = await readUpload(event);
		const fields = fieldsSchema.parse({
			revision: form.get('revision'),
			version: form.get('version') ?? undefined
		});
		return chooseRunFile(event.locals.studio, event.params.id, { bytes, name, ...fields });
	});
