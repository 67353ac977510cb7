import { describe, expect, it } from 'vitest';
import { audioOf, freePairs } from './audio';
import { clocksOf } from './clocks';
import { feedsOf, firstFeeds } from './feeds';
import { freeChannel, freeDeviceId, freeIn, freeOut } from './free';
import { channelWords, channelsOf } from './heard';
import { checkJoin } from './join';
import { ledgerOf } from './ledger';
import { loadsOf } from './load';
import { findLoops } from './loops';
import { cable, ferry, host, module, port, studio } from './rig.fixture';
import { indexRig } from './rig-index';
import { roleOf, hasVoice } from './roles';
import { reachesComputer } from './usb';

const hears = (rig: ReturnType<typeof studio>, out: string) =>
	feedsOf(rig)
		.find((feed) => feed.out.port.id === out)
		?.hearers.map(({ device, hop }) => `${device.id}${hop}`) ?? [];

describe('roles', () => {
	it.each([
		['synthesiser', 'instrument', true],
		['foot controller', 'instrument', false],
		['interface', 'interface', false],
		['audio interface', 'audio', false],
		['MIDI thru box', 'thru', false],
		['merge box', 'merge', false],
		['USB host box', 'usb-host-box', false],
		['USB hub', 'hub', false],
		['computer', 'host', false],
		['power supply', 'supply', false],
		['', 'instrument', true]
	])('%s is %s', (kind, role, voice) => {
		expect([roleOf({ kind }), hasVoice({ kind })]).toEqual([role, voice]);
	});
});

it('an audio interface with MIDI sockets gives them out, and takes audio too', () => {
	const both = {
		id: 'both',
		name: 'both',
		kind: 'audio interface',
		ports: [port('both.out', 'out'), port('both.1', 'in', 'audio'), port('both.2', 'in', 'audio')]
	};
	expect([roleOf(both), roleOf({ kind: 'audio interface', ports: both.ports.slice(1) })]).toEqual([
		'interface',
		'audio'
	]);
	const rig = studio([both, module('a', { ports: [port('a.in', 'in'), port('a.m', 'out', 'audio')] })], {
		cables: [cable('both.out', 'a.in'), cable('a.m', 'both.1')]
	});
	expect(loadsOf(rig).map(({ port: id }) => id)).toContain('both.out');
	expect(audioOf(rig).inputs.map(({ taken }) => taken)).toEqual(['a', null]);
});

describe('who hears a port', () => {
	const box = {
		id: 'box',
		name: 'box',
		kind: 'thru box',
		ports: [port('box.in', 'in'), port('box.1', 'out'), port('box.2', 'out')]
	};
	const mix = {
		id: 'mix',
		name: 'mix',
		kind: 'merge box',
		ports: [port('mix.1', 'in'), port('mix.2', 'in'), port('mix.out', 'out')]
	};

	it('counts hops through thru sockets and thru boxes', () => {
		const rig = studio([box, module('a'), module('b'), module('c')], {
			cables: [
				cable('ferry.out1', 'box.in'),
				cable('box.1', 'a.in'),
				cable('box.2', 'b.in'),
				cable('b.thru', 'c.in')
			]
		});
		expect(hears(rig, 'ferry.out1')).toEqual(['a2', 'b2', 'c3']);
		expect(firstFeeds(rig).map(({ out }) => out.port.id)).toEqual(['ferry.out1']);
	});

	it('goes on through merge boxes and soft thru, but not through a cable that does not fit', () => {
		const rig = studio(
			[
				mix,
				module('a', { softThru: true }),
				module('b'),
				module('c', { ports: [port('c.in', 'in', 'trs-b')] })
			],
			{
				cables: [
					cable('ferry.out1', 'mix.1'),
					cable('mix.out', 'a.in'),
					cable('a.out', 'b.in'),
					cable('b.thru', 'c.in', { adapter: 'type-a' })
				]
			}
		);
		expect(hears(rig, 'ferry.out1')).toEqual(['a1', 'b1']);
	});

	it('adds up what its hearers expect, and the clock', () => {
		const rig = studio(
			[module('a', { wants: { bytesPerSecond: 300 } }), module('b', { wants: { bytesPerSecond: 77 } })],
			{
				cables: [cable('ferry.out1', 'a.in'), cable('a.thru', 'b.in')],
				host: host({ clock: true, ports: host().ports!.map((entry) => ({ ...entry, clockOut: true })) })
			}
		);
		expect(loadsOf(rig)[0]).toEqual({ port: 'ferry.out1', bytesPerSecond: 425, share: 0.136 });
		expect(loadsOf(rig)[1].bytesPerSecond).toBe(48);
	});
});

describe('USB', () => {
	const keys = {
		id: 'keys',
		name: 'keys',
		kind: 'controller',
		sends: [1],
		ports: [port('keys.usb', 'both', 'usb-device')]
	};
	const hub = {
		id: 'hub',
		name: 'hub',
		kind: 'USB hub',
		ports: [port('hub.up', 'both', 'usb-device'), port('hub.1', 'both', 'usb-host')]
	};
	const tower = {
		id: 'tower',
		name: 'tower',
		kind: 'computer',
		ports: [port('tower.1', 'both', 'usb-host')]
	};

	it('reaches the computer through a hub', () => {
		const through = studio([keys, hub, tower], {
			cables: [cable('keys.usb', 'hub.1'), cable('hub.up', 'tower.1')]
		});
		const index = indexRig(through);
		expect(reachesComputer(index, index.devices.get('keys')!)).toBe(true);
		expect(reachesComputer(index, index.devices.get('ferry')!)).toBe(false);
	});

	it('reaches a DIN instrument through a host box', () => {
		const rig = studio(
			[
				keys,
				module('a'),
				{
					id: 'box',
					name: 'box',
					kind: 'USB host box',
					ports: [port('box.usb', 'both', 'usb-host'), port('box.out', 'out')]
				}
			],
			{
				cables: [cable('keys.usb', 'box.usb'), cable('box.out', 'a.in')],
				settings: [{ device: 'a', channel: 1 }]
			}
		);
		expect(hears(rig, 'keys.usb')).toEqual(['a1']);
	});
});

describe('joining', () => {
	const kinds = ['din', 'trs-a', 'trs-b', 'usb-device', 'usb-host', 'wireless', 'audio'] as const;
	const rig = studio(
		kinds.map((kind) => ({
			id: kind,
			name: kind,
			kind: 'synthesiser',
			ports: [
				port(`${kind}.out`, kind.startsWith('usb') ? 'both' : 'out', kind),
				port(`${kind}.in`, kind.startsWith('usb') ? 'both' : 'in', kind)
			]
		}))
	);
	const at = (id: string) => indexRig(rig).ports.get(id)!;
	const fits = (from: string, to: string) => checkJoin(at(`${from}.out`), at(`${to}.in`)).fits;

	it('fits as a plug does', () => {
		const table = kinds.map((from) => kinds.map((to) => (fits(from, to) ? 'x' : '.')).join('')).join(' ');
		expect(table).toBe('xxx.... xx..... x.x.... ....x.. ...x... .....x. ......x');
	});

	it('is the same whichever end is named first, but for direction', () => {
		for (const a of kinds)
			for (const b of kinds) {
				const forth = checkJoin(at(`${a}.out`), at(`${b}.in`));
				const back = checkJoin(at(`${b}.in`), at(`${a}.out`));
				if (forth.fits && !a.startsWith('usb')) expect(back.fault).toBe('direction');
				else expect(back.fits).toBe(forth.fits);
			}
	});
});

it('names channels as runs, and knows blocks', () => {
	expect(channelWords([3, 1, 2, 7, 9, 10])).toBe('1–3, 7, 9–10');
	const device = { receive: { channels: [1], parts: 3, adjacent: true, omni: false } };
	expect(channelsOf(device, { device: 'a', channel: 15 })).toEqual([15, 16]);
	expect(channelsOf(device, { device: 'a', channel: 1, channels: [9, 2] })).toEqual([2, 9]);
	expect(channelsOf(device, undefined)).toEqual([]);
});

describe('what is free', () => {
	const rig = studio(
		[
			module('a', { model: 'Tarn', place: 'Rack' }),
			module('b', { model: 'Tarn', receive: { parts: 2, channels: [1, 2, 3, 4] } }),
			{
				...ferry(1),
				id: 'near',
				name: 'near',
				place: 'Rack',
				ports: [port('near.out', 'out'), port('near.in', 'in')]
			}
		],
		{
			cables: [cable('ferry.out1', 'a.in'), cable('a.thru', 'b.in')],
			settings: [
				{ device: 'a', channel: 2, deviceId: 0 },
				{ device: 'b', channel: 1, deviceId: 1 }
			]
		}
	);
	const device = (id: string) => indexRig(rig).devices.get(id)!;

	it('is found: a channel, a device ID, an out and an in close by', () => {
		expect(freeChannel(rig, device('b'))).toBe(3);
		expect(freeDeviceId(rig, device('b'))).toBe(2);
		expect(freeOut(rig, device('a'))!.from.port.id).toBe('near.out');
		expect(freeIn(rig, device('a'))!.to.port.id).toBe('near.in');
	});
});

it('the ledger puts overlapping blocks in lanes, marks the channels that clash, and leaves room for names', () => {
	const rig = studio([module('a', { receive: { parts: 4 } }), module('b'), module('c'), module('d')], {
		cables: [cable('ferry.out1', 'a.in'), cable('a.thru', 'b.in'), cable('b.thru', 'c.in')],
		settings: [
			{ device: 'a', channel: 1 },
			{ device: 'b', channel: 3 },
			{ device: 'c', channel: 9 }
		]
	});
	const { rows, unplugged } = ledgerOf(rig);
	expect(rows.map(({ name }) => name)).toEqual(['ferry out1', 'ferry out2', 'ferry out3', 'ferry out4']);
	const [a, b, c] = rows[0].blocks;
	expect([a.span, a.lane, b.lane, c.lane, rows[0].lanes]).toEqual([4, 0, 1, 0, 2]);
	expect([a.clash, b.clash, c.clash]).toEqual([[3], [3], []]);
	expect([a.room, c.room]).toEqual([4, 7]);
	expect(unplugged.map(({ id }) => id)).toEqual(['d']);
});

it('a loop of three devices is found once, with everything on it', () => {
	const rig = studio(
		[module('a', { softThru: true }), module('b', { softThru: true }), module('c', { softThru: true })],
		{
			cables: [cable('a.out', 'b.in'), cable('b.out', 'c.in'), cable('c.out', 'a.in')]
		}
	);
	expect(findLoops(rig).map(({ devices }) => [...devices].sort())).toEqual([['a', 'b', 'c']]);
	const open = studio([module('a', { softThru: true }), module('b')], {
		cables: [cable('a.out', 'b.in'), cable('b.out', 'a.in')]
	});
	expect(findLoops(open)).toEqual([]);
});

it('clock goes through thru sockets to whoever follows', () => {
	const rig = studio(
		[
			module('lead', { clock: { mode: 'internal', sends: true } }),
			module('a', { clock: { mode: 'external' } }),
			module('b', { clock: { mode: 'external' } })
		],
		{
			cables: [cable('lead.out', 'a.in'), cable('a.thru', 'b.in')]
		}
	);
	const { sources, followers } = clocksOf(rig);
	expect([...sources[0].reaches].sort()).toEqual(['a', 'b']);
	expect(followers.map(({ id }) => id)).toEqual(['a', 'b']);
});

it('audio pairs are odd and the next, within one interface', () => {
	const weir = (id: string, inputs: number) => ({
		id,
		name: id,
		kind: 'audio interface',
		ports: Array.from({ length: inputs }, (_, i) => port(`${id}.${i + 1}`, 'in', 'audio'))
	});
	const rig = studio(
		[
			weir('w', 3),
			weir('v', 2),
			{ id: 'a', name: 'a', kind: 'synthesiser', ports: [port('a.m', 'out', 'audio')] }
		],
		{ cables: [cable('a.m', 'w.1')] }
	);
	const audio = audioOf(rig);
	expect(freePairs(audio).map((pair) => pair.map(({ port: { id } }) => id))).toEqual([['v.1', 'v.2']]);
	expect(freePairs(audio, 'a').map((pair) => pair[0].port.id)).toEqual(['w.1', 'v.1']);
	expect(audio.returns[0].outs[0].number).toBe(1);
});
