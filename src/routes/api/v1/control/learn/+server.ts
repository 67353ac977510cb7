import { classify, recordingOf } from '$lib/core/control';
import { answer } from '$lib/server/answer';
import { readUpload } from '$lib/server/upload';

/** What controls a recording holds. */
export const POST = (event) =>
	answer(async () => {
		const { heard, damage } = recordingOf((await readUpload(event)).bytes);
		return { controls: classify(heard), damage };
	});
