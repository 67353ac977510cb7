import { answer } from '$lib/server/answer';
import { readUpload } from '$lib/server/upload';
import { inspectFile } from '$lib/server/files';

export const POST = (event) =>
	answer(async () => {
		const { bytes, name } = await readUpload(event);
		return inspectFile(event.locals.studio, bytes, name);
	});
