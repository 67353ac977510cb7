import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../core/bench';
import { deviceSchema } from '../core/gear';
import { fromHex } from '../core/midi';
import { convertSlots, makeSlot, type Slot } from '../core/profile';
import type { Scope } from '../core/transfer';
import { bankFromVersion } from './bank-imports';
import { takeFound, undoTake } from './contact';
import { dryRunOf } from './dry-run';
import { addDevice, getDevice } from './gear';
import { saveDevice } from './give-profile';
import { hashOf } from './hash';
import { inspectFile, storeFile } from './files';
import { anUmbra, asFile, keep } from './heart.fixture';
import { saveProfile, shippedProfile } from './profiles';
import { slotFacts } from './slot-facts';
import { readKnowledge } from './store/knowledge';
import { freshStudio } from './studio.fixture';
import { beginTransfer, wantedOf } from './transfers';
import { abandonTransfer } from './unfinished';

const here = freshStudio();
const first = shippedProfile('averill-sconce');
const second = shippedProfile('averill-sconce-2');

/** A keyboard that was read with its first system, and has its second since. */
async function updated() {
	const device = await addDevice(
		here.studio,
		deviceSchema.parse({ name: 'Hall keys', profileId: first.id, deviceId: 0 })
	);
	const slots = factoryState(first, seededRandom(3)).memory.programs.map((bytes, i) =>
		makeSlot(first, 'programs', i, bytes)
	);
	const version = await keep(here.studio, device, first, slots);
	await saveDevice(here.studio, device.id, { ...device, profileId: second.id });
	return { device: await getDevice(here.studio, device.id), slots, version };
}

const wantedFor = async (
	deviceId: string,
	source: Parameters<typeof beginTransfer>[1]['source']
): Promise<[string, number, string][]> => {
	const transfer = await beginTransfer(here.studio, {
		world: 'hardware',
		deviceId,
		direction: 'restore',
		scope: { kind: 'all' },
		source
	});
	const { slots } = await wantedOf(here.studio, transfer.id);
	await abandonTransfer(here.studio, transfer.id);
	return slots.map(({ area, index, hex }) => [area, index, hashOf(fromHex(hex))]);
};

const contents = (slots: readonly Slot[]) =>
	slots.map(({ area, index, bytes }) => [area, index, hashOf(bytes)]);

describe('a device that is another variant by now', () => {
	it('is not said to hold what was read of it before', async () => {
		const { device, version } = await updated();
		const knowledge = await readKnowledge(here.studio, device.id, 'hardware');
		expect(knowledge.slots.size).toBe(32);
		expect(knowledge.touchedAt).not.toBeNull();
		const source = { from: 'version' as const, versionId: version.id, scope: { kind: 'all' as const } };
		expect(await dryRunOf(here.studio, { deviceId: device.id, source })).toMatchObject({
			alreadyThere: 0,
			unknown: 32
		});
	});

	it('takes an older version as far as it fits, in its own records, and says what is lost', async () => {
		const { device, slots, version } = await updated();
		const oracle = convertSlots(first, slots, second);
		const source = { from: 'version' as const, versionId: version.id, scope: { kind: 'all' as const } };
		const { converted } = await dryRunOf(here.studio, { deviceId: device.id, source });
		expect(converted).toMatchObject({
			from: 'Averill Sconce, firmware 1',
			to: 'Averill Sconce, firmware 2',
			lost: oracle.lost
		});
		const wanted = await wantedFor(device.id, source);
		expect(wanted).toEqual(contents(oracle.slots));
		// The version itself stays as it was read.
		expect((await slotFacts(here.studio, version.id, 'programs:2')).record).toBe(hashOf(slots[2].bytes));
	});

	it('takes chosen slots, a bank and single sounds of the other variant alike', async () => {
		const { device, slots, version } = await updated();
		const oracle = convertSlots(first, slots, second).slots;
		const chosen = await wantedFor(device.id, {
			from: 'version',
			versionId: version.id,
			scope: { kind: 'slots', slots: [{ area: 'programs', index: 4 }] }
		});
		expect(chosen).toEqual(contents([oracle[4]]));
		const bank = await bankFromVersion(here.studio, version.id, 'programs', 'Tour');
		expect(await wantedFor(device.id, { from: 'bank', bankId: bank.id })).toEqual(contents(oracle));
		const sound = await wantedFor(device.id, {
			from: 'sounds',
			sounds: [{ area: 'programs', index: 60, record: hashOf(slots[7].bytes) }]
		});
		expect(sound).toEqual([['programs', 60, hashOf(oracle[7].bytes)]]);
		// What is wanted is kept as its own: begun again, it is not converted once more.
		const again = await wantedFor(device.id, {
			from: 'sounds',
			sounds: [{ area: 'programs', index: 60, record: hashOf(oracle[7].bytes) }]
		});
		expect(again).toEqual(sound);
	});

	it('takes of an older version the area that is asked for, and no other', async () => {
		const carded = shippedProfile('averill-sconce-2-card');
		const { memory } = factoryState(carded, seededRandom(4));
		const device = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Carded keys', profileId: carded.id, deviceId: 0 })
		);
		const slots = ['programs', 'card'].flatMap((area) =>
			memory[area].map((bytes, i) => makeSlot(carded, area, i, bytes))
		);
		const version = await keep(here.studio, device, carded, slots);
		const plain = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Plain keys', profileId: second.id, deviceId: 0 })
		);
		const other = { ...carded, id: 'carded-too', variant: { ...carded.variant!, title: 'another card' } };
		await saveProfile(here.studio, other);
		const twin = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Twin keys', profileId: other.id, deviceId: 0 })
		);
		const areasFor = async (deviceId: string, scope: Scope) => [
			...new Set(
				(await wantedFor(deviceId, { from: 'version', versionId: version.id, scope })).map(([area]) => area)
			)
		];
		expect(await areasFor(twin.id, { kind: 'all' })).toEqual(['programs', 'card']);
		expect(await areasFor(twin.id, { kind: 'area', area: 'programs' })).toEqual(['programs']);
		expect(await areasFor(twin.id, { kind: 'area', area: 'card' })).toEqual(['card']);
		expect(await areasFor(plain.id, { kind: 'all' })).toEqual(['programs']);
		const all = await dryRunOf(here.studio, {
			deviceId: plain.id,
			source: { from: 'version', versionId: version.id, scope: { kind: 'all' } }
		});
		expect(all.converted?.lost.filter(({ what }) => what === 'Card')).toHaveLength(32);
		const some = await dryRunOf(here.studio, {
			deviceId: plain.id,
			source: { from: 'version', versionId: version.id, scope: { kind: 'area', area: 'programs' } }
		});
		expect(some.converted?.lost).toEqual([]);
	});

	it('is offered for a sound of the other variant, with its own slots; another model is not', async () => {
		const { device, version, slots } = await updated();
		const other = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Umbra', profileId: 'ternhill-umbra', deviceId: 0 })
		);
		const { devices } = await slotFacts(here.studio, version.id, 'programs:2');
		expect(devices).toMatchObject([{ id: device.id, area: 'programs' }]);
		expect(devices[0].labels).toHaveLength(64);
		await expect(
			wantedFor(other.id, {
				from: 'sounds',
				sounds: [{ area: 'programs', index: 1, record: hashOf(slots[7].bytes) }]
			})
		).rejects.toMatchObject({ code: 'restore.no-slot' });
	});

	it('keeps a dump file from before its update in the same drawer, read as what it was', async () => {
		const { device, slots } = await updated();
		const bytes = asFile(first, slots);
		const inspected = await inspectFile(here.studio, bytes, 'before.syx');
		expect(inspected.devices).toMatchObject([
			{ id: device.id, fits: true, why: 'same model, another variant' }
		]);
		const version = await storeFile(here.studio, { bytes, name: 'before.syx', deviceId: device.id });
		expect(version.profileId).toBe(first.id);
		const wanted = await wantedFor(device.id, {
			from: 'version',
			versionId: version.id,
			scope: { kind: 'slots', slots: [{ area: 'programs', index: 0 }] }
		});
		expect(wanted).toEqual(contents([convertSlots(first, slots, second).slots[0]]));
		// What is of another model stays refused.
		const { slots: others, profile } = await anUmbra(here.studio);
		await expect(
			storeFile(here.studio, { bytes: asFile(profile, others), name: 'u.syx', deviceId: device.id })
		).rejects.toMatchObject({ code: 'file.wrong-model' });
	});

	it('is taken as what it is now where it answers, and back again', async () => {
		const device = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Hall keys', profileId: first.id, deviceId: 0 })
		);
		const port = (direction: 'in' | 'out') => ({
			id: direction,
			direction,
			name: 'Ferry',
			manufacturer: 'Ferry'
		});
		const taken = await takeFound(here.studio, {
			present: [port('in'), port('out')],
			items: [
				{
					out: 'out',
					in: 'in',
					unit: null,
					device: device.id,
					name: '',
					profileId: second.id,
					deviceId: 0,
					answered: true,
					firmware: '2.00'
				}
			],
			interfaces: []
		} as Parameters<typeof takeFound>[1]);
		expect(await getDevice(here.studio, device.id)).toMatchObject({ profileId: second.id });
		await undoTake(here.studio, taken.undo);
		expect(await getDevice(here.studio, device.id)).toMatchObject({ profileId: first.id });
	});
});
