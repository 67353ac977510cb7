import { linesOfSet } from '$lib/server/set-lines';
import { getSet } from '$lib/server/set';

export const load = async ({ locals }) => {
	const opened = await getSet(locals.studio);
	return { opened, ...(await linesOfSet(locals.studio, opened.document)) };
};
