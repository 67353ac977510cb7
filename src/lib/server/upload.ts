import type { RequestEvent } from '@sveltejs/kit';
import { Problem } from '../core/problem';

const LIMIT = 32 * 1024 * 1024;

/** The file of a multipart request. @throws Problem `file.missing`, `file.too-large`, `file.empty` */
export async function readUpload(
	event: RequestEvent
): Promise<{ bytes: Uint8Array; name: string; form: FormData }> {
	let form: FormData;
	try {
		form = await event.request.formData();
	} catch {
		throw new Problem(
			'file.missing',
			'There is no file in the request.',
			'Send it as multipart/form-data in the field “file”.'
		);
	}
	const file = form.get('file');
	if (!(file instanceof File))
		throw new Problem('file.missing', 'There is no file in the request.', 'Send it in the field “file”.');
	if (file.size > LIMIT)
		throw new Problem(
			'file.too-large',
			`“${file.name}” has ${Math.round(file.size / 1048576)} MiB; a dump file has 32 MiB at most.`,
			'Choose the dump itself, not an archive of many.'
		);
	if (file.size === 0)
		throw new Problem('file.empty', `“${file.name}” is empty.`, 'Look for another copy of it.');
	return { bytes: new Uint8Array(await file.arrayBuffer()), name: file.name, form };
}
