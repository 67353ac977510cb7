import { answer } from '$lib/server/answer';
import { keepMapFile, listMapFiles } from '$lib/server/map-files';
import { readUpload } from '$lib/server/upload';

export const GET = ({ params, locals }) => answer(() => listMapFiles(locals.studio, params.id));

export const POST = (event) =>
	answer(async () => {
		const { bytes, name, form } = await readUpload(event);
		return keepMapFile(event.locals.studio, event.params.id, {
			bytes,
			name,
			note: String(form.get('note') ?? '')
		});
	});
