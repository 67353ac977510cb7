import { homedir } from 'node:os';
import { join } from 'node:path';
import { furnishBench } from './bench';
import { openStudio, type Studio } from './db/connection';
import { simulatedProfiles } from './gear';
import { fillCoverage, indexRecords } from './indexing';
import { loadProfiles } from './profiles';
import { settleLeftovers } from './unfinished';

/** The folder of the user's own studio: `DRAWER_DATA`, or a per-user data folder. */
export function dataFolder(): string {
	if (process.env.DRAWER_DATA) return process.env.DRAWER_DATA;
	if (process.platform === 'win32') return join(process.env.APPDATA ?? homedir(), 'SilentDrawer');
	if (process.platform === 'darwin') return join(homedir(), 'Library', 'Application Support', 'SilentDrawer');
	return join(process.env.XDG_DATA_HOME ?? join(homedir(), '.local', 'share'), 'silent-drawer');
}

export const studioFile = (): string => join(dataFolder(), 'studio.sqlite');

let opened: Promise<Studio> | null = null;

/** The studio that this process serves, opened once. */
export function theStudio(): Promise<Studio> {
	opened ??= (async () => {
		const studio = await openStudio(studioFile());
		await loadProfiles(studio);
		await settleLeftovers(studio);
		await indexRecords(studio);
		await fillCoverage(studio);
		await furnishBench(studio, simulatedProfiles());
		return studio;
	})();
	return opened;
}
