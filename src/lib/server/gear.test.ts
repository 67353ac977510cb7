import { readKnowledge } from './store/knowledge';
import { describe, expect, it } from 'vitest';
import { deviceSchema } from '../core/gear';
import { listUnits, putUnit, saveUnit } from './bench';
import { importCatalogue, previewCatalogue } from './catalogue';
import {
	addDevice,
	archiveDevice,
	duplicateDevice,
	factsOfModel,
	findDevice,
	getDevice,
	listDevices,
	plugDevice,
	touchDevice,
	unarchiveDevice,
	updateDevice
} from './gear';
import { shippedProfile } from './profiles';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const facts = (name: string, more: object = {}) => deviceSchema.parse({ name, ...more });

describe('the catalogue', () => {
	it('adds, changes, archives and brings back', async () => {
		const added = await addDevice(
			here.studio,
			facts('Tape', { place: 'Rack', channel: 4, ports: [{ name: 'In', direction: 'in', connector: 'din' }] })
		);
		expect(await getDevice(here.studio, added.id)).toMatchObject({
			name: 'Tape',
			channel: 4,
			ports: [{ name: 'In' }],
			archivedAt: null
		});
		await updateDevice(here.studio, added.id, facts('Tape two', { channel: null }));
		expect(await getDevice(here.studio, added.id)).toMatchObject({
			name: 'Tape two',
			channel: null,
			ports: []
		});
		await archiveDevice(here.studio, added.id);
		expect(await listDevices(here.studio)).toEqual([]);
		expect(await listDevices(here.studio, { archived: true })).toHaveLength(1);
		await unarchiveDevice(here.studio, added.id);
		expect(await listDevices(here.studio)).toHaveLength(1);
	});

	it('takes from a profile what the profile knows', () => {
		expect(factsOfModel(here.studio, 'quillon-nadir', 'Drums')).toMatchObject({
			name: 'Drums',
			maker: 'Quillon',
			kind: 'drum machine',
			deviceId: 0,
			forgets: 'Memory protect is off. SysEx receive is on.'
		});
		// A device that only listens gets no out: nothing can come back from it.
		expect(
			factsOfModel(here.studio, 'bessel-lantern', 'Pedal').ports.map(({ direction }) => direction)
		).toEqual(['in']);
		expect(() => factsOfModel(here.studio, 'nothing', 'X')).toThrow('There is no profile “nothing”');
	});

	it('duplicates without serial number and cable, under a name of its own', async () => {
		here.studio.world = 'bench';
		await putUnit(here.studio, 'ternhill-umbra', 'U', 1);
		const first = await addDevice(here.studio, {
			...factsOfModel(here.studio, 'ternhill-umbra', 'Umbra'),
			serial: '123'
		});
		expect(first.benchUnit).not.toBeNull();
		const copies = [
			await duplicateDevice(here.studio, first.id),
			await duplicateDevice(here.studio, first.id)
		];
		expect(copies.map(({ name, serial, benchUnit }) => [name, serial, benchUnit])).toEqual([
			['Umbra 2', '', null],
			['Umbra 3', '', null]
		]);
	});

	it('is searched by id or by a name that only one has', async () => {
		const a = await addDevice(here.studio, facts('Twin'));
		expect((await findDevice(here.studio, 'tWIN')).id).toBe(a.id);
		await addDevice(here.studio, facts('Twin'));
		await expect(findDevice(here.studio, 'Twin')).rejects.toMatchObject({ code: 'device.not-found' });
		expect((await findDevice(here.studio, a.id)).name).toBe('Twin');
	});

	it.each([
		[{ name: '' }, 'name'],
		[{ name: 'x'.repeat(61) }, 'name'],
		[{ name: 'X', channel: 0 }, 'channel'],
		[{ name: 'X', deviceId: 127 }, 'deviceId'],
		[{ name: 'X', batteryFitted: 'last year' }, 'batteryFitted'],
		[{ name: 'X', ports: [{ name: '', direction: 'in', connector: 'din' }] }, 'ports']
	])('refuses %o', (bad, field) => {
		const result = deviceSchema.safeParse(bad);
		expect(result.error!.issues[0].path[0]).toBe(field);
		expect(result.error!.issues[0].message).toMatch(/\.$/);
	});
});

describe('cables to the bench', () => {
	it('go to one device each', async () => {
		here.studio.world = 'bench';
		const { id: unit } = await putUnit(here.studio, 'ternhill-umbra', 'U', 1);
		const a = await addDevice(here.studio, factsOfModel(here.studio, 'ternhill-umbra', 'A'));
		const b = await addDevice(here.studio, factsOfModel(here.studio, 'ternhill-umbra', 'B'));
		expect([a.benchUnit, b.benchUnit]).toEqual([unit, null]);
		await expect(plugDevice(here.studio, b.id, unit)).rejects.toMatchObject({
			code: 'bench.taken',
			message: '“A” is plugged in there.'
		});
		await plugDevice(here.studio, a.id, null);
		expect((await plugDevice(here.studio, b.id, unit)).benchUnit).toBe(unit);
		await expect(plugDevice(here.studio, b.id, 'nowhere')).rejects.toMatchObject({ code: 'bench.not-found' });
		await expect(plugDevice(here.studio, 'nobody', unit)).rejects.toMatchObject({ code: 'device.not-found' });
	});

	it('an edit at the panel counts as a change of the device, storing alone does not', async () => {
		const unit = await putUnit(here.studio, 'ternhill-umbra', 'U', 1);
		const device = await addDevice(here.studio, factsOfModel(here.studio, 'ternhill-umbra', 'A'));
		expect(device.benchUnit, 'nothing is plugged in to the bench by itself').toBeNull();
		await plugDevice(here.studio, device.id, unit.id);
		const touchedAt = async (world: 'bench' | 'hardware') =>
			(await readKnowledge(here.studio, device.id, world)).touchedAt;
		const profile = shippedProfile('ternhill-umbra');
		await saveUnit(here.studio, unit.id, 1, profile, unit.state, []);
		expect(await touchedAt('bench')).toBeNull();
		await saveUnit(here.studio, unit.id, 2, profile, unit.state, [], true);
		expect(await touchedAt('bench')).not.toBeNull();
		expect(await touchedAt('hardware')).toBeNull();
		expect((await listUnits(here.studio))[0].revision).toBe(3);
	});

	it('the musician can say so too', async () => {
		const device = await addDevice(here.studio, facts('A'));
		await touchDevice(here.studio, device.id);
		expect((await readKnowledge(here.studio, device.id, 'hardware')).touchedAt).not.toBeNull();
	});
});

describe('CSV', () => {
	it('is previewed and then imported, the chosen lines alone', async () => {
		await addDevice(here.studio, facts('Known'));
		const text = '\uFEFFName;Place\nNew one;Desk\n"Comma, inside";Rack\nKnown;Floor\n';
		const preview = await previewCatalogue(here.studio, text);
		// One row that ends otherwise than the others is a row all the same.
		expect(await previewCatalogue(here.studio, text.replace('Desk\n', 'Desk\r\n'))).toEqual(preview);
		expect(preview.rows.map(({ line, device, known }) => [line, device?.name, known])).toEqual([
			[2, 'New one', false],
			[3, 'Comma, inside', false],
			[4, 'Known', true]
		]);
		expect(await importCatalogue(here.studio, text, [2, 3])).toBe(2);
		expect((await listDevices(here.studio)).map(({ name }) => name).sort()).toEqual([
			'Comma, inside',
			'Known',
			'New one'
		]);
	});

	it('adds nothing when a chosen row is faulty', async () => {
		const text = 'Name,Channel\nGood,1\nBad,40\n';
		await expect(importCatalogue(here.studio, text, [2, 3])).rejects.toMatchObject({
			code: 'csv.faulty-row',
			message: 'Line 3: Channels are 1 to 16.'
		});
		expect(await listDevices(here.studio)).toEqual([]);
	});

	it('says when a file is no table', async () => {
		await expect(previewCatalogue(here.studio, '')).rejects.toMatchObject({ code: 'csv.unreadable' });
		await expect(previewCatalogue(here.studio, 'Name\n"never closed')).rejects.toMatchObject({
			code: 'csv.unreadable'
		});
	});
});
