import { mapSchema, stripsFile, stripsOf } from '$lib/core/control';
import { body } from '$lib/server/answer';
import { answerFile } from '$lib/server/file-answer';

/** The strips as an SVG file, in true size. */
export const POST = (event) =>
	answerFile(async () => ({
		name: 'strips.svg',
		type: 'image/svg+xml; charset=utf-8',
		bytes: new TextEncoder().encode(stripsFile(stripsOf(await body(event, mapSchema))))
	}));
