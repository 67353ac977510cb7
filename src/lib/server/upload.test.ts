import { existsSync, readFileSync } from 'node:fs';
import type { RequestEvent } from '@sveltejs/kit';
import { expect, it } from 'vitest';
import { bringsTooMuch } from './guard';
import { withUploadOnDisk } from './upload';

const posted = (body: BodyInit | null, type?: string) =>
	({
		request: new Request('http://127.0.0.1/api/v1/bundle', {
			method: 'POST',
			body,
			headers: type ? { 'content-type': type } : undefined
		})
	}) as RequestEvent;

/** A request with the file in a form, as a browser sends it. */
async function inForm(length?: number) {
	const data = new FormData();
	data.set('file', new File([Uint8Array.of(1, 2, 3)], 'a.zip'));
	const sent = new Response(data);
	const bytes = new Uint8Array(await sent.arrayBuffer());
	const event = posted(bytes, sent.headers.get('content-type')!);
	event.request.headers.set('content-length', String(length ?? bytes.length));
	return event;
}

it.each([
	['the body by itself', () => Promise.resolve(posted(Uint8Array.of(1, 2, 3), 'application/zip'))],
	['a form', () => inForm()]
])('a file in %s lies on disk while it is worked with, and no longer', async (_, event) => {
	let path = '';
	await withUploadOnDisk(await event(), (file) => {
		path = file;
		expect([...readFileSync(file)]).toEqual([1, 2, 3]);
		return Promise.resolve();
	});
	expect(existsSync(path)).toBe(false);
	await expect(
		withUploadOnDisk(await event(), (file) => {
			path = file;
			throw new Error('no');
		})
	).rejects.toThrow('no');
	expect(existsSync(path)).toBe(false);
});

it('a form that would not fit in memory is refused before it is read', async () => {
	const event = await inForm(40 * 1024 * 1024);
	await expect(withUploadOnDisk(event, () => Promise.resolve())).rejects.toMatchObject({
		code: 'file.too-large'
	});
	expect(event.request.bodyUsed).toBe(false);
});

it('no file, or an empty one, is said to be that', async () => {
	await expect(withUploadOnDisk(posted(null), () => Promise.resolve())).rejects.toMatchObject({
		code: 'file.missing'
	});
	await expect(withUploadOnDisk(posted(new Uint8Array()), () => Promise.resolve())).rejects.toMatchObject({
		code: 'file.empty'
	});
});

it('only bundles may be larger than 64 MiB, and nothing else may hide how large it is', () => {
	const large = new Headers({ 'content-length': String(65 * 1024 * 1024) });
	const hidden = new Headers({ 'transfer-encoding': 'chunked' });
	for (const headers of [large, hidden]) {
		expect(bringsTooMuch('/api/v1/files', headers)).toBe(true);
		expect(bringsTooMuch('/api/v1/bundle', headers)).toBe(false);
	}
	expect(bringsTooMuch('/api/v1/files', new Headers({ 'content-length': '4096' }))).toBe(false);
	expect(bringsTooMuch('/', new Headers())).toBe(false);
});
