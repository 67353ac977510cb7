import { z } from 'zod';
import { Problem } from '$lib/core/problem';
import { answer } from '$lib/server/answer';
import { storeFile, storeParts } from '$lib/server/files';
import { readUpload } from '$lib/server/upload';

const fields = z.object({
	takenAt: z.iso.datetime().optional(),
	note: z.string().max(2000).default('')
});
const deviceId = z.string().min(1, 'Choose a device.');
/** Parts of a file that holds dumps of several devices, each with the numbers of its messages. */
const parts = z
	.array(z.object({ deviceId, messages: z.array(z.number().int().min(0)).min(1) }))
	.min(1)
	.max(64);

/** Which slot dumps are of that do not say so. */
const places = z
	.array(z.object({ message: z.number().int().min(0), slot: z.number().int().min(0).max(1023) }))
	.max(1024);

/** @throws Problem `request.json` */
function asJson(text: string, field: string): unknown {
	try {
		return JSON.parse(text);
	} catch {
		throw new Problem('request.json', `“${field}” is not JSON.`, `Send a JSON list in the field “${field}”.`);
	}
}

export const POST = (event) =>
	answer(async () => {
		const { studio } = event.locals;
		const { bytes, name, form } = await readUpload(event);
		const facts = fields.parse({
			takenAt: form.get('takenAt') || undefined,
			note: form.get('note') ?? ''
		});
		const given = form.get('parts');
		if (typeof given === 'string')
			return storeParts(
				studio,
				parts.parse(asJson(given, 'parts')).map((part) => ({ bytes, name, ...facts, ...part }))
			);
		const placed = form.get('places');
		return storeFile(studio, {
			bytes,
			name,
			...facts,
			deviceId: deviceId.parse(form.get('deviceId') ?? ''),
			...(typeof placed === 'string' ? { places: places.parse(asJson(placed, 'places')) } : {})
		});
	}, 201);
