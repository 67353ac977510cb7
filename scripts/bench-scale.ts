import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { retentionSchema } from '../src/lib/core/drawer';
import { openStudio } from '../src/lib/server/db/connection';
import { listVersions, openVersion } from '../src/lib/server/drawer';
import { findSounds } from '../src/lib/server/find';
import { hashOf } from '../src/lib/server/hash';
import { fillCoverage, indexRecords } from '../src/lib/server/indexing';
import { applyRetention, previewRetention } from '../src/lib/server/keeping';
import { loadProfiles, shippedProfile } from '../src/lib/server/profiles';
import { backupCandidates } from '../src/lib/server/snapshots';
import { lifeOfSound } from '../src/lib/server/sounds';
import { one } from '../src/lib/server/store/sql';
import { today } from '../src/lib/server/today';
import { settleLeftovers } from '../src/lib/server/unfinished';
import { largeStudio } from './large-studio';
import { n, type Row } from './bench-rows';
import { measured, waiting } from './bench-waiting';

/** What a studio of 200 devices, 20,000 versions and a million stays takes. */
export async function scale(row: Row, devices: number, versionsEach: number): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), 'bench-scale-'));
	const file = join(folder, 'studio.sqlite');
	const profile = shippedProfile('ternhill-umbra');
	const made = performance.now();
	const large = await largeStudio(file, profile, { devices, versionsEach });
	const count = async (table: string) =>
		(await one<{ n: number }>(large.studio, `SELECT COUNT(*) AS n FROM ${table}`))!.n;
	const stays = await count('slot_runs');
	row(
		`A studio of ${devices} devices, ${(await count('versions')).toLocaleString('en')} versions, ${stays.toLocaleString('en')} stays, MB`,
		n(statSync(file).size / 1e6, 0),
		`made in ${n((performance.now() - made) / 1000, 0)} s`
	);
	await large.studio.close();

	let studio = await openStudio(file);
	const start = await measured(async () => {
		await studio.close();
		studio = await openStudio(file);
		await loadProfiles(studio);
		await settleLeftovers(studio);
		await indexRecords(studio);
		await fillCoverage(studio);
	}, 3);
	studio.now = () => new Date(Date.UTC(2016, 0, 1) + versionsEach * 36 * 3_600_000);
	const [newest] = await listVersions(studio, large.device.id);
	const { slots } = await openVersion(studio, newest.id);
	const say = async (what: string, limit: string, work: () => Promise<unknown>, times?: number) => {
		const { ms, blocked } = await measured(work, times);
		row(what, n(ms), `${limit}; kept others waiting ${n(blocked)} ms`);
	};
	row(
		'Start of the server’s studio, ms',
		n(start.ms),
		`limit 1,000; kept others waiting ${n(start.blocked)} ms`
	);
	await say('Today, ms', 'limit 30', () => today(studio));
	await say(
		'Retention preview, ms',
		'limit 2,000',
		() => previewRetention(studio, retentionSchema.parse({})),
		3
	);
	await say('Life of a sound, ms', 'limit 50', () => lifeOfSound(studio, hashOf(slots[7].bytes)));
	await say('Search by name, ms', 'no limit given', () => findSounds(studio, 'deep'));
	await say('Candidates of a studio backup, ms', 'opens no version', () => backupCandidates(studio));
	await say('List of a drawer, ms', 'no limit given', () => listVersions(studio, large.device.id));
	await say('Opening a version, ms', 'limit 5', () => openVersion(studio, newest.id));
	await studio.close();
	await waiting(row, folder, [
		['Today', '/'],
		['Gear', '/gear'],
		['Device', `/gear/${large.device.id}`],
		['Drawer', `/gear/${large.device.id}/drawer`],
		['Find', '/sounds?q=deep'],
		['A sound', `/sounds/${hashOf(slots[7].bytes)}`],
		['Transfers', '/transfers'],
		['Whole studio', '/transfers/studio'],
		['Snapshots', '/sounds/snapshots'],
		['Families', '/sounds/look-alikes'],
		['Keeping', '/care'],
		['Wiring', '/wiring'],
		['Map', '/wiring/map']
	]);
	studio = await openStudio(file);
	const rules = retentionSchema.parse({});
	const { going } = await previewRetention(studio, rules);
	await say(
		`Retention of ${going.length.toLocaleString('en')} versions, ms`,
		'no limit given',
		() =>
			applyRetention(
				studio,
				rules,
				going.map(({ id }) => id)
			),
		1
	);
	await studio.close();
	rmSync(folder, { recursive: true, force: true });
}
