import { banks, careRuns, maps, papers, procedures } from './holdings/documents';
import { adapterTests, contacts, furtherFacts, ports } from './holdings/gear';
import { keptFiles } from './holdings/kept-files';
import { knowledge } from './holdings/known';
import { plans } from './holdings/plans';
import { settings } from './holdings/settings';
import { snapshots } from './holdings/snapshots';
import { bankSounds, soundMarks } from './holdings/sounds';
import { transfers } from './holdings/transfers';
import { wiring } from './holdings/wiring';
import type { Holding } from './holding';
import { tableNames } from '../store/rows';
import type { Studio } from '../db/connection';

/** Everything that a bundle carries besides devices, versions and profiles, in the order in which it is taken over. */
export const HOLDINGS: readonly Holding[] = [
	furtherFacts,
	wiring,
	contacts,
	ports,
	adapterTests,
	transfers,
	knowledge,
	snapshots,
	bankSounds,
	banks,
	soundMarks,
	maps,
	papers,
	keptFiles,
	procedures,
	careRuns,
	plans,
	settings
];

/** Tables that the drawers of a bundle stand for: devices, versions as .syx files, profiles; and what is made of these again. */
export const IN_DRAWERS = [
	'devices',
	'profiles',
	'versions',
	'version_messages',
	'objects',
	'records',
	'names',
	'words',
	'slot_runs'
];

/** Tables that are in no bundle, and why. */
export const IN_NO_BUNDLE: Readonly<Record<string, string>> = {
	bench_units: 'The simulated instruments come with the app; what they held is in the versions of the bench.',
	steps: 'What can be undone is undone where it was done.',
	wiring_steps: 'What can be undone is undone where it was done.',
	transfer_messages: 'What came of captures that are not over is no version yet; the manifest names them.',
	quarantine: 'Damaged contents are not given on.',
	migrations: 'The shape of the file.'
};

/** Tables of a studio of which nobody said whether a bundle carries them. */
export async function forgottenTables(studio: Studio): Promise<string[]> {
	const known = new Set([
		...HOLDINGS.flatMap(({ tables }) => tables),
		...IN_DRAWERS,
		...Object.keys(IN_NO_BUNDLE)
	]);
	return (await tableNames(studio)).filter((table) => !known.has(table));
}
