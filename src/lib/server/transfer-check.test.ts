import { describe, expect, it } from 'vitest';
import { slotFacts } from './slot-facts';
import { bankFromVersion } from './bank-imports';
import { keepSafetyCopy, beginTransfer } from './transfers';
import { putAdapterTest } from './store/ports';
import { versionsHolding } from './store/versions';
import { deviceSchema } from '../core/gear';
import { addDevice, touchDevice } from './gear';
import { hashOf } from './hash';
import { anUmbra, dumpOf, keep, renamed } from './heart.fixture';
import { freshStudio } from './studio.fixture';
import { checkTransfer } from './transfer-check';
import { toHex } from '../core/midi';

const here = freshStudio();
const ask = (query: string, world: 'bench' | 'hardware' = 'hardware', pace = 1) =>
	checkTransfer(here.studio, new URLSearchParams(query), world, pace);

describe('a transfer before it begins', () => {
	it('counts what is chosen and differs by what was read last, once', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const old = await keep(here.studio, device, profile, slots);
		await keep(
			here.studio,
			device,
			profile,
			renamed(profile, renamed(profile, slots, 3, 'Other'), 7, 'Another')
		);
		const all = await ask(`version=${old.id}`);
		expect(all.check).toMatchObject({ direction: 'restore', wanted: 50, unprovable: [] });
		expect(all.check!.dry).toMatchObject({ alreadyThere: 48, unknown: 0 });
		expect(all.slots.filter(({ state }) => state !== 'already there')).toMatchObject([
			{ index: 3, now: 'Other', state: 'differs' },
			{ index: 7, now: 'Another', state: 'differs' }
		]);
		const two = await ask(`version=${old.id}&slots=programs:3,programs:4`);
		expect(two.check).toMatchObject({ wanted: 2, dry: { alreadyThere: 1 } });
		expect(two.scope).toEqual({
			kind: 'slots',
			slots: [
				{ area: 'programs', index: 3 },
				{ area: 'programs', index: 4 }
			]
		});
	});

	it('takes nothing for known that was read before somebody changed sounds at the panel', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const old = await keep(here.studio, device, profile, slots);
		expect((await ask(`version=${old.id}`)).check!.dry).toMatchObject({ unknown: 0, alreadyThere: 50 });
		await touchDevice(here.studio, device.id);
		expect((await ask(`version=${old.id}`)).check!.dry).toMatchObject({ unknown: 50, alreadyThere: 0 });
	});

	it('knows nothing of the other world', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const old = await keep(here.studio, device, profile, slots);
		const bench = await ask(`version=${old.id}`, 'bench');
		expect(bench.check!.dry).toMatchObject({ unknown: 50, alreadyThere: 0, readAt: null });
		expect(bench.slots.every(({ state }) => state === 'not known')).toBe(true);
		// A test of a real adapter says nothing of the bench's cable, and the other way round.
		await putAdapterTest(
			here.studio,
			'bench:null',
			'{"through":"device","longestBytes":10,"triedBytes":99,"gapMs":0,"trouble":"none","says":"","ended":"done"}',
			'2026-01-01T00:00:00.000Z'
		);
		expect((await ask(`version=${old.id}`)).adapter).toBeNull();
		expect((await ask(`version=${old.id}`, 'bench')).adapter).toMatchObject({ longestBytes: 10 });
	});

	it('takes longer with longer pauses, and asks the panel for what the profile says', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const old = await keep(here.studio, device, profile, slots);
		const [usual, slow] = [await ask(`version=${old.id}`), await ask(`version=${old.id}`, 'hardware', 5)];
		expect(slow.expectedMs).toBeGreaterThan(usual.expectedMs);
		expect(usual.check!.checks.map(({ says }) => says)).toEqual(
			profile.preflight.restore.map(({ says }) => says)
		);
		expect((await ask(`device=${device.id}`)).check).toMatchObject({
			direction: 'capture',
			wanted: 50,
			checks: []
		});
	});

	it('says that a restore to the device broke off', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const old = await keep(here.studio, device, profile, slots);
		expect((await ask(`device=${device.id}`)).torn).toBe(false);
		const { id } = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'restore',
			world: 'hardware',
			scope: { kind: 'all' },
			source: { from: 'version', versionId: old.id, scope: { kind: 'all' } },
			sourceVersionId: old.id
		});
		await keepSafetyCopy(here.studio, id, {
			messages: dumpOf(profile, slots).map((bytes) => toHex(bytes)),
			firmware: null
		});
		expect((await ask(`device=${device.id}`)).torn).toBe(true);
		expect((await ask(`device=${device.id}`, 'bench')).torn).toBe(false);
	});

	it.each([
		['', 'Which device is it about?'],
		['device=none', 'There is no device “none”'],
		['version=none', 'There is no version “none”'],
		['bank=none', 'There is no bank'],
		['again=none', 'There is no transfer'],
		['sounds=programs:x:y', 'That address names no sounds']
	])('refuses %j with the reason', async (query, says) => {
		await expect(ask(query)).rejects.toThrow(says);
	});
});

describe('a slot of a version', () => {
	it('has its parameters, the banks that hold it, and where the very same content is', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const twice = slots.map((slot) =>
			slot.index === 9 ? { ...slot, bytes: slots[4].bytes, name: slots[4].name } : slot
		);
		const version = await keep(here.studio, device, profile, twice);
		const bank = await bankFromVersion(here.studio, version.id, 'programs', 'Show');
		const facts = await slotFacts(here.studio, version.id, 'programs:4');
		expect(facts).toMatchObject({ index: 4, of: 50, name: slots[4].name, record: hashOf(slots[4].bytes) });
		expect(facts.places.map(({ label }) => label).sort()).toEqual(
			[facts.label, facts.devices[0].labels[9]].sort()
		);
		expect(facts.banks).toEqual([
			{ id: bank.id, title: 'Show', labels: [facts.devices[0].labels[4], facts.devices[0].labels[9]] }
		]);
		expect(facts.parameters).toHaveLength(profile.records.program.parameters.length);
		expect(facts.devices[0].labels).toHaveLength(50);
		await expect(slotFacts(here.studio, version.id, 'programs:50')).rejects.toThrow('holds no slot');
	});
});

describe('versions that hold exactly these messages', () => {
	it('are found, and those that hold one more, one less or another are not', async () => {
		const { profile, device, slots } = await anUmbra(here.studio);
		const version = await keep(here.studio, device, profile, slots);
		await keep(here.studio, device, profile, renamed(profile, slots, 0, 'Other'));
		const hashes = dumpOf(profile, slots).map(hashOf);
		expect(await versionsHolding(here.studio, hashes)).toMatchObject([
			{ id: version.id, deviceId: device.id }
		]);
		expect(await versionsHolding(here.studio, [...hashes, hashes[0]])).toEqual([]);
		expect(await versionsHolding(here.studio, hashes.slice(0, -1))).toEqual([]);
		expect(await versionsHolding(here.studio, [])).toEqual([]);
	});
});

it('looks who else hears what a device is told on its channel, and not where it is told nothing there', async () => {
	const given = deviceSchema.parse({ name: 'Skiff', profileId: 'merrow-skiff', channel: 4 });
	const skiff = await addDevice(here.studio, given);
	expect((await ask(`device=${skiff.id}`)).alsoHearing).toEqual({ channel: 4, surely: [], perhaps: [] });
	// On the bench each device has a line of its own.
	expect((await ask(`device=${skiff.id}`, 'bench')).alsoHearing).toBeNull();
	const umbra = await anUmbra(here.studio);
	expect((await ask(`device=${umbra.device.id}`)).alsoHearing).toBeNull();
});
