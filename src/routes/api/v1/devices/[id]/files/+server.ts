import { answer } from '$lib/server/answer';
import { keepFile, listKeptFiles } from '$lib/server/kept-files';
import { readUpload } from '$lib/server/upload';

export const GET = ({ params, locals }) => answer(() => listKeptFiles(locals.studio, { device: params.id }));

export const POST = (event) =>
	answer(async () => {
		const { bytes, name, form } = await readUpload(event);
		return keepFile(
			event.locals.studio,
			{ device: event.params.id },
			{
				bytes,
				name,
				note: String(form.get('note') ?? '')
			}
		);
	});
