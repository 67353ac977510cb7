import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import type { RequestEvent } from '@sveltejs/kit';
import busboy from 'busboy';
import { Problem } from '../core/problem';
import { mustBeSane } from './sane-body';

const LIMIT = 32 * 1024 * 1024;

/** The most that the fields beside a file hold: numbers of messages, a note. */
const FIELD_LIMIT = 4 * 1024 * 1024;
const MOST_FIELDS = 60;

interface ReadForm {
	/** The first file in the field “file”; its bytes only as far as they are within the limit. */
	file: { name: string; size: number; bytes: Uint8Array } | null;
	form: FormData;
}

/** Reads a form part by part, as it arrives. @throws Error where it is none, or is cut off */
async function readForm({ request }: RequestEvent, limit: number): Promise<ReadForm> {
	const parser = busboy({
		headers: { 'content-type': request.headers.get('content-type') ?? '' },
		defParamCharset: 'utf8',
		preservePath: true,
		limits: { fieldSize: FIELD_LIMIT, fields: MOST_FIELDS, parts: MOST_FIELDS }
	});
	const read: ReadForm = { file: null, form: new FormData() };
	// What the whole form is long is room enough for its file: it is in memory once.
	const room = Math.min(Number(request.headers.get('content-length') ?? limit) || limit, limit);
	parser.on('file', (field, stream, { filename }) => {
		const file =
			field === 'file' && !read.file ? { name: filename ?? '', size: 0, bytes: new Uint8Array(room) } : null;
		read.file ??= file;
		// The form says so, too.
		stream.on('error', () => undefined);
		stream.on('data', (part: Buffer) => {
			if (file && file.size + part.length <= room) file.bytes.set(part, file.size);
			if (file) file.size += part.length;
		});
	});
	parser.on('field', (name, value) => read.form.set(name, value));
	if (!request.body) throw new Error('There is no body.');
	let failed = false;
	const done = new Promise<void>((resolve, reject) => {
		parser.once('close', resolve);
		parser.on('error', (error) => {
			failed = true;
			reject(error as Error);
		});
	});
	done.catch(() => undefined);
	// Where it is none, the rest is let pass: who still sends would not hear the answer.
	for await (const part of request.body as unknown as AsyncIterable<Uint8Array>)
		if (!failed && !parser.write(part))
			await Promise.race([once(parser, 'drain'), done]).catch(() => undefined);
	if (!failed) parser.end();
	await done;
	return read;
}

/** The file of a multipart request. @throws Problem `file.missing`, `file.too-large`, `file.empty`, `request.nul` */
export async function readUpload(
	event: RequestEvent,
	limit = LIMIT
): Promise<{ bytes: Uint8Array; name: string; form: FormData }> {
	let read: ReadForm;
	try {
		read = await readForm(event, limit);
	} catch {
		throw new Problem(
			'file.missing',
			'There is no file in the request.',
			'Send it as multipart/form-data in the field “file”.'
		);
	}
	const { file, form } = read;
	if (!file)
		throw new Problem('file.missing', 'There is no file in the request.', 'Send it in the field “file”.');
	const { name, size, bytes } = file;
	mustBeSane([name, ...form.values()]);
	if (size > limit)
		throw new Problem(
			'file.too-large',
			`“${name}” has ${Math.round(size / 1048576)} MiB; ${Math.round(limit / 1048576)} MiB is the most.`,
			'Choose the dump itself, not an archive of many.'
		);
	if (size === 0) throw new Problem('file.empty', `“${name}” is empty.`, 'Look for another copy of it.');
	return { bytes: bytes.subarray(0, size), name, form };
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
