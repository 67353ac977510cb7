import { describe, expect, it } from 'vitest';
import { deviceSchema } from '../core/gear';
import type { Profile } from '../core/profile';
import { keepVersion, listVersions } from './drawer';
import { addDevice } from './gear';
import { anUmbra, dumpOf, keep } from './heart.fixture';
import { knownProfiles } from './profiles';
import { tryOnStudio } from './profile-trial';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const spoilt = (profile: Profile, spoil: (profile: Profile) => void): Profile => {
	const copy = JSON.parse(JSON.stringify(profile)) as Profile;
	spoil(copy);
	return copy;
};

describe('a profile that is tried before it is saved', () => {
	it('says what it reads as now, and changes nothing', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots);
		const before = knownProfiles(here.studio).length;
		const { revision, drawers, report } = await tryOnStudio(here.studio, profile);
		expect(revision).toBe(profile.revision);
		expect(drawers).toHaveLength(1);
		const [drawer] = drawers;
		expect(drawer).toMatchObject({
			device: { id: device.id, name: device.name },
			dumps: 1,
			slots: slots.length,
			slotsNow: slots.length,
			renamed: 0,
			otherwise: 0
		});
		expect([drawer.read, drawer.readNow, drawer.rebuilt]).toEqual(Array(3).fill(drawer.messages));
		expect(report).toMatchObject({ dumps: 1, messages: drawer.messages, read: drawer.messages });
		expect(knownProfiles(here.studio)).toHaveLength(before);
		expect(await listVersions(here.studio, device.id)).toHaveLength(1);
	});

	it('says what is no longer read, and which slots have another name', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots);
		const [{ record }] = profile.areas;
		const shorter = spoilt(profile, ({ records }) => (records[record].name!.length -= 4));
		const [renamed] = (await tryOnStudio(here.studio, shorter)).drawers;
		const longNames = slots.filter(
			({ area, name }) => area === profile.areas[0].id && (name ?? '').length > records(profile) - 4
		);
		expect(longNames.length).toBeGreaterThan(0);
		expect(renamed.renamed).toBe(longNames.length);
		expect(renamed.otherwise).toBe(0);
		const blind = spoilt(profile, ({ messages }) => {
			for (const { parts } of Object.values(messages)) {
				const [first] = parts;
				if (first.part === 'bytes') first.bytes = first.bytes.replace(/^F0 ../, 'F0 6F');
			}
		});
		const [lost] = (await tryOnStudio(here.studio, blind)).drawers;
		expect([lost.read, lost.slots]).toEqual([0, 0]);
		expect(lost.readNow).toBe(lost.messages);
	});

	it('finds what is kept raw of it, and passes over what it does not read', async () => {
		const { profile, slots } = await anUmbra(here.studio);
		const raw = await addDevice(here.studio, deviceSchema.parse({ name: 'Raw' }));
		const other = await addDevice(here.studio, deviceSchema.parse({ name: 'Other' }));
		const bytes = dumpOf(profile, slots);
		for (const [device, messages] of [
			[raw, bytes],
			[other, [Uint8Array.of(0xf0, 0x6f, 1, 2, 0xf7)]]
		] as const)
			await keepVersion(here.studio, {
				device,
				profile: null,
				messages,
				kind: 'routine',
				world: 'hardware',
				proof: 'none'
			});
		const { drawers } = await tryOnStudio(here.studio, profile);
		expect(drawers).toMatchObject([{ device: { name: 'Raw' }, readNow: null, read: bytes.length }]);
	});

	it('leaves out what is damaged, and says so', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots);
		const db = here.studio.sequelize;
		await db.query('DELETE FROM version_messages WHERE position = 0');
		const { drawers, report } = await tryOnStudio(here.studio, profile);
		expect(drawers).toMatchObject([{ dumps: 0, damaged: 1 }]);
		expect(report).toBeNull();
		// What fails for another reason is not taken for damage.
		await db.query('ALTER TABLE versions RENAME TO elsewhere');
		await expect(tryOnStudio(here.studio, profile)).rejects.toThrow();
	});

	it('is refused with its faults, and has no report where nothing is kept', async () => {
		const { profile } = await anUmbra(here.studio);
		expect(await tryOnStudio(here.studio, profile)).toMatchObject({ drawers: [], report: null });
		await expect(tryOnStudio(here.studio, { ...profile, areas: [] })).rejects.toMatchObject({
			code: 'profile.invalid'
		});
	});
});

const records = (profile: Profile) => profile.records[profile.areas[0].record].name!.length;
