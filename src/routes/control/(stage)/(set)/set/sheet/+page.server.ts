import { stripSheets } from '$lib/core/control';
import { setStrips } from '$lib/server/set-strips';

export const load = async ({ locals, parent }) => {
	const { document } = (await parent()).opened;
	return { sheets: stripSheets(await setStrips(locals.studio, document)) };
};
