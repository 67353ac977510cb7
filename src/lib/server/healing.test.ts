import { strFromU8, unzipSync } from 'fflate';
import { QueryTypes } from 'sequelize';
import { describe, expect, it } from 'vitest';
import type { BundleManifest } from '../core/drawer';
import { checkStudio } from './check';
import { getVersion, openVersion } from './drawer';
import { exportVersion } from './exports';
import { freshStudio } from './studio.fixture';
import { anUmbra, bundleOf, keep, renamed } from './heart.fixture';
import { hashOf } from './hash';
import { getRecords } from './store/records';
import { beginTransfer, wantedOf } from './transfers';

const here = freshStudio();
const run = (sql: string, replacements: unknown[] = []) => here.studio.sequelize.query(sql, { replacements });
const select = <T extends object>(sql: string) =>
	here.studio.sequelize.query<T>(sql, { type: QueryTypes.SELECT });

/** Two versions of a bank: the second is kept as the difference to the first. */
async function two() {
	const umbra = await anUmbra(here.studio);
	const first = await keep(here.studio, umbra.device, umbra.profile, umbra.slots);
	const changed = renamed(umbra.profile, umbra.slots, 3, 'Later');
	const second = await keep(here.studio, umbra.device, umbra.profile, changed);
	return { ...umbra, first, second, changed };
}

describe('a new backup over a damaged store', () => {
	it('replaces a damaged message that it holds too, and is whole', async () => {
		const { device, profile, slots, first, second } = await two();
		await run(`UPDATE objects SET data = x'00' WHERE base IS NULL`);
		expect((await checkStudio(here.studio, { quarantine: true })).damage).not.toEqual([]);
		const again = await keep(here.studio, device, profile, slots);
		expect((await openVersion(here.studio, again.id)).slots).toHaveLength(50);
		// What built on the damaged message is whole again with it.
		for (const { id } of [first, second]) expect((await openVersion(here.studio, id)).slots).toHaveLength(50);
		expect(await checkStudio(here.studio)).toMatchObject({ damage: [], quarantined: [] });
	});

	it('never builds a difference on a damaged message, or on one that is not there', async () => {
		const { device, profile, changed } = await two();
		await run(`UPDATE objects SET data = zeroblob(length(data)) WHERE base IS NULL`);
		const third = await keep(here.studio, device, profile, renamed(profile, changed, 4, 'Third'));
		expect((await openVersion(here.studio, third.id)).slots[4].name).toBe('Third');
		const [{ base }] = await select<{ base: number | null }>(
			`SELECT base FROM objects WHERE hash = unhex('${third.messages[0]}')`
		);
		expect(base).toBeNull();
	});
});

describe('stored sounds', () => {
	it('are hashed when they are read: a damaged one is not sent', async () => {
		const { device, slots, first } = await two();
		const record = hashOf(slots[7].bytes);
		await run('UPDATE records SET data = zeroblob(length(data)) WHERE hash = unhex(?)', [record]);
		await expect(getRecords(here.studio, [record])).rejects.toMatchObject({ code: 'record.damaged' });
		const order = {
			deviceId: device.id,
			direction: 'restore' as const,
			world: 'hardware' as const,
			scope: { kind: 'all' as const }
		};
		await expect(
			beginTransfer(here.studio, {
				...order,
				source: { from: 'sounds', sounds: [{ area: 'programs', index: 7, record }] }
			})
		).rejects.toMatchObject({ code: 'record.damaged' });
		// From the version itself it is whole, and storing it again heals it.
		const restore = await beginTransfer(here.studio, {
			...order,
			source: { from: 'version', versionId: first.id, scope: { kind: 'all' } }
		});
		const { slots: wanted } = await wantedOf(here.studio, restore.id);
		expect(wanted[7].hex).toBe(Buffer.from(slots[7].bytes).toString('hex'));
	});

	it('check takes a damaged one anew from a version that holds it, and names one that none holds', async () => {
		const { slots } = await two();
		await run('UPDATE records SET data = zeroblob(length(data)) WHERE hash = unhex(?)', [
			hashOf(slots[7].bytes)
		]);
		expect(await checkStudio(here.studio)).toMatchObject({ damage: [], healed: 1 });
		expect(await checkStudio(here.studio)).toMatchObject({ damage: [], healed: 0 });
		await run('UPDATE records SET data = zeroblob(length(data)) WHERE hash = unhex(?)', [
			hashOf(slots[7].bytes)
		]);
		await run(`UPDATE objects SET data = x'00'`);
		const { damage, healed } = await checkStudio(here.studio);
		expect(healed).toBe(0);
		expect(damage.some(({ says }) => says.includes('no version holds it whole'))).toBe(true);
	});

	it('check tells how far it is, and can be called off', async () => {
		await two();
		const told: [number, number][] = [];
		await checkStudio(here.studio, { progress: (done, of) => void told.push([done, of]) });
		expect(told.at(-1)![0]).toBe(told.at(-1)![1]);
		const stop = new AbortController();
		stop.abort();
		await expect(checkStudio(here.studio, { signal: stop.signal })).rejects.toMatchObject({
			code: 'check.cancelled'
		});
	});
});

describe('a version that is not whole', () => {
	it('is refused and named, and everything else goes on', async () => {
		const { first, second } = await two();
		await run('DELETE FROM version_messages WHERE version = (SELECT seq FROM versions WHERE id = ?)', [
			first.id
		]);
		await expect(exportVersion(here.studio, first.id, 'syx')).rejects.toMatchObject({
			code: 'version.not-whole'
		});
		await run('UPDATE versions SET bytes = bytes + 1 WHERE id = ?', [first.id]);
		const { damage } = await checkStudio(here.studio);
		expect(damage).toMatchObject([{ versionId: first.id, says: 'it has no messages' }]);
		expect((await openVersion(here.studio, second.id)).slots).toHaveLength(50);
		expect((await getVersion(here.studio, first.id)).messages).toEqual([]);
		const files = unzipSync(await bundleOf(here.studio));
		const { left } = JSON.parse(strFromU8(files['manifest.json'])) as BundleManifest;
		expect(left).toMatchObject([{ id: first.id, says: expect.stringContaining('not whole') }]);
	});

	it('holding another number of bytes than it was stored with is not whole either', async () => {
		const { first } = await two();
		await run('UPDATE versions SET bytes = bytes - 1 WHERE id = ?', [first.id]);
		await expect(openVersion(here.studio, first.id)).rejects.toMatchObject({ code: 'version.not-whole' });
		expect((await checkStudio(here.studio)).damage).toHaveLength(1);
	});
});
