import { describe, expect, it } from 'vitest';
import { shippedProfile, currentProfile, listRevisions, saveProfile } from './profiles';
import { hashOf } from './hash';
import { freshStudio } from './studio.fixture';
import { anUmbra, keep, renamed } from './heart.fixture';
import { familiesOf, lifeOfSound, soundsFor } from './sounds';
import { rereadVersion } from './reread';
import { indexRecords } from './indexing';
import { keepAdapterTest, adapterTests, rememberPorts, rememberedPorts } from './midi-ports';
import { getVersion, keepVersion, openVersion } from './drawer';
import { addDevice, updateDevice } from './gear';
import { deviceSchema } from '../core/gear';
import { dumpOf } from './heart.fixture';

const here = freshStudio();

describe('sounds in all drawers', () => {
	it('have one life over two devices', async () => {
		const hall = await anUmbra(here.studio, 'Hall', 1);
		const stage = await anUmbra(here.studio, 'Stage', 2);
		await keep(here.studio, hall.device, hall.profile, hall.slots);
		const later = renamed(hall.profile, hall.slots, 3, 'Found');
		await keep(here.studio, hall.device, hall.profile, later);
		await keep(
			here.studio,
			stage.device,
			stage.profile,
			stage.slots.map((slot) => (slot.index === 20 ? { ...later[3], index: 20, label: '21' } : slot))
		);
		const { life, sound } = await lifeOfSound(here.studio, hashOf(hall.slots[3].bytes));
		expect(sound.model).toBe('Ternhill Umbra');
		expect(life.events.map(({ kind, stay }) => [kind, stay.slot])).toEqual([
			['created', 3],
			['renamed', 3],
			['copied', 20]
		]);
		expect(life.now).toHaveLength(2);
		expect(
			(await soundsFor(here.studio, 'ternhill-umbra', 'programs', 'foun')).map(({ name }) => name)
		).toEqual(['Found']);
		const { families } = await familiesOf(here.studio, 'ternhill-umbra', 'programs', {});
		expect(families.find(({ members }) => members.some(({ name }) => name === 'Found'))).toMatchObject({
			kind: 'same',
			size: 2
		});
	});

	it('are indexed where an older app had not', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots);
		await here.studio.sequelize.query('UPDATE records SET data = NULL');
		expect(await indexRecords(here.studio)).toBe(1);
		expect(await soundsFor(here.studio, profile.id, 'programs', '')).toHaveLength(50);
		expect(await indexRecords(here.studio)).toBe(0);
	});
});

describe('profiles by people', () => {
	it('count revisions; a dump keeps the one that read it until it is read again', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const version = await keep(here.studio, device, profile, slots);
		const saved = await saveProfile(here.studio, { ...profile, remarks: 'Better.' });
		expect(saved.revision).toBe(profile.revision + 1);
		expect(currentProfile(here.studio, profile.id).remarks).toBe('Better.');
		expect(shippedProfile(profile.id).remarks).not.toBe('Better.');
		expect((await openVersion(here.studio, version.id)).profile!.revision).toBe(profile.revision);
		const again = await rereadVersion(here.studio, version.id);
		expect(again.profileRevision).toBe(saved.revision);
		expect(again.messages).toEqual(version.messages);
		expect(
			(await listRevisions(here.studio, profile.id)).map(({ revision, versions }) => [revision, versions])
		).toEqual([
			[saved.revision, 1],
			[profile.revision, 0]
		]);
	});

	it('a raw dump is read once its device has a profile, and never by one that reads less', async () => {
		const { profile, slots } = await anUmbra(here.studio);
		const device = await addDevice(here.studio, deviceSchema.parse({ name: 'Raw' }));
		const version = await keepVersion(here.studio, {
			device,
			profile: null,
			messages: dumpOf(profile, slots),
			kind: 'routine',
			world: 'hardware',
			proof: 'none'
		});
		await expect(rereadVersion(here.studio, version.id)).rejects.toMatchObject({
			code: 'version.no-profile'
		});
		await updateDevice(
			here.studio,
			device.id,
			deviceSchema.parse({ name: 'Raw', profileId: 'vellbrook-orrery' })
		);
		await expect(rereadVersion(here.studio, version.id)).rejects.toMatchObject({
			code: 'version.reads-less'
		});
		await updateDevice(here.studio, device.id, deviceSchema.parse({ name: 'Raw', profileId: profile.id }));
		// A disk that is full where its sounds would be learnt: it stays as raw as it was.
		const db = here.studio.sequelize;
		await db.query(
			"CREATE TRIGGER full BEFORE INSERT ON slot_runs BEGIN SELECT RAISE(ABORT, 'disk full'); END"
		);
		await expect(rereadVersion(here.studio, version.id)).rejects.toThrow('disk full');
		expect(await getVersion(here.studio, version.id)).toMatchObject({
			profileId: null,
			slots: version.slots
		});
		await db.query('DROP TRIGGER full');
		expect(await rereadVersion(here.studio, version.id)).toMatchObject({ profileId: profile.id, slots: 50 });
	});

	it('a faulty one is refused with its faults', async () => {
		await expect(saveProfile(here.studio, { format: 'silent-drawer.profile' })).rejects.toMatchObject({
			code: 'profile.invalid'
		});
	});
});

describe('ports of the computer', () => {
	it('are remembered; a port belongs to one socket', async () => {
		const port = {
			key: 'ferry:out-1',
			direction: 'out' as const,
			id: 'a',
			name: 'Ferry 1',
			manufacturer: 'Ferrow'
		};
		await rememberPorts(here.studio, [port]);
		await rememberPorts(here.studio, [{ ...port, key: 'ferry:out-2' }]);
		expect(await rememberedPorts(here.studio)).toEqual([{ ...port, key: 'ferry:out-2' }]);
	});

	it('keep the newest verdict on their adapter', async () => {
		const verdict = {
			through: 'loopback',
			longestBytes: 256,
			triedBytes: 512,
			gapMs: 5,
			trouble: 'swallows messages',
			says: '256',
			ended: 'done'
		} as const;
		await keepAdapterTest(here.studio, 'ferry:out-1', verdict);
		await keepAdapterTest(here.studio, 'ferry:out-1', { ...verdict, longestBytes: 300 });
		expect(await adapterTests(here.studio)).toMatchObject([
			{ key: 'ferry:out-1', verdict: { longestBytes: 300 } }
		]);
	});
});
