import { describe, expect, it } from 'vitest';
import { applyChanges } from '../change';
import { cable, ferry, host, module, port, studio } from '../rig.fixture';
import { rigSchema, type Rig } from '../schema';
import { hostWays } from '../host-ways';
import { checkRig, RULES } from './index';

const set = (device: string, channel: number, deviceId?: number) => ({
	device,
	channel,
	...(deviceId === undefined ? {} : { deviceId })
});
const shared = (more: object = {}, b: object = {}, settings = [set('a', 1), set('b', 1)]) =>
	studio([module('a', more), module('b', b)], {
		cables: [cable('ferry.out1', 'a.in'), cable('a.thru', 'b.in')],
		settings
	});
const usb = (id: string, kind = 'controller') => ({
	id,
	name: id,
	kind,
	ports: [port(`${id}.usb`, 'both', 'usb-device')]
});
const jack = (id: string, connector: 'trs-a' | 'trs-b', direction: 'in' | 'out') => ({
	id,
	name: id,
	kind: 'effect pedal',
	ports: [port(`${id}.j`, direction, connector)]
});
const withHost = (more: object, devices = [module('a')], extra: object = {}) =>
	studio(devices, {
		cables: [cable('ferry.out1', 'a.in')],
		settings: [set('a', 1)],
		host: host(more),
		...extra
	});
const keyboard = (id: string, more: object = {}) => module(id, { sends: [1], ...more });
const audio = (into: [string, string] | [], inputs = 4) =>
	studio(
		[
			{
				id: 'weir',
				name: 'weir',
				kind: 'audio interface',
				ports: Array.from({ length: inputs }, (_, i) => port(`weir.${i + 1}`, 'in', 'audio'))
			},
			{
				id: 'a',
				name: 'a',
				kind: 'sound module',
				ports: [
					{ ...port('a.l', 'out', 'audio'), side: 'left' as const },
					{ ...port('a.r', 'out', 'audio'), side: 'right' as const }
				]
			}
		],
		{ cables: into.length > 0 ? [cable('a.l', into[0]!), cable('a.r', into[1]!)] : [] }
	);
const pedal = {
	id: 'rocker',
	name: 'rocker',
	kind: 'expression pedal',
	ports: [port('rocker.plug', 'out', 'pedal')]
};
const supply = {
	id: 'feed',
	name: 'feed',
	kind: 'power supply',
	ports: [port('feed.1', 'out', 'power'), port('feed.2', 'out', 'power')]
};
const floorBox = {
	id: 'box',
	name: 'box',
	kind: 'foot controller',
	ports: [port('box.jack', 'in', 'pedal'), port('box.power', 'in', 'power'), port('box.out', 'out')]
};
const computer = {
	id: 'mac',
	name: 'computer',
	kind: 'computer',
	ports: [port('mac.usb1', 'both', 'usb-host')]
};
const echo = { id: 't', name: 'Keys', input: 'hi1', output: 'ho1', echo: true };

/** Played by USB and by DIN. */
const both = module('a', { ports: [port('a.in', 'in'), port('a.usb', 'both', 'usb-device')] });
/** A port of the tablet, which the computer has too. */
const onTablet = () => ({
	id: 't4',
	name: 'Ferry out 4',
	number: 1,
	direction: 'out' as const,
	port: 'ferry.out4'
});
const usbOut = () => ({ id: 'hu', name: 'A by USB', number: 9, direction: 'out' as const, port: 'a.usb' });
const hub = {
	id: 'hub',
	name: 'hub',
	kind: 'USB hub',
	ports: [
		port('hub.up', 'both', 'usb-device'),
		port('hub.1', 'both', 'usb-host'),
		port('hub.2', 'both', 'usb-host')
	]
};
/** A synth through a pedal into an audio interface, or as far as the pedal. */
const pedals = (whole: boolean) =>
	studio(
		[
			{ id: 'weir', name: 'weir', kind: 'audio interface', ports: [port('weir.1', 'in', 'audio')] },
			{ id: 's', name: 's', kind: 'sound module', ports: [port('s.o', 'out', 'audio')] },
			{
				id: 'p',
				name: 'p',
				kind: 'effect pedal',
				ports: [port('p.i', 'in', 'audio'), port('p.o', 'out', 'audio')]
			}
		],
		{ cables: [cable('s.o', 'p.i'), ...(whole ? [cable('p.o', 'weir.1')] : [])] }
	);

/** For each rule a studio that trips it, and one close by that does not. */
const CASES: Record<string, [trips: Rig, quiet: Rig]> = {
	'cable.direction': [
		studio([module('a')], { cables: [cable('ferry.in1', 'a.in')] }),
		studio([module('a')], { cables: [cable('ferry.out1', 'a.in')] })
	],
	'cable.usb-devices': [
		studio([usb('keys')], { cables: [cable('keys.usb', 'ferry.usb')] }),
		studio([usb('keys'), computer], { cables: [cable('keys.usb', 'mac.usb1')] })
	],
	'cable.usb-needs-host': [
		studio([usb('keys'), module('a')], { cables: [cable('keys.usb', 'a.in')] }),
		studio(
			[
				usb('keys'),
				module('a'),
				{
					id: 'box',
					name: 'box',
					kind: 'USB host box',
					ports: [port('box.usb', 'both', 'usb-host'), port('box.out', 'out')]
				}
			],
			{
				cables: [cable('keys.usb', 'box.usb'), cable('box.out', 'a.in')]
			}
		)
	],
	'cable.trs-crossing': [
		studio([jack('x', 'trs-a', 'out'), jack('y', 'trs-b', 'in')], { cables: [cable('x.j', 'y.j')] }),
		studio([jack('x', 'trs-a', 'out'), jack('y', 'trs-b', 'in')], {
			cables: [cable('x.j', 'y.j', { adapter: 'crossing' })]
		})
	],
	'cable.connector': [
		studio([module('a', { ports: [port('a.in', 'in', 'audio')] })], {
			cables: [cable('ferry.out1', 'a.in')]
		}),
		studio([module('a')], { cables: [cable('ferry.out1', 'a.in')] })
	],
	'cable.socket': [
		studio([module('a'), module('b')], {
			cables: [cable('ferry.out1', 'a.in'), cable('ferry.out1', 'b.in')]
		}),
		studio([module('a'), module('b')], { cables: [cable('ferry.out1', 'a.in'), cable('ferry.out2', 'b.in')] })
	],
	'chain.deep': [
		studio([module('a'), module('b'), module('c')], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.thru', 'b.in'), cable('b.thru', 'c.in')],
			limits: { chain: 2 }
		}),
		studio([module('a'), module('b'), module('c')], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.thru', 'b.in'), cable('b.thru', 'c.in')]
		})
	],
	'device.unfed': [studio([module('a')]), studio([module('a')], { cables: [cable('ferry.out1', 'a.in')] })],
	'interface.no-usb': [studio([computer]), studio([computer], { cables: [cable('ferry.usb', 'mac.usb1')] })],
	'return.missing': [
		studio([module('a', { backup: true })], { cables: [cable('ferry.out1', 'a.in')] }),
		studio([module('a', { backup: true })], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		})
	],
	'line.elsewhere': [
		studio([module('a')], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')],
			answers: [{ device: 'a', out: 'ferry.out3', in: 'ferry.in1' }]
		}),
		studio([module('a')], {
			cables: [cable('ferry.out3', 'a.in'), cable('a.out', 'ferry.in1')],
			answers: [{ device: 'a', out: 'ferry.out3', in: 'ferry.in1' }]
		})
	],
	loop: [
		withHost({ tracks: [echo] }, [module('a', { softThru: true })], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		}),
		withHost({ tracks: [echo] }, [module('a')], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		})
	],
	'note.doubled': [
		withHost({ tracks: [echo] }, [keyboard('a')], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		}),
		withHost({ tracks: [echo] }, [keyboard('a', { local: false })], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		})
	],
	'clock.several': [
		withHost({ clock: true }, [module('a', { clock: { mode: 'internal', sends: true } })]),
		withHost({ clock: true }, [module('a', { clock: { mode: 'internal' } })])
	],
	'clock.none': [
		withHost({}, [module('a', { clock: { mode: 'external' } })]),
		withHost({ clock: true }, [module('a', { clock: { mode: 'external' } })])
	],
	'clock.unfed': [
		withHost({ clock: true }, [module('a', { clock: { mode: 'external' } })]),
		withHost({ clock: true, ports: host().ports!.map((entry) => ({ ...entry, clockOut: true })) }, [
			module('a', { clock: { mode: 'external' } })
		])
	],
	'channel.clash': [shared(), shared({}, {}, [set('a', 1), set('b', 2)])],
	'channel.blocks': [
		shared({ receive: { parts: 4 } }, {}, [set('a', 1), set('b', 3)]),
		shared({ receive: { parts: 4 } }, {}, [set('a', 1), set('b', 5)])
	],
	'channel.omni': [
		shared({ receive: { omni: true } }),
		studio([module('a', { receive: { omni: true } })], { cables: [cable('ferry.out1', 'a.in')] })
	],
	'channel.impossible': [
		studio([module('a', { receive: { channels: [1, 2] } })], { settings: [set('a', 5)] }),
		studio([module('a', { receive: { channels: [1, 2] } })], { settings: [set('a', 2)] })
	],
	'channel.unknown': [
		studio([module('a')], { cables: [cable('ferry.out1', 'a.in')] }),
		studio([module('a')], { cables: [cable('ferry.out1', 'a.in')], settings: [set('a', 1)] })
	],
	'id.same': [
		shared({ model: 'Tarn' }, { model: 'Tarn' }, [set('a', 1, 0), set('b', 2, 0)]),
		shared({ model: 'Tarn' }, { model: 'Tarn' }, [set('a', 1, 0), set('b', 2, 1)])
	],
	'host.reserved': [
		withHost({ ports: host().ports!.map((entry) => ({ ...entry, reserved: 1 })) }),
		withHost({ ports: host().ports!.map((entry) => ({ ...entry, reserved: 16 })) })
	],
	'host.two-instruments': [
		withHost({
			instruments: [
				{ id: 'p', name: 'Piano', input: 1 },
				{ id: 'q', name: 'Pad', input: 1 }
			]
		}),
		withHost({
			instruments: [
				{ id: 'p', name: 'Piano', input: 1 },
				{ id: 'q', name: 'Pad', input: 1, on: false }
			]
		})
	],
	'host.off': [
		withHost({ ports: host().ports!.map((entry) => ({ ...entry, playing: entry.id !== 'ho1' })) }),
		withHost({ ports: host().ports!.map((entry) => ({ ...entry, playing: entry.id !== 'ho2' })) })
	],
	'host.hidden': [
		withHost({ ports: host().ports!.map((entry) => ({ ...entry, hidden: entry.id === 'ho1' })) }),
		withHost({ ports: host().ports!.map((entry) => ({ ...entry, hidden: entry.id === 'ho2' })) })
	],
	'host.shared': [
		studio([module('a')], { hosts: [host(), { id: 'tablet', name: 'Tablet', ports: [onTablet()] }] }),
		studio([module('a')], {
			hosts: [{ ports: host().ports!.filter(({ id }) => id !== 'ho4') }, { id: 'tablet', name: 'Tablet' }]
		})
	],
	'host.number': [withHost({ ports: host().ports!.map((entry) => ({ ...entry, number: 1 })) }), withHost({})],
	'id.unknown': [
		shared({ model: 'Tarn' }, { model: 'tarn ' }, [set('a', 1), set('b', 2, 0)]),
		shared({ model: 'Tarn' }, { model: 'tarn ' }, [set('a', 1, 1), set('b', 2, 0)])
	],
	'host.two-tracks': [
		withHost({ tracks: [echo, { ...echo, id: 't2', name: 'Pad' }] }),
		withHost({ keys: 'selected', tracks: [echo, { ...echo, id: 't2', name: 'Pad' }] })
	],
	'host.no-input': [
		withHost({ instruments: [{ id: 'p', name: 'Piano', input: 9 }] }),
		withHost({ instruments: [{ id: 'p', name: 'Piano', input: 2 }] })
	],
	'device.twice': [
		withHost({ ports: [...host().ports!, usbOut()] }, [both]),
		withHost({ ports: [...host().ports!, { ...usbOut(), playing: false }] }, [both])
	],
	'keys.nowhere': [
		studio([usb('keys'), computer]),
		studio([usb('keys'), computer], { cables: [cable('keys.usb', 'mac.usb1')] })
	],
	'keys.unheard': [
		studio([keyboard('k'), module('a')], { cables: [cable('k.out', 'a.in')], settings: [set('a', 2)] }),
		studio([keyboard('k', { sends: [2] }), module('a')], {
			cables: [cable('k.out', 'a.in')],
			settings: [set('a', 2)]
		})
	],
	'local.unplayed': [
		withHost({ tracks: [{ ...echo, echo: false }] }, [keyboard('a', { local: false })], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		}),
		withHost({ tracks: [echo] }, [keyboard('a', { local: false })], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in1')]
		})
	],
	'thru.silent': [
		studio([module('a'), module('b')], { cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'b.in')] }),
		studio([module('a', { softThru: true }), module('b')], {
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'b.in')]
		})
	],
	'hub.no-host': [
		studio([usb('keys'), computer, hub], {
			cables: [cable('keys.usb', 'hub.1'), cable('ferry.usb', 'hub.2')]
		}),
		studio([usb('keys'), computer, hub], {
			cables: [cable('keys.usb', 'hub.1'), cable('ferry.usb', 'hub.2'), cable('hub.up', 'mac.usb1')]
		})
	],
	'audio.nowhere': [pedals(false), pedals(true)],
	'pedal.nowhere': [
		studio([pedal, floorBox]),
		studio([pedal, floorBox], { cables: [cable('rocker.plug', 'box.jack')] })
	],
	'supply.nowhere': [
		studio([supply, floorBox]),
		studio([supply, floorBox], { cables: [cable('feed.1', 'box.power')] })
	],
	'controller.no-sockets': [
		studio([{ ...floorBox, ports: floorBox.ports.slice(0, 2) }]),
		studio([floorBox], { cables: [cable('box.out', 'ferry.in1')] })
	],
	'audio.pair': [audio(['weir.2', 'weir.3']), audio(['weir.1', 'weir.2'])],
	'audio.exhausted': [audio([], 1), audio([], 2)],
	'load.high': [shared({ wants: { bytesPerSecond: 2500 } }), shared({ wants: { bytesPerSecond: 1000 } })],
	'load.over': [shared({ wants: { bytesPerSecond: 3200 } }), shared({ wants: { bytesPerSecond: 3000 } })]
};

it('has a case for each rule', () => {
	expect(RULES.length).toBeGreaterThanOrEqual(20);
	expect(Object.keys(CASES).sort()).toEqual(RULES.map(({ id }) => id).sort());
});

describe.each(Object.entries(CASES))('%s', (rule, [trips, quiet]) => {
	const found = (rig: Rig) => checkRig(rig).filter((trouble) => trouble.rule === rule);

	it('is found where it is, and not where it is not', () => {
		expect(found(trips).length).toBeGreaterThan(0);
		expect(found(quiet)).toEqual([]);
	});

	it('is gone after each of its cures, and none brings an error of another kind', () => {
		const before = new Set(checkRig(trips).map((trouble) => trouble.rule));
		for (const trouble of found(trips))
			for (const { changes } of trouble.cures) {
				const after = applyChanges(trips, changes);
				expect(rigSchema.parse(after)).toEqual(after);
				expect(found(after).map(({ id }) => id)).not.toContain(trouble.id);
				const fresh = checkRig(after).filter(
					(other) => other.severity === 'error' && !before.has(other.rule)
				);
				expect(fresh.map(({ says }) => says)).toEqual([]);
			}
	});
});

it('has at least one cure for what a click can cure', () => {
	const without = Object.entries(CASES)
		.filter(([rule, [trips]]) =>
			checkRig(trips).some((trouble) => trouble.rule === rule && trouble.cures.length === 0)
		)
		.map(([rule]) => rule);
	// Sockets are noted in the catalogue, and what a supply may feed is read off labels.
	expect(without).toEqual([
		'supply.nowhere',
		'controller.no-sockets',
		'audio.exhausted',
		'load.high',
		'load.over'
	]);
});

it('shows a loop as the way it takes', () => {
	const [loop] = checkRig(CASES.loop[0]).filter(({ rule }) => rule === 'loop');
	expect(loop.says).toContain('a repeats it (soft thru) → host port “Ferry in 1” → track “Keys” echoes');
	expect(loop.about).toEqual(expect.arrayContaining(['a', 'ferry']));
});

it('finds no error in a studio that is as it should be, quickly even with 60 devices', () => {
	const devices = Array.from({ length: 60 }, (_, i) => module(`d${i}`, { backup: false }));
	const big = studio(
		[
			{ ...ferry(60), id: 'big', ports: Array.from({ length: 60 }, (_, i) => port(`big.out${i}`, 'out')) },
			...devices
		],
		{
			cables: devices.map((_, i) => cable(`big.out${i}`, `d${i}.in`)),
			settings: devices.map((_, i) => set(`d${i}`, (i % 16) + 1))
		}
	);
	expect(checkRig(big)).toEqual([]);
});

it('tells apart what a supply with no outputs and one with idle outputs lacks, and judges no label', () => {
	const says = (rig: Rig) =>
		checkRig(rig)
			.filter(({ rule }) => rule === 'supply.nowhere')
			.map(({ says }) => says);
	expect(says(studio([{ ...supply, ports: [] }]))[0]).toContain('No output of feed is noted');
	expect(says(studio([supply]))[0]).toContain('the labels on the supply');
	const fed = studio([supply, floorBox], { cables: [cable('feed.1', 'box.power')] });
	expect(says(fed)).toEqual([]);
	// A power cable leads no message: the box is reached by nobody, and nothing comes back by it.
	expect(hostWays(fed).every((way) => way.out === null && way.in === null)).toBe(true);
});

describe('what roll call proved', () => {
	const answers = [{ device: 'a', out: 'ferry.out3', in: 'ferry.in4' }];
	const title = 'Plug it in where it answered: ferry out3, back at ferry in4';

	it.each([
		['device.unfed', studio([module('a')], { answers })],
		['return.missing', studio([module('a', { backup: true })], { answers })]
	])('is what the cure of %s plugs in, and not the next free socket', (rule, rig) => {
		const [{ cures }] = checkRig(rig).filter((trouble) => trouble.rule === rule);
		expect(cures.map((cure) => cure.title)).toEqual([title]);
		const cured = applyChanges(rig, cures[0].changes);
		expect(cured.cables).toEqual([cable('ferry.out3', 'a.in'), cable('a.out', 'ferry.in4')]);
		expect(checkRig(cured).map((trouble) => trouble.rule)).not.toContain(rule);
	});

	it('moves what is noted elsewhere, and what is in its way gives way', () => {
		const rig = studio([module('a'), module('b')], {
			answers,
			cables: [cable('ferry.out1', 'a.in'), cable('a.out', 'ferry.in4'), cable('ferry.out3', 'b.in')]
		});
		const [{ cures }] = checkRig(rig).filter(({ rule }) => rule === 'line.elsewhere');
		const cured = applyChanges(rig, cures[0].changes);
		expect(cured.cables).toEqual([cable('a.out', 'ferry.in4'), cable('ferry.out3', 'a.in')]);
		expect(checkRig(cured).map(({ rule }) => rule)).not.toContain('line.elsewhere');
	});
});
