import { answer } from '$lib/server/answer';
import { makeBundle, takeBundle } from '$lib/server/bundle';
import { answerFile } from '$lib/server/file-answer';
import { readUpload } from '$lib/server/upload';

const BUNDLE_LIMIT = 512 * 1024 * 1024;

export const GET = ({ locals, url }) =>
	answerFile(async () => ({
		...(await makeBundle(locals.studio, url.searchParams.get('devices')?.split(','))),
		type: 'application/zip'
	}));

export const POST = (event) =>
	answer(async () => takeBundle(event.locals.studio, (await readUpload(event, BUNDLE_LIMIT)).bytes));
