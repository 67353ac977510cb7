import { describe, expect, it } from 'vitest';
import {
	applyChanges,
	checkRig,
	clocksOf,
	elsewhere,
	hostsOf,
	indexRig,
	playingHost,
	portsFor,
	readRig,
	takeOver,
	trace,
	unshownPorts
} from '.';
import { cable, host, module, port, studio } from './rig.fixture';

const tower = (id: string) => ({
	id,
	name: id,
	kind: 'computer',
	ports: [port(`${id}.usb`, 'both', 'usb-host')]
});
const reef = {
	id: 'reef',
	name: 'reef',
	kind: 'interface',
	ports: [port('reef.out1', 'out'), port('reef.in1', 'in'), port('reef.usb', 'both', 'usb-device')]
};
const shown = (id: string, socket: string, direction: 'in' | 'out') => ({
	id,
	name: id,
	number: 1,
	direction,
	port: socket
});

const track = { name: 'T', inputChannel: null, outputChannel: null, echo: true };

/** The ferry on the computer plays `a`, the reef on the tablet plays `b`. */
const both = (more: object = {}, tablet: object = {}, devices = [module('a'), module('b'), module('c')]) =>
	studio([reef, tower('tower'), tower('slate'), ...devices], {
		cables: [
			cable('ferry.usb', 'tower.usb'),
			cable('reef.usb', 'slate.usb'),
			cable('ferry.out1', 'a.in'),
			cable('reef.out1', 'b.in')
		],
		settings: ['a', 'b', 'c'].map((device) => ({ device, channel: 1 })),
		hosts: [
			host({ name: 'Desk', computer: 'tower', ...more }),
			{
				id: 'slate',
				name: 'Slate',
				computer: 'slate',
				ports: [shown('so', 'reef.out1', 'out'), shown('si', 'reef.in1', 'in')],
				...tablet
			}
		]
	});

describe('several hosts', () => {
	it('have sockets by their ports, by the ports beside them, or by the computer that a USB cable leads to', () => {
		const names = (rig: ReturnType<typeof both>, socket: string) =>
			hostsOf(indexRig(rig), indexRig(rig).ports.get(socket)!).map(({ name }) => name);
		expect(names(both(), 'reef.out1')).toEqual(['Slate']);
		expect(names(both({}, { ports: [shown('si', 'reef.in1', 'in')] }), 'reef.out1')).toEqual(['Slate']);
		expect(names(both({}, { ports: [] }), 'reef.out1')).toEqual(['Slate']);
		expect(names(both({}, { ports: [], computer: null }), 'reef.out1')).toEqual([]);
	});

	it('each play what hangs on their ports; what nobody said is supposed, and known to be', () => {
		const rig = both();
		const plays = (id: string) => {
			const found = playingHost(
				indexRig(rig),
				rig.devices.find((device) => device.id === id)!
			)!;
			return [found.host.name, found.known];
		};
		expect(['a', 'b', 'c'].map(plays)).toEqual([
			['Desk', true],
			['Slate', true],
			['Desk', false]
		]);
		const wished = applyChanges(rig, [
			{
				do: 'wire',
				device: 'a',
				wiring: { wants: { return: false, bytesPerSecond: 0, tight: false, host: 'slate' } }
			}
		]);
		expect(
			playingHost(
				indexRig(wished),
				wished.devices.find(({ id }) => id === 'a')!
			)!.host.name
		).toBe('Slate');
		expect(playingHost(indexRig(studio([module('a')], { host: host() })), module('a') as never)).toBeNull();
	});

	it('pass nothing on to one another: a track of one does not take what comes in at the other', () => {
		const echo = { id: 't', name: 'T', output: 'so', echo: true };
		const rig = both({}, { tracks: [echo] });
		expect(trace(rig, { port: 'si' }, 1).reached.map(({ id }) => id)).toEqual(['b']);
		expect(trace(rig, { port: 'hi1' }, 1).reached).toEqual([]);
	});

	it('need the USB cable to their own computer', () => {
		const rig = both();
		const crossed = {
			...rig,
			cables: rig.cables.map((entry) => (entry.from === 'reef.usb' ? { ...entry, to: 'tower.usb' } : entry))
		};
		const [stop] = trace(crossed, { port: 'so' }, 1).silent.filter(({ id }) => id === 'b');
		expect(stop.stop.says).toBe('No USB cable leads from reef to slate.');
	});

	it('each have a clock, which goes where their own ports send it; two that lead are a problem with a cure for each', () => {
		const ports = (list: object[]) => list.map((entry) => ({ ...entry, clockOut: true }));
		const follows = { clock: { mode: 'external' as const } };
		const rig = both(
			{ clock: true, ports: ports(host().ports!) },
			{ clock: true, ports: ports([shown('so', 'reef.out1', 'out')]) },
			[module('a', follows), module('b', follows)]
		);
		expect(clocksOf(rig).sources.map(({ name, reaches }) => [name, [...reaches]])).toEqual([
			['Desk', ['a']],
			['Slate', ['b']]
		]);
		const [several] = checkRig(rig).filter(({ rule }) => rule === 'clock.several');
		expect(several.cures.map(({ title }) => title)).toEqual(['Let Desk lead', 'Let Slate lead']);
		const after = applyChanges(rig, several.cures[1].changes);
		expect(after.hosts.map(({ clock }) => clock)).toEqual([false, true]);
	});

	it('count numbers, instruments and tracks each for itself', () => {
		const piano = (id: string) => ({ id, name: id, input: 1 });
		const rig = both({ instruments: [piano('p')] }, { instruments: [piano('q')] });
		expect(
			checkRig(rig)
				.map(({ rule }) => rule)
				.filter((rule) => rule.startsWith('host.'))
		).toEqual([]);
		expect(checkRig(both({ instruments: [piano('p'), piano('q')] })).map(({ rule }) => rule)).toContain(
			'host.two-instruments'
		);
	});

	it('are offered the sockets of what leads to their computer, numbered on from their last', () => {
		const rig = both({}, { ports: [shown('so', 'reef.out1', 'out')] });
		const [, slate] = rig.hosts;
		const [{ device, sockets }, ...rest] = unshownPorts(rig, slate);
		expect([device.id, rest]).toEqual(['reef', []]);
		expect(portsFor(slate, sockets)).toMatchObject([{ port: 'reef.in1', number: 1, direction: 'in' }]);
		expect(unshownPorts(rig, rig.hosts[0])).toEqual([]);
	});

	it('take an interface over from one another, with its ports as they were', () => {
		const rig = both({ ports: host().ports!.slice(0, 4) });
		const [desk, slate] = rig.hosts;
		expect(elsewhere(rig, desk).map(({ id }) => id)).toEqual(['reef']);
		const tuned = applyChanges(rig, [
			{ do: 'host', host: { ...slate, ports: slate.ports.map((entry) => ({ ...entry, reserved: 16 })) } },
			{
				do: 'host',
				host: { ...desk, tracks: [{ ...track, id: 'd', input: 'hi1', output: 'ho1' }] }
			}
		]);
		const after = applyChanges(
			tuned,
			takeOver(
				tuned,
				tuned.hosts[0],
				tuned.devices.find(({ id }) => id === 'reef')!
			)
		);
		expect(after.hosts[1].ports).toEqual([]);
		expect(after.hosts[0].ports.slice(4)).toMatchObject([
			{ port: 'reef.out1', number: 3, reserved: 16 },
			{ port: 'reef.in1', number: 3, reserved: 16 }
		]);
		const back = applyChanges(
			after,
			takeOver(
				after,
				after.hosts[1],
				after.devices.find(({ id }) => id === 'ferry')!
			)
		);
		// A track whose input is gone takes from nowhere.
		expect(back.hosts[0].tracks).toMatchObject([{ input: null, output: null, echo: false }]);
		expect(readRig(JSON.parse(JSON.stringify(back))).rig).toEqual(back);
	});
});

describe('a rig file', () => {
	const file = { format: 'silent-drawer.rig', devices: [] };
	it('of version 1 has its one host as the only one', () => {
		const { rig, ignored } = readRig({ ...file, version: 1, host: { clock: true } });
		expect(rig).toMatchObject({ version: 2, hosts: [{ id: 'host', name: 'Computer', clock: true }] });
		expect(ignored).toEqual([]);
	});
	it('names the host that a track’s port does not belong to', () => {
		const wrong = both();
		const track = { id: 't', name: 'T', output: 'ho1' };
		const raw = JSON.parse(JSON.stringify(wrong));
		raw.hosts[1].tracks = [track];
		raw.devices[3].wants = { host: 'nobody' };
		raw.hosts[1].computer = 'gone';
		expect(() => readRig(raw)).toThrow(/3 faults/);
		raw.hosts[1] = { ...raw.hosts[0] };
		expect(() => readRig(raw)).toThrow(/hosts\[1\]/);
	});
});
