import { describe, expect, it } from 'vitest';
import { lastSeen } from '../core/drawer';
import { factoryState, seededRandom } from '../core/bench';
import { joinBytes, toHex } from '../core/midi';
import { makeSlot, messagesFor, profileDigest } from '../core/profile';
import { createBank, getBank } from './banks';
import { bankFromVersion } from './bank-imports';
import { takeBundle } from './bundle/take';
import { getVersion, keepVersion, listVersions, openVersion } from './drawer';
import { inspectFile, storeFile, storeParts } from './files';
import { findSounds } from './find';
import { addDevice, factsOfModel } from './gear';
import { anUmbra, asFile, bundleOf, dumpOf, keep, renamed } from './heart.fixture';
import { hashOf } from './hash';
import { settleWorld } from './indexing';
import { localDay } from './local-time';
import { mergeBank } from './merging';
import { currentProfile, knownProfiles, profileRevision, saveProfile, shippedProfile } from './profiles';
import { beginSnapshot, snapshotItems } from './snapshots';
import { readKnowledge } from './store/knowledge';
import { freshStudio } from './studio.fixture';
import { beginTransfer, finishTransfer, keepSafetyCopy } from './transfers';
import { bringVersionBack, letVersionGo, moveVersion } from './version-moves';

const here = freshStudio();
const elsewhere = freshStudio();

describe('profiles are what they say', () => {
	it('a revision number that two studios gave to different profiles reads each dump as it was read', async () => {
		const { device, slots, profile } = await anUmbra(here.studio);
		const mine = await saveProfile(here.studio, { ...profile, remarks: 'Mine.' });
		const theirs = await saveProfile(elsewhere.studio, { ...profile, remarks: 'Theirs.' });
		expect(mine.revision).toBe(theirs.revision);
		await keep(here.studio, device, mine, slots);
		const there = await anUmbra(elsewhere.studio);
		const kept = await keep(elsewhere.studio, there.device, theirs, there.slots);
		await takeBundle(here.studio, await bundleOf(elsewhere.studio));
		const taken = await openVersion(here.studio, kept.id);
		expect(taken.profile!.remarks).toBe('Theirs.');
		expect(taken.version.profileRevision).not.toBe(theirs.revision);
		expect(profileDigest(taken.profile!)).toBe(profileDigest(theirs));
		// The musician’s own stays the one that reads what comes.
		expect(currentProfile(here.studio, profile.id).remarks).toBe('Mine.');
	});

	it('a shipped profile never hides the musician’s own, however old that is', async () => {
		const shipped = shippedProfile('ternhill-umbra');
		const mine = await saveProfile(here.studio, { ...shipped, remarks: 'Mine.' });
		await here.studio.sequelize.query('UPDATE profiles SET revision = 0 WHERE own = 1');
		expect(mine.revision).toBeGreaterThan(shipped.revision);
		expect(knownProfiles(here.studio).find(({ id }) => id === shipped.id)!.remarks).toBe('Mine.');
		await expect(profileRevision(here.studio, shipped.id, 99)).rejects.toMatchObject({
			code: 'profile.not-found'
		});
	});
});

describe('the common ground of a bank', () => {
	async function send(bankId: string, deviceId: string, held: Uint8Array[], after: Uint8Array[]) {
		const transfer = await beginTransfer(here.studio, {
			deviceId,
			direction: 'restore',
			world: 'hardware',
			scope: { kind: 'all' },
			source: { from: 'bank', bankId }
		});
		await keepSafetyCopy(here.studio, transfer.id, { messages: held.map((m) => toHex(m)), firmware: null });
		return finishTransfer(here.studio, transfer.id, {
			status: 'verified',
			reason: null,
			readBack: after.map((m) => toHex(m)),
			touched: [{ area: 'programs', index: 2 }]
		});
	}

	it('is what was sent: a bank merges without conflicts after it was sent, also one that was begun empty', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const version = await keep(here.studio, device, profile, slots);
		const donor = makeSlot(profile, 'programs', 2, slots[9].bytes);
		const record = hashOf(donor.bytes);
		const empty = await createBank(here.studio, device.id, {
			title: 'Empty',
			note: '',
			profileId: profile.id,
			area: 'programs',
			entries: slots.map((_, i) => (i === 2 ? { record, name: slots[9].name!, from: '', song: '' } : null))
		});
		await expect(mergeBank(here.studio, empty.id)).rejects.toMatchObject({ code: 'merge.no-base' });
		const now = slots.map((slot) => (slot.index === 2 ? donor : slot));
		await send(empty.id, device.id, dumpOf(profile, slots), dumpOf(profile, now));
		expect((await getBank(here.studio, empty.id)).base![2]).toBe(record);
		// Somebody changes the same sound at the device: that is a change there, and no conflict.
		await keep(here.studio, device, profile, renamed(profile, now, 2, 'Theirs'));
		const { slots: merged } = await mergeBank(here.studio, empty.id);
		expect(merged.filter(({ state }) => state !== 'same').map(({ index, state }) => [index, state])).toEqual([
			[2, 'changed on the device']
		]);
		expect((await bankFromVersion(here.studio, version.id, 'programs', 'B')).base).toHaveLength(50);
	});

	it('cannot be merged while a slot of the device is not known', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const version = await keep(here.studio, device, profile, slots);
		const bank = await bankFromVersion(here.studio, version.id, 'programs', 'B');
		const transfer = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'restore',
			world: 'hardware',
			scope: { kind: 'all' },
			sourceVersionId: version.id
		});
		await keepSafetyCopy(here.studio, transfer.id, {
			messages: dumpOf(profile, slots).map((m) => toHex(m)),
			firmware: null
		});
		await expect(mergeBank(here.studio, bank.id)).rejects.toMatchObject({
			code: 'merge.no-device',
			message: expect.stringContaining('50 of 50 slots')
		});
	});
});

describe('files', () => {
	it('a dump of one of twins goes to the one whose device ID it carries', async () => {
		const one = await anUmbra(here.studio, 'Umbra one');
		const facts = factsOfModel(here.studio, one.profile.id, 'Umbra two');
		const two = await addDevice(here.studio, { ...facts, deviceId: 2 });
		const bytes = joinBytes(messagesFor(one.profile, one.slots, { deviceId: 2, channel: 1 }));
		const { devices } = await inspectFile(here.studio, bytes, 'twin.syx');
		expect(devices.filter(({ fits }) => fits).map(({ id, why }) => [id, why])).toEqual([
			[two.id, 'same model'],
			[one.device.id, 'same model, another device ID']
		]);
	});

	it('a file of several devices is cut, and every part kept in its drawer, or none', async () => {
		const umbra = await anUmbra(here.studio);
		const nadir = shippedProfile('quillon-nadir');
		const drums = await addDevice(here.studio, factsOfModel(here.studio, nadir.id, 'Drums'));
		const { memory } = factoryState(nadir, seededRandom(4));
		const part = memory[nadir.areas[0].id].map((bytes, i) => makeSlot(nadir, nadir.areas[0].id, i, bytes));
		const bytes = joinBytes([
			...dumpOf(umbra.profile, umbra.slots),
			...messagesFor(nadir, part, { deviceId: drums.deviceId ?? 0, channel: 1 })
		]);
		const { parts } = await inspectFile(here.studio, bytes, 'both.syx');
		expect(parts.map(({ title, slots }) => [title, slots!.held])).toEqual([
			['Ternhill Umbra', 50],
			['Quillon Nadir', part.length]
		]);
		expect(parts.map(({ fault, already }) => [fault, already])).toEqual([
			['', []],
			['', []]
		]);
		// What is wrong with one part is said of that part, by its number in the file.
		const torn = bytes.slice();
		torn[bytes.length - 9] ^= 1;
		const last = parts[1].messages.at(-1)!;
		expect((await inspectFile(here.studio, torn, 'torn.syx')).parts.map(({ fault }) => fault)).toEqual([
			'',
			expect.stringMatching(`^Message ${last + 1} is damaged`)
		]);
		const short = await inspectFile(here.studio, bytes.slice(0, -4), 'short.syx');
		expect(short.parts.map(({ fault }) => fault)).toEqual(['', expect.stringMatching(/^Truncated/)]);
		const orders = parts.map(({ messages }, i) => ({
			bytes,
			name: 'both.syx',
			messages,
			deviceId: [umbra.device.id, drums.id][i]
		}));
		await expect(
			storeParts(here.studio, [orders[0], { ...orders[1], deviceId: umbra.device.id }])
		).rejects.toMatchObject({ code: 'file.wrong-model' });
		expect(await listVersions(here.studio, umbra.device.id)).toEqual([]);
		const kept = await storeParts(here.studio, orders);
		expect(kept.map(({ deviceId, slots, world }) => [deviceId, slots, world])).toEqual([
			[umbra.device.id, 50, 'file'],
			[drums.id, part.length, 'file']
		]);
	});

	it('can be moved, dated and let go, each with a way back; what was read here cannot be moved', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const other = await addDevice(here.studio, factsOfModel(here.studio, profile.id, 'Umbra two'));
		const file = await storeFile(here.studio, {
			bytes: asFile(profile, slots),
			name: 'old.syx',
			deviceId: device.id
		});
		await moveVersion(here.studio, file.id, { deviceId: other.id, takenAt: '2019-05-01T12:00:00Z' });
		expect(await getVersion(here.studio, file.id)).toMatchObject({
			deviceId: other.id,
			takenAt: '2019-05-01T12:00:00.000Z'
		});
		const sighted = async () =>
			(await findSounds(here.studio, slots[0].name!)).found.map(({ deviceId }) => deviceId);
		expect(await sighted()).toEqual([other.id]);
		await letVersionGo(here.studio, file.id);
		expect(await listVersions(here.studio, other.id)).toEqual([]);
		expect(await sighted()).toEqual([]);
		await bringVersionBack(here.studio, file.id);
		expect(await listVersions(here.studio, other.id)).toHaveLength(1);
		expect(await sighted()).toEqual([other.id]);
		const read = await keep(here.studio, device, profile, slots);
		await expect(moveVersion(here.studio, read.id, { deviceId: other.id })).rejects.toMatchObject({
			code: 'version.read-here'
		});
		await expect(letVersionGo(here.studio, read.id)).rejects.toMatchObject({ code: 'version.needed' });
	});
});

describe('a bundle', () => {
	it('holds a version of 1970 too, and names files by the day in the musician’s time zone', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots, { takenAt: '1970-01-01T00:00:00.000Z' });
		const late = '2026-03-01T23:30:00.000Z';
		await keep(here.studio, device, profile, renamed(profile, slots, 1, 'X'), { takenAt: late });
		const bytes = await bundleOf(here.studio);
		expect(await takeBundle(elsewhere.studio, bytes)).toMatchObject({ devices: 1, versions: 2 });
		expect(Buffer.from(bytes).includes(`${localDay(late)}-0002.syx`)).toBe(true);
	});

	it('keeps where each version was read and how it was proved, and says nothing of a device here', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const read = await keep(here.studio, device, profile, slots, { proof: 'read back' });
		const bench = await keep(here.studio, device, profile, slots, { world: 'bench' });
		await takeBundle(elsewhere.studio, await bundleOf(here.studio));
		for (const { id, world, proof } of [read, bench])
			expect(await getVersion(elsewhere.studio, id)).toMatchObject({ world, proof });
	});
});

describe('snapshots', () => {
	it('a part never stands for a bank: “last known” is the newest version that holds all of it', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		const whole = await keep(here.studio, device, profile, slots);
		const parallax = shippedProfile('tarnow-parallax');
		const west = await addDevice(here.studio, factsOfModel(here.studio, parallax.id, 'West'));
		const one = makeSlot(parallax, 'programs', 4, factoryState(parallax, seededRandom(1)).memory.programs[4]);
		await keepVersion(here.studio, {
			device: west,
			profile: parallax,
			messages: messagesFor(parallax, [one], { deviceId: 0 }),
			kind: 'safety',
			world: 'hardware',
			proof: 'checksum'
		});
		await keep(here.studio, device, profile, slots, { kind: 'imported', world: 'file', proof: 'none' });
		const snapshot = await beginSnapshot(here.studio, {
			title: '',
			note: '',
			predictedMs: 0,
			devices: [],
			left: []
		});
		const items = await snapshotItems(here.studio, snapshot.id);
		expect(items.map(({ deviceId, versionId, status }) => [deviceId, versionId, status])).toEqual([
			[device.id, whole.id, 'last known']
		]);
	});
});

describe('a studio from before worlds were noted', () => {
	it('counts for nothing until it is known to be one of the bench, and then as it was', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots, { world: 'unrecorded' });
		await here.studio.sequelize.query('UPDATE versions SET coverage = NULL');
		expect((await readKnowledge(here.studio, device.id, 'bench')).slots.size).toBe(0);
		await settleWorld(here.studio, 'bench');
		const [version] = await listVersions(here.studio, device.id);
		expect(version).toMatchObject({ world: 'bench', coverage: [['programs', 0, 50]] });
		const knowledge = await readKnowledge(here.studio, device.id, 'bench');
		expect(lastSeen(knowledge, { area: 'programs', index: 9 })).toMatchObject({ versionId: version.id });
		expect((await readKnowledge(here.studio, device.id, 'hardware')).slots.size).toBe(0);
	});
});
