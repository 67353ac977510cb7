import { describe, expect, it } from 'vitest';
import { deviceSchema } from '../core/gear';
import { checkRig, readRig, rigPortId, type RigChange, hostSchema } from '../core/rig';
import { addDevice, archiveDevice, getDevice, unarchiveDevice, updateDevice } from './gear';
import { changeStudioRig, readStudioRig } from './rig';
import { importRig, previewImport } from './rig-import';
import { mapOf } from './rig-map';
import { setRigFact } from './store/wiring';
import { anOrrery, freshStudio } from './studio.fixture';

const here = freshStudio();
const port = (name: string, direction: 'in' | 'out' | 'thru') => ({
	id: '',
	name,
	direction,
	connector: 'din' as const
});
const add = (name: string, more: object = {}) =>
	addDevice(here.studio, deviceSchema.parse({ name, ...more }));
const aFerry = () =>
	add('Ferry', {
		kind: 'interface',
		ports: [port('Out 1', 'out'), port('Out 2', 'out'), port('In 1', 'in')]
	});
const aReed = () =>
	add('Reed', {
		kind: 'sound module',
		channel: 3,
		ports: [port('MIDI in', 'in'), port('MIDI thru', 'thru')]
	});

describe('the studio’s wiring', () => {
	it('is the catalogue with its cables; ports keep their id whatever they are called', async () => {
		const [ferry, reed] = [await aFerry(), await aReed()];
		expect(reed.ports.map(({ id }) => id)).toEqual(['midi-in', 'midi-thru']);
		await changeStudioRig(here.studio, [
			{ do: 'plug', from: rigPortId(ferry.id, 'out-1'), to: rigPortId(reed.id, 'midi-in'), length: 2 }
		]);
		await updateDevice(here.studio, reed.id, {
			...reed,
			ports: reed.ports.map((entry) => ({ ...entry, name: `The ${entry.name}` }))
		});
		const { rig, revision } = await readStudioRig(here.studio);
		expect(revision).toBe(1);
		expect(rig.cables).toEqual([{ from: `${ferry.id}:out-1`, to: `${reed.id}:midi-in`, length: 2 }]);
		expect(rig.settings).toEqual([{ device: reed.id, channel: 3, deviceId: null }]);
		expect(rig.devices.find(({ id }) => id === reed.id)!.ports[0].name).toBe('The MIDI in');
	});

	it('knows that an instrument that can be asked wants a return', async () => {
		const { device } = await anOrrery(here.studio);
		const { rig } = await readStudioRig(here.studio);
		expect(rig.devices.find(({ id }) => id === device.id)).toMatchObject({
			backup: true,
			wants: { return: true }
		});
	});

	it('makes changes all or none, and hands out what undoes them', async () => {
		const [ferry, reed] = [await aFerry(), await aReed()];
		const plug: RigChange = {
			do: 'plug',
			from: rigPortId(ferry.id, 'out-1'),
			to: rigPortId(reed.id, 'midi-in')
		};
		const done = await changeStudioRig(here.studio, [
			plug,
			{ do: 'set', device: reed.id, channel: 9, deviceId: 4 },
			{ do: 'wire', device: reed.id, wiring: { softThru: true } }
		]);
		expect(await getDevice(here.studio, reed.id)).toMatchObject({ channel: 9, deviceId: 4 });
		await expect(
			changeStudioRig(here.studio, [{ do: 'set', device: reed.id, channel: 1 }, plug])
		).rejects.toThrow('plugged in already');
		expect((await readStudioRig(here.studio)).rig.settings[0].channel).toBe(9);

		await changeStudioRig(here.studio, done.undo);
		const { rig } = await readStudioRig(here.studio);
		expect(rig.cables).toEqual([]);
		expect(rig.settings).toEqual([{ device: reed.id, channel: 3, deviceId: null }]);
		expect(rig.devices.find(({ id }) => id === reed.id)!.softThru).toBe(false);
	});

	it('keeps channels that are not adjacent, an adapter, layers, limits and the host', async () => {
		const [ferry, reed] = [await aFerry(), await aReed()];
		const other = await aReed().catch(() => null);
		await changeStudioRig(here.studio, [
			{ do: 'set', device: reed.id, channel: 2, channels: [2, 5] },
			{
				do: 'plug',
				from: rigPortId(ferry.id, 'out-1'),
				to: rigPortId(reed.id, 'midi-in'),
				adapter: 'type-a'
			},
			{ do: 'layer', devices: [reed.id, other!.id], intended: true },
			{ do: 'limits', chain: 2, load: 0.5 },
			{ do: 'host', host: hostSchema.parse({ latencyMs: 5, clock: true }) }
		]);
		const { rig } = await readStudioRig(here.studio);
		expect(rig.settings.find(({ device }) => device === reed.id)).toMatchObject({ channels: [2, 5] });
		expect(rig).toMatchObject({
			layers: [[reed.id, other!.id]],
			limits: { chain: 2, load: 0.5 },
			hosts: [{ latencyMs: 5, clock: true }]
		});
		expect(rig.cables[0].adapter).toBe('type-a');
		// The file that is written is one that is read.
		expect(readRig(JSON.parse(JSON.stringify(rig))).rig).toEqual(rig);
	});

	it('refuses changes that were made for an older state', async () => {
		const reed = await aReed();
		await changeStudioRig(here.studio, [{ do: 'set', device: reed.id, channel: 5 }], 0);
		await expect(
			changeStudioRig(here.studio, [{ do: 'set', device: reed.id, channel: 6 }], 0)
		).rejects.toThrow('changed in another tab');
	});

	it('leaves out what hangs on archived gear, and brings it back with it', async () => {
		const [ferry, reed] = [await aFerry(), await aReed()];
		await changeStudioRig(here.studio, [
			{ do: 'plug', from: rigPortId(ferry.id, 'out-1'), to: rigPortId(reed.id, 'midi-in') }
		]);
		await archiveDevice(here.studio, ferry.id);
		expect((await readStudioRig(here.studio)).rig.cables).toEqual([]);
		await unarchiveDevice(here.studio, ferry.id);
		expect((await readStudioRig(here.studio)).rig.cables).toHaveLength(1);
	});
});

it('a track whose input is gone falls silent instead of taking from everywhere', async () => {
	const ferry = await aFerry();
	await changeStudioRig(here.studio, [
		{
			do: 'host',
			host: hostSchema.parse({
				ports: [
					{
						id: 'i',
						name: 'i',
						number: 1,
						direction: 'in',
						port: rigPortId(ferry.id, 'in-1'),
						playing: true,
						control: false,
						clockOut: false,
						sync: false,
						hidden: false,
						reserved: null
					}
				],
				instruments: [],
				tracks: [
					{
						id: 't',
						name: 't',
						input: 'i',
						inputChannel: null,
						output: null,
						outputChannel: null,
						echo: true
					}
				],
				latencyMs: 3,
				clock: false
			})
		}
	]);
	await archiveDevice(here.studio, ferry.id);
	expect((await readStudioRig(here.studio)).rig.hosts[0].tracks).toMatchObject([
		{ input: null, echo: false }
	]);
	await unarchiveDevice(here.studio, ferry.id);
	expect((await readStudioRig(here.studio)).rig.hosts[0].tracks).toMatchObject([{ input: 'i', echo: true }]);
});

it('reads the one host of a studio from before there could be several, and keeps more from then on', async () => {
	const orrery = await aReed();
	const old = { latencyMs: 7, ports: [], instruments: [], tracks: [], clock: true };
	await here.studio.write((transaction) => setRigFact(here.studio, 'host', old, transaction));
	const { rig } = await readStudioRig(here.studio);
	expect(rig.hosts).toMatchObject([{ id: 'host', name: 'Computer', latencyMs: 7, clock: true }]);
	const wants = { return: false, bytesPerSecond: 0, tight: false, host: 'slate' };
	await changeStudioRig(here.studio, [
		{ do: 'host', host: hostSchema.parse({ id: 'slate', name: 'Slate' }) },
		{ do: 'wire', device: orrery.id, wiring: { wants } }
	]);
	const { undo } = await changeStudioRig(here.studio, [{ do: 'host-gone', host: 'slate' }]);
	const without = (await readStudioRig(here.studio)).rig;
	expect(without.hosts.map(({ id }) => id)).toEqual(['host']);
	expect(without.devices[0].wants.host).toBeUndefined();
	await changeStudioRig(here.studio, undo);
	const back = (await readStudioRig(here.studio)).rig;
	expect(back.hosts.map(({ id, clock }) => [id, clock])).toEqual([
		['host', true],
		['slate', false]
	]);
	expect(back.devices[0].wants.host).toBe('slate');
});

describe('a rig file', () => {
	const file = () =>
		readRig({
			format: 'silent-drawer.rig',
			version: 1,
			devices: [
				{
					id: 'f',
					name: 'Ferry',
					kind: 'interface',
					ports: [{ id: 'o', name: 'Out 1', direction: 'out', connector: 'din' }]
				},
				{
					id: 'n',
					name: 'Newcomer',
					kind: 'synthesiser',
					ports: [{ id: 'n1', name: 'In', direction: 'in', connector: 'din' }],
					lock: { out: 'o', channel: 7 }
				}
			],
			cables: [{ from: 'o', to: 'n1', length: 4 }],
			settings: [{ device: 'n', channel: 7 }],
			host: { ports: [{ id: 'h', name: 'Ferry 1', number: 1, direction: 'out', port: 'o' }] }
		}).rig;

	it('is previewed, then taken over: known devices by name, new ones into the catalogue', async () => {
		const [ferry, reed] = [await aFerry(), await aReed()];
		await changeStudioRig(here.studio, [
			{ do: 'plug', from: rigPortId(ferry.id, 'out-1'), to: rigPortId(reed.id, 'midi-in') }
		]);
		expect(await previewImport(here.studio, file())).toEqual({
			devices: [
				{ name: 'Ferry', known: true },
				{ name: 'Newcomer', known: false }
			],
			cables: 1,
			others: ['Reed']
		});
		const { rig } = await importRig(here.studio, file());
		const newcomer = rig.devices.find(({ name }) => name === 'Newcomer')!;
		expect(rig.cables).toEqual([{ from: `${ferry.id}:out-1`, to: `${newcomer.id}:in`, length: 4 }]);
		expect(newcomer.lock).toEqual({ out: `${ferry.id}:out-1`, channel: 7 });
		expect(rig.hosts[0].ports[0].port).toBe(`${ferry.id}:out-1`);
		expect(await getDevice(here.studio, newcomer.id)).toMatchObject({ channel: 7, kind: 'synthesiser' });
		expect(checkRig(rig).map(({ rule }) => rule)).toEqual(['device.unfed']);
	});
});

it('is the very same value until something of it changes, and never an older one', async () => {
	const [ferry, reed] = [await aFerry(), await aReed()];
	const read = async () => (await readStudioRig(here.studio)).rig;
	const before = await read();
	expect(await read()).toBe(before);
	await changeStudioRig(here.studio, [
		{ do: 'plug', from: rigPortId(ferry.id, 'out-1'), to: rigPortId(reed.id, 'midi-in') }
	]);
	const after = await read();
	expect([before.cables.length, after.cables.length]).toEqual([0, 1]);
	expect(await read()).toBe(after);
});

it('the map places every cabled device inside its place, and ends its cables at sockets', async () => {
	const [ferry, reed] = [await aFerry(), await aReed()];
	const power = (name: string, direction: 'in' | 'out') => ({
		id: 'power',
		name,
		direction,
		connector: 'power'
	});
	const supply = await addDevice(
		here.studio,
		deviceSchema.parse({ name: 'Feed', kind: 'power supply', place: 'Rack', ports: [power('Out 1', 'out')] })
	);
	const box = await addDevice(
		here.studio,
		deviceSchema.parse({ name: 'Box', place: 'Rack', ports: [power('Power', 'in')] })
	);
	await changeStudioRig(here.studio, [
		{ do: 'plug', from: rigPortId(supply.id, 'power'), to: rigPortId(box.id, 'power') },
		{ do: 'plug', from: rigPortId(ferry.id, 'out-1'), to: rigPortId(reed.id, 'midi-in') }
	]);
	const map = await mapOf((await readStudioRig(here.studio)).rig);
	expect(map.devices.map(({ name }) => name).sort()).toEqual(['Ferry', 'Reed']);
	// Laid out once for a wiring, in a thread of its own.
	expect(await mapOf((await readStudioRig(here.studio)).rig)).toEqual(map);
	const [place] = map.places;
	for (const { x, y, width, height } of map.devices) {
		expect(x).toBeGreaterThanOrEqual(place.x);
		expect(y + height).toBeLessThanOrEqual(place.y + place.height);
		expect(x + width).toBeLessThanOrEqual(place.x + place.width);
	}
	const socket = map.devices.flatMap(({ sockets }) => sockets).find(({ id }) => id === map.cables[0].from)!;
	// Power is another picture: neither its cable nor what hangs on nothing else is drawn, and no other cable takes its name.
	expect(map.cables).toHaveLength(1);
	expect(map.cables[0].to).toBe(rigPortId(reed.id, 'midi-in'));
	expect(map.cables[0].points[0].map(Math.round)).toEqual([socket.x, socket.y].map(Math.round));
});
