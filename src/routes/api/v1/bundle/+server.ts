import { answer } from '$lib/server/answer';
import { makeBundle } from '$lib/server/bundle/make';
import { takeBundle } from '$lib/server/bundle/take';
import { answerFile } from '$lib/server/file-answer';
import { withUploadOnDisk } from '$lib/server/upload';

export const GET = ({ locals, url }) =>
	answerFile(async () => ({
		...(await makeBundle(locals.studio, url.searchParams.get('devices')?.split(','))),
		type: 'application/zip'
	}));

export const POST = (event) =>
	answer(() => {
		const chosen = new Set(event.url.searchParams.get('take')?.split(','));
		return withUploadOnDisk(event, (file) => takeBundle(event.locals.studio, file, chosen));
	});
