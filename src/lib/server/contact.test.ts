import { describe, expect, it } from 'vitest';
import { takeSchema, type TakeItem } from '../core/contact';
import { computerPorts } from '../core/contact/studio.fixture';
import { hostWays } from '../core/rig';
import { noteContact, storedLine, takeFound, undoTake } from './contact';
import { anOrrery, freshStudio } from './studio.fixture';
import { getDevice, listDevices } from './gear';
import { rememberedPorts } from './midi-ports';
import { profileOrNull } from './profiles';
import { readStudioRig } from './rig';
import { beginTransfer, finishTransfer } from './transfers';

const here = freshStudio();
const present = computerPorts(4);
const order = (...items: Partial<TakeItem>[]) =>
	takeSchema.parse({
		present,
		items: items.map((item) => ({
			out: null,
			in: null,
			device: null,
			profileId: 'ternhill-umbra',
			deviceId: 3,
			answered: true,
			firmware: '1.04',
			...item
		}))
	});
const everything = async () => ({
	devices: (await listDevices(here.studio, { archived: true })).map(
		({ id, name, ports, deviceId, benchUnit }) => ({
			id,
			name,
			ports,
			deviceId,
			benchUnit
		})
	),
	cables: (await readStudioRig(here.studio)).rig.cables,
	ports: await rememberedPorts(here.studio)
});

describe('taking what was found', () => {
	it('writes everything at once, and its undo takes everything back', async () => {
		await anOrrery(here.studio);
		const before = await everything();
		const { devices, besides, undo } = await takeFound(here.studio, order({ out: 'out-3', in: 'in-2' }));
		expect(devices).toMatchObject([{ name: 'Umbra', fresh: true }]);
		expect(besides).toEqual(['Ferry 8']);
		const umbra = await getDevice(here.studio, devices[0].id);
		expect(umbra).toMatchObject({ deviceId: 3, profileId: 'ternhill-umbra' });
		const { rig } = await readStudioRig(here.studio);
		expect(hostWays(rig).find(({ device }) => device === umbra.id)).toMatchObject({
			out: { name: 'Ferry 8 Out 3' },
			in: { name: 'Ferry 8 In 2' }
		});
		expect(await storedLine(here.studio, umbra, profileOrNull(here.studio, umbra.profileId))).toMatchObject({
			contacts: [
				{ world: 'hardware', how: 'identity', outName: 'Ferry 8 Port 3', deviceId: 3, firmware: '1.04' }
			]
		});
		expect(await undoTake(here.studio, undo)).toEqual({ archived: [] });
		expect(await everything()).toEqual(before);
	});

	it('moves a known device, and moves it back', async () => {
		const first = await takeFound(here.studio, order({ out: 'out-3', in: 'in-2' }));
		const before = await everything();
		const device = first.devices[0].id;
		const second = await takeFound(here.studio, order({ device, out: 'out-4', in: 'in-4', deviceId: 9 }));
		expect((await getDevice(here.studio, device)).deviceId).toBe(9);
		expect((await everything()).cables).not.toEqual(before.cables);
		await undoTake(here.studio, second.undo);
		const after = await everything();
		expect(after.devices).toEqual(before.devices);
		expect(after.cables.map(({ from, to }) => `${from} ${to}`).sort()).toEqual(
			before.cables.map(({ from, to }) => `${from} ${to}`).sort()
		);
	});

	it('leaves nothing of an order that cannot be carried out whole', async () => {
		const before = await everything();
		await expect(
			takeFound(
				here.studio,
				order({ out: 'out-1', in: 'in-1' }, { device: 'gone', out: 'out-2', in: 'in-2' })
			)
		).rejects.toThrow('no longer in the catalogue');
		expect(await everything()).toEqual(before);
	});

	it('archives what has something kept by now, instead of removing it', async () => {
		const { devices, undo } = await takeFound(here.studio, order({ out: 'out-3', in: 'in-2' }));
		await beginTransfer(here.studio, {
			deviceId: devices[0].id,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'all' },
			kind: 'routine',
			title: ''
		});
		expect(await undoTake(here.studio, undo)).toEqual({ archived: ['Umbra'] });
		expect((await getDevice(here.studio, devices[0].id)).archivedAt).not.toBeNull();
	});

	it('plugs a bench unit in, and says whose it is when it is taken', async () => {
		const { devices, undo } = await takeFound(here.studio, order({ unit: null, answered: false }));
		expect((await getDevice(here.studio, devices[0].id)).benchUnit).toBeNull();
		await undoTake(here.studio, undo);
		await expect(takeFound(here.studio, order({ unit: 'none' }))).rejects.toThrow('no longer on the bench');
	});
});

describe('the last contact', () => {
	const line = { out: 'ferry:out-1', in: 'ferry:in-1', outName: 'Port 1', inName: 'Port 1' };
	const end = async (more: object) => {
		const { device } = await anOrrery(here.studio);
		const transfer = await beginTransfer(here.studio, {
			deviceId: device.id,
			direction: 'capture',
			world: 'hardware',
			scope: { kind: 'all' },
			kind: 'routine',
			title: ''
		});
		await finishTransfer(here.studio, transfer.id, { status: 'refused', reason: null, line, ...more });
		return (await storedLine(here.studio, device, null)).contacts;
	};

	it('is noted when a device said who it is, and not when a stranger did', async () => {
		expect(await end({ firmware: '1.04' })).toMatchObject([
			{ how: 'identity', out: 'ferry:out-1', firmware: '1.04' }
		]);
		expect(
			await end({
				firmware: '1.04',
				reason: { code: 'wrong model', says: 'Something else.', remedy: 'Look.' }
			})
		).toEqual([]);
		expect(await end({ firmware: null })).toEqual([]);
	});

	it('is the newest one, and nothing is noted of what is not there', async () => {
		const { device } = await anOrrery(here.studio);
		const heard = {
			world: 'hardware' as const,
			how: 'identity' as const,
			...line,
			deviceId: 0,
			firmware: null
		};
		await noteContact(here.studio, device.id, heard);
		await noteContact(here.studio, device.id, { ...heard, out: 'ferry:out-2' });
		expect((await storedLine(here.studio, device, null)).contacts).toMatchObject([{ out: 'ferry:out-2' }]);
		await expect(noteContact(here.studio, 'gone', heard)).rejects.toThrow('There is no device');
	});
});
