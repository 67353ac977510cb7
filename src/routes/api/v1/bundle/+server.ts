import { answer } from '$lib/server/answer';
import { makeBundle, takeBundle } from '$lib/server/bundle';
import { answerFile } from '$lib/server/file-answer';
import { withUploadOnDisk } from '$lib/server/upload';

export const GET = ({ locals, url }) =>
	answerFile(async () => ({
		...(await makeBundle(locals.studio, url.searchParams.get('devices')?.split(','))),
		type: 'application/zip'
	}));

export const POST = (event) =>
	answer(() => withUploadOnDisk(event, (file) => takeBundle(event.locals.studio, file)));
