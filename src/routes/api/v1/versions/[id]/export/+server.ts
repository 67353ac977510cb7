import { z } from 'zod';
import { answer } from '$lib/server/answer';
import { exportVersion } from '$lib/server/drawer';

const format = z.enum(['syx', 'mid']);

export async function GET({ locals, params, url }) {
	let file: Awaited<ReturnType<typeof exportVersion>> | null = null;
	const failed = await answer(async () => {
		file = await exportVersion(locals.studio, params.id, format.parse(url.searchParams.get('as') ?? 'syx'));
	});
	if (!file) return failed;
	const { name, bytes } = file as { name: string; bytes: Uint8Array<ArrayBuffer> };
	return new Response(bytes, {
		headers: {
			'content-type': name.endsWith('.mid') ? 'audio/midi' : 'application/octet-stream',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`
		}
	});
}
