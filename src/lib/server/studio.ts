import { mkdirSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { furnishBench } from './bench';
import { openStudio, type Studio } from './db/connection';
import { haveAlone } from './db/sole';
import { isTorn } from './db/damage';
import { damaged } from './db/studio-file';
import { simulatedProfiles } from './gear';
import { fillCoverage, indexRecords } from './indexing';
import { keepCopy } from './keep-copy';
import { loadProfiles } from './profiles';
import { fillSeals } from './store/seals';
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
let giveBack: (() => Promise<void>) | null = null;

/** Has a copy made now and each day that the server runs, as far as one is due. */
function keepCopies(studio: Studio): void {
	const keep = () =>
		void keepCopy(studio).then(
			(came) =>
				came === 'damaged' && console.error('No copy was made: the studio’s file is damaged. Run the check.'),
			(error: unknown) => console.error(`The copy of this day was not made: ${String(error)}`)
		);
	keep();
	setInterval(keep, HOUR_MS).unref();
}

const HOUR_MS = 3_600_000;

async function open(): Promise<Studio> {
	const file = studioFile();
	mkdirSync(dataFolder(), { recursive: true });
	giveBack ??= await haveAlone(
		file,
		`process ${process.pid}, at ${process.env.DRAWER_ADDRESS ?? 'an address of its own'}, since ${new Date().toISOString()}`
	);
	const studio = await openStudio(file);
	try {
		await loadProfiles(studio);
		await settleLeftovers(studio);
		await indexRecords(studio);
		await fillCoverage(studio);
		await furnishBench(studio, simulatedProfiles());
	} catch (error) {
		await studio.close().catch(() => undefined);
		if (isTorn(error)) await damaged(file, 'its contents cannot be read', true);
		throw error;
	}
	// Beside everything else: nobody waits for it.
	void fillSeals(studio).catch((error: unknown) =>
		console.error(`Versions could not be sealed: ${String(error)}`)
	);
	keepCopies(studio);
	return studio;
}

/** The studio that this process serves, opened once; where that failed, it is tried again with the next request. */
export function theStudio(): Promise<Studio> {
	opened ??= open().catch((error: unknown) => {
		opened = null;
		throw error;
	});
	return opened;
}
