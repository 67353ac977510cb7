import { createWriteStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import type { RequestEvent } from '@sveltejs/kit';
import { Problem } from '../core/problem';
import { mustBeSane } from './sane-body';

const LIMIT = 32 * 1024 * 1024;

/** The file of a multipart request. @throws Problem `file.missing`, `file.too-large`, `file.empty`, `request.nul` */
export async function readUpload(
	event: RequestEvent,
	limit = LIMIT
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
	mustBeSane([...form.values()].map((value) => (typeof value === 'string' ? value : value.name)));
	const file = form.get('file');
	if (!(file instanceof File))
		throw new Problem('file.missing', 'There is no file in the request.', 'Send it in the field “file”.');
	if (file.size > limit)
		throw new Problem(
			'file.too-large',
			`“${file.name}” has ${Math.round(file.size / 1048576)} MiB; ${Math.round(limit / 1048576)} MiB is the most.`,
			'Choose the dump itself, not an archive of many.'
		);
	if (file.size === 0)
		throw new Problem('file.empty', `“${file.name}” is empty.`, 'Look for another copy of it.');
	return { bytes: new Uint8Array(await file.arrayBuffer()), name: file.name, form };
}

/** A text file of a multipart request, in UTF-8. @throws Problem `file.not-text`, and as `readUpload` */
export async function uploadedText(event: RequestEvent): Promise<{ text: string; name: string }> {
	const { bytes, name } = await readUpload(event);
	try {
		return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), name };
	} catch {
		throw new Problem('file.not-text', `“${name}” is no text in UTF-8.`, 'Save it as UTF-8 and try again.');
	}
}

/**
 * Works with a file that is the body of the request by itself, of any size: it is written to disk as it arrives, and
 * goes away afterwards. One in a form is taken too.
 * @throws Problem `file.empty`, and as `readUpload`
 */
export async function withUploadOnDisk<T>(
	event: RequestEvent,
	work: (path: string) => Promise<T>
): Promise<T> {
	const folder = await mkdtemp(join(tmpdir(), 'silent-drawer-'));
	const path = join(folder, 'upload');
	try {
		const { headers } = event.request;
		const inForm = headers.get('content-type')?.startsWith('multipart/form-data');
		// A form is read into memory as a whole.
		if (inForm && !(Number(headers.get('content-length') ?? Infinity) <= LIMIT))
			throw new Problem(
				'file.too-large',
				`In a form ${Math.round(LIMIT / 1048576)} MiB is the most.`,
				'Send the file as the body of the request.'
			);
		const body = inForm
			? new Blob([(await readUpload(event)).bytes as Uint8Array<ArrayBuffer>]).stream()
			: event.request.body;
		if (!body)
			throw new Problem(
				'file.missing',
				'There is no file in the request.',
				'Send it as the body of the request.'
			);
		await pipeline(Readable.fromWeb(body as ReadableStream), createWriteStream(path));
		if ((await stat(path)).size === 0)
			throw new Problem('file.empty', 'The file is empty.', 'Look for another copy of it.');
		return await work(path);
	} finally {
		await rm(folder, { recursive: true, force: true });
	}
}
