import { openStudio, type Studio } from '../lib/server/db/connection';
import { machineProblem } from '../lib/server/machine-problem';
import { loadProfiles } from '../lib/server/profiles';
import { putBack } from '../lib/server/put-back';
import { studioFile } from '../lib/server/studio';

export { checkStudio } from '../lib/server/check';
export { listVersions } from '../lib/server/drawer';
export { EXPORT_FORMATS, exportVersion } from '../lib/server/exports';
export { storeFile } from '../lib/server/files';
export { findDevice, listDevices } from '../lib/server/gear';
export { repairStudio } from '../lib/server/repair';
export { readinessOf } from '../lib/server/set';

/** What the machine refuses is said in words, as on a page. */
const inWords = <T>(work: Promise<T>): Promise<T> =>
	work.catch((error: unknown) => {
		throw machineProblem(error);
	});

/** Puts a whole copy in the place of the studio of this machine. */
export const putBackCopy = (name?: string) => inWords(putBack(studioFile(), new Date(), name));

/** Opens the studio of this machine for one command, and closes it whatever comes of it. */
export const withStudio = <T>(work: (studio: Studio) => Promise<T>): Promise<T> => inWords(opened(work));

async function opened<T>(work: (studio: Studio) => Promise<T>): Promise<T> {
	const studio = await openStudio(studioFile());
	try {
		await loadProfiles(studio);
		return await work(studio);
	} finally {
		await studio.close();
	}
}
