import { answer } from './answer';

/** Answers with a file to be saved, or with the problem. */
export async function answerFile(
	make: () => Promise<{ name: string; bytes: Uint8Array; type?: string }>
): Promise<Response> {
	let file: { name: string; bytes: Uint8Array; type?: string } | null = null;
	const failed = await answer(async () => {
		file = await make();
	});
	if (!file) return failed;
	const { name, bytes, type } = file as { name: string; bytes: Uint8Array<ArrayBuffer>; type?: string };
	return new Response(bytes, {
		headers: {
			'content-type': type ?? 'application/octet-stream',
			'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`
		}
	});
}
