import { readRigText } from '$lib/core/rig';
import { answer } from '$lib/server/answer';
import { jsonText } from '$lib/server/sane-body';
import { importRig, previewImport } from '$lib/server/rig-import';

/** Takes a rig file over; with `?preview`, only says what would become of it. The body is the file. */
export const POST = ({ request, url, locals }) =>
	answer(async () => {
		const { rig, ignored } = readRigText(await jsonText(request.body));
		return url.searchParams.has('preview')
			? { ...(await previewImport(locals.studio, rig)), ignored }
			: importRig(locals.studio, rig);
	});
