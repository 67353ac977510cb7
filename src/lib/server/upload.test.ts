import { existsSync, readFileSync } from 'node:fs';
import type { RequestEvent } from '@sveltejs/kit';
import { expect, it } from 'vitest';
import { bringsTooMuch } from './guard';
import { readUpload, withUploadOnDisk } from './upload';

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

it('a form is read part by part: its file, its fields; one that is none or is cut off is read to its end and said to hold none', async () => {
	const data = new FormData();
	data.set('note', 'Für Élise');
	data.set('file', new File([new Uint8Array(300_000).fill(7)], '../Größe ✓.syx'));
	data.set('places', '[1]');
	const sent = new Response(data);
	const [type, bytes] = [sent.headers.get('content-type')!, new Uint8Array(await sent.arrayBuffer())];
	const { bytes: file, name, form } = await readUpload(posted(bytes, type));
	expect([file.length, file.every((byte) => byte === 7), name]).toEqual([300_000, true, '../Größe ✓.syx']);
	expect([form.get('note'), form.get('places')]).toEqual(['Für Élise', '[1]']);
	await expect(readUpload(posted(bytes, type), 1000)).rejects.toMatchObject({ code: 'file.too-large' });
	const text = new TextDecoder('latin1').decode(bytes);
	const latin = (changed: string) => Uint8Array.from(changed, (sign) => sign.charCodeAt(0));
	for (const hurt of [
		bytes.slice(0, 200_000),
		latin(text.replace('.syx', '\0.syx')),
		latin(text.replaceAll('\r\n', ' '))
	]) {
		const event = posted(hurt, type);
		await expect(readUpload(event)).rejects.toMatchObject({
			code: expect.stringMatching(/^(file.missing|request.nul)$/)
		});
		expect(event.request.bodyUsed).toBe(true);
	}
	await expect(readUpload(posted(bytes, 'text/plain'))).rejects.toMatchObject({ code: 'file.missing' });
	await expect(readUpload(posted(null, type))).rejects.toMatchObject({ code: 'file.missing' });
});
