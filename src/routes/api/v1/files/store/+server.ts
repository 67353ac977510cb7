import { z } from 'zod';
import { answer } from '$lib/server/answer';
import { readUpload } from '$lib/server/upload';
import { storeFile } from '$lib/server/files';

const fields = z.object({
	deviceId: z.string().min(1, 'Choose a device.'),
	takenAt: z.iso.datetime().optional(),
	note: z.string().max(2000).default('')
});

export const POST = (event) =>
	answer(async () => {
		const { bytes, name, form } = await readUpload(event);
		const order = fields.parse({
			deviceId: form.get('deviceId') ?? '',
			takenAt: form.get('takenAt') || undefined,
			note: form.get('note') ?? ''
		});
		return storeFile(event.locals.studio, { bytes, name, ...order });
	}, 201);
