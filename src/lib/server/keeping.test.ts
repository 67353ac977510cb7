import { QueryTypes } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { retentionSchema } from '../core/drawer';
import { deviceSchema } from '../core/gear';
import { checkStudio } from './check';
import { openStudio } from './db/connection';
import { isTorn } from './db/damage';
import { listVersions, openVersion } from './drawer';
import { freshStudio } from './studio.fixture';
import { anUmbra, keep, renamed } from './heart.fixture';
import { applyRetention, previewRetention } from './keeping';
import { findSounds } from './find';
import { addDevice } from './gear';
import { loadProfiles, saveProfile } from './profiles';
import { lifeOfSound } from './sounds';
import { hashOf } from './hash';
import { labelVersion } from './drawer';

const here = freshStudio();
const DAY = 86_400_000;
const NOW = Date.UTC(2026, 0, 1);
const rules = retentionSchema.parse({ keepAllDays: 10, weeklyDays: 60 });
const at = (daysAgo: number) => new Date(NOW - daysAgo * DAY).toISOString();

async function years() {
	const umbra = await anUmbra(here.studio);
	let { slots } = umbra;
	for (let day = 200; day >= 0; day -= 2) {
		slots = renamed(umbra.profile, slots, day % 50, `Day ${day}`);
		await keep(here.studio, umbra.device, umbra.profile, slots, { takenAt: at(day) });
	}
	return { ...umbra, slots };
}

describe('letting old versions go', () => {
	it('frees what the preview says, and everything that stays can be read', async () => {
		const { device } = await years();
		const preview = await previewRetention(here.studio, rules);
		expect(preview.going.length).toBeGreaterThan(60);
		expect(preview.freedBytes).toBeGreaterThan(0);
		const size = async () => {
			const [{ n }] = await here.studio.sequelize.query<{ n: number }>(
				'SELECT SUM(LENGTH(data)) AS n FROM objects',
				{ type: QueryTypes.SELECT }
			);
			return n;
		};
		const before = await size();
		const result = await applyRetention(
			here.studio,
			rules,
			preview.going.map(({ id }) => id)
		);
		expect(result).toEqual({ gone: preview.going.length, freedBytes: preview.freedBytes });
		expect(before - (await size())).toBe(preview.freedBytes);
		const left = await listVersions(here.studio, device.id);
		expect(left).toHaveLength(101 - result.gone);
		for (const { id } of left) expect((await openVersion(here.studio, id)).slots).toHaveLength(50);
		expect((await checkStudio(here.studio)).damage).toEqual([]);
		expect((await previewRetention(here.studio, rules)).going).toEqual([]);
	});

	it('what was pinned after the preview stays', async () => {
		await years();
		const { going } = await previewRetention(here.studio, rules);
		await labelVersion(here.studio, going[0].id, { title: '', note: '', tags: [], pinned: true });
		const { gone } = await applyRetention(
			here.studio,
			rules,
			going.map(({ id }) => id)
		);
		expect(gone).toBeLessThan(going.length);
		expect((await openVersion(here.studio, going[0].id)).slots).toHaveLength(50);
	});

	it('sounds that the device holds now are found as before', async () => {
		const { slots } = await years();
		const { going } = await previewRetention(here.studio, rules);
		await applyRetention(
			here.studio,
			rules,
			going.map(({ id }) => id)
		);
		const { found } = await findSounds(here.studio, 'Day 0');
		expect(found.some(({ current }) => current)).toBe(true);
		const { life } = await lifeOfSound(here.studio, hashOf(slots[0].bytes));
		expect(life.now).toMatchObject([{ slot: 0, name: 'Day 0' }]);
	});
});

describe('check', () => {
	it('decodes everything, names what is damaged, and sets it aside', async () => {
		const { device } = await years();
		const clean = await checkStudio(here.studio);
		expect(clean).toMatchObject({ damage: [], quarantined: [] });
		expect(clean.decoded).toBeGreaterThan(90);
		const [{ hash }] = await here.studio.sequelize.query<{ hash: string }>(
			`SELECT lower(hex(hash)) AS hash FROM objects WHERE base IS NOT NULL ORDER BY id DESC LIMIT 1`,
			{ type: QueryTypes.SELECT }
		);
		await here.studio.sequelize.query(`UPDATE objects SET data = x'00ff' WHERE hash = unhex(?)`, {
			replacements: [hash]
		});
		const report = await checkStudio(here.studio, { quarantine: true });
		expect(report.damage.length).toBeGreaterThan(0);
		expect(report.damage[0]).toMatchObject({ device: device.name });
		expect(report.quarantined).toMatchObject([{ hash }]);
		const bad = (await listVersions(here.studio, device.id)).find(
			({ id }) => id === report.damage[0].versionId
		);
		expect(bad!.verified).toBe(false);
	});

	it('names a version that its profile can no longer decode', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const { id } = await keep(here.studio, device, profile, slots);
		// A profile that says something else than when it was kept, and nobody noted what that was.
		await here.studio.sequelize.query(
			`UPDATE profiles SET digest = NULL, json = json_set(json, '$.messages', json('{}'))`
		);
		expect((await checkStudio(here.studio)).damage).toMatchObject([
			{ versionId: null, says: `Revision ${profile.revision} of the profile “ternhill-umbra” is damaged.` },
			{ versionId: id }
		]);
	});

	it('takes a damaged profile that ships with the app anew, and names one of one’s own', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const { id } = await keep(here.studio, device, profile, slots);
		const own = await saveProfile(here.studio, { ...profile, id: 'my-umbra' });
		const mine = await addDevice(here.studio, deviceSchema.parse({ name: 'Mine', profileId: own.id }));
		const version = await keep(here.studio, mine, own, slots);
		await here.studio.sequelize.query(
			`UPDATE profiles SET json = replace(json, '"range":[0,127]', '"range":[0,126]')`
		);
		// As after a start: nothing of them is remembered.
		const opened = await openStudio(here.studio.file);
		await loadProfiles(opened);
		await expect(openVersion(opened, id)).rejects.toMatchObject({ code: 'profile.damaged' });
		const { damage, healed } = await checkStudio(opened);
		expect(healed).toBe(1);
		expect(damage.map(({ says, versionId }) => [says, versionId])).toEqual([
			['Revision 1 of the profile “my-umbra” is damaged.', null],
			['Revision 1 of the profile “my-umbra” is damaged in this studio.', version.id]
		]);
		expect((await openVersion(opened, id)).slots).toHaveLength(slots.length);
		await opened.close();
	});

	it.each([
		['of which device it is', `UPDATE versions SET device = (SELECT id FROM words WHERE text = 'programs')`],
		['when it was taken', 'UPDATE versions SET takenAt = takenAt + 86400000'],
		['how it was proved', `UPDATE versions SET proof = (SELECT id FROM words WHERE text = 'hardware')`],
		[
			'which message it is made of',
			'UPDATE version_messages SET object = (SELECT MAX(object) FROM version_messages)'
		]
	])('names a version whose row says otherwise %s', async (_what, sql) => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const { id } = await keep(here.studio, device, profile, slots);
		await keep(here.studio, device, profile, renamed(profile, slots, 2, 'Other'));
		expect((await checkStudio(here.studio)).damage).toEqual([]);
		await here.studio.sequelize.query(sql);
		await expect(openVersion(here.studio, id)).rejects.toMatchObject({ code: 'version.not-whole' });
		expect((await checkStudio(here.studio)).damage).toContainEqual(
			expect.objectContaining({ versionId: id, says: 'its entry is not what was stored' })
		);
	});

	it.each(['readAt', 'position'])('names a version whose messages have bytes for %s', async (column) => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const { id } = await keep(here.studio, device, profile, slots);
		// One bit of how a number is stored makes bytes of it.
		await here.studio.sequelize.query(
			`UPDATE version_messages SET ${column} = x'' WHERE position = (SELECT MAX(position) FROM version_messages)`
		);
		await expect(openVersion(here.studio, id)).rejects.toSatisfy(isTorn);
		expect((await checkStudio(here.studio)).damage).toContainEqual(
			expect.objectContaining({ versionId: id })
		);
	});
});
