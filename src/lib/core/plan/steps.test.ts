import { describe, expect, it } from 'vitest';
import { applyChanges, hostSchema, rigSchema } from '../rig';
import { cable, module, port, studio } from '../rig/rig.fixture';
import { suppose, supposedName, checkPlan } from './index';
import { planner } from './planner.fixture';

const { plan } = planner();

describe('the change list', () => {
	it('pulls before it plugs, names adapters, and sets panels last', () => {
		const rig = studio(
			[
				module('a', { lock: { out: 'ferry.out2', channel: 7 } }),
				module('b'),
				{ id: 'p', name: 'p', kind: 'effect pedal', ports: [port('p.in', 'in', 'trs-b')] }
			],
			{
				cables: [cable('ferry.out1', 'a.in'), cable('ferry.out2', 'b.in')],
				settings: [
					{ device: 'a', channel: 1 },
					{ device: 'b', channel: 1 },
					{ device: 'p', channel: 2 }
				]
			}
		);
		const says = plan(rig).steps.map((step) => step.says);
		const kinds = says.map((text) => text.split(' ')[0]);
		expect(kinds.lastIndexOf('Pull')).toBeLessThan(kinds.indexOf('Plug'));
		expect(kinds.lastIndexOf('Plug')).toBeLessThan(kinds.indexOf('Set'));
		expect(says).toContain('Set a to channel 7 (now 1).');
		expect(
			says.some((text) => /^Plug ferry out\d into p in with a TRS type B to DIN adapter\.$/.test(text))
		).toBe(true);
	});

	it('is possible step by step, in the order in which it stands', () => {
		const rig = studio(
			['a', 'b', 'c', 'd', 'e'].map((id) => module(id, { wants: { return: id < 'c', bytesPerSecond: 300 } })),
			{
				cables: [
					cable('ferry.out4', 'a.in'),
					cable('a.thru', 'b.in'),
					cable('b.thru', 'c.in'),
					cable('b.out', 'ferry.in1')
				],
				settings: ['a', 'b', 'c'].map((device) => ({ device, channel: 1 }))
			}
		);
		const found = plan(rig);
		let now = rig;
		for (const { change } of found.steps) now = applyChanges(now, [change]);
		expect(checkPlan(rig, found).faults).toEqual([]);
		expect(plan(now).moves).toBe(0);
	});

	it('changes nothing in a studio that is as it should be', () => {
		const rig = studio([module('a')], {
			cables: [cable('ferry.out1', 'a.in')],
			settings: [{ device: 'a', channel: 1 }]
		});
		expect(plan(rig)).toMatchObject({ moves: 0, steps: [], status: 'optimal' });
	});
});

describe('the explanation', () => {
	const rig = studio(
		[
			module('a', { wants: { tight: true, bytesPerSecond: 100 } }),
			module('b', { receive: { omni: true } }),
			module('c')
		],
		{
			cables: [cable('ferry.out1', 'a.in')],
			settings: [{ device: 'a', channel: 3 }]
		}
	);

	it('says what stays, who is alone and why, and what the next best would cost', () => {
		const { why } = plan(rig);
		expect(why.a).toContain('stays on ferry out1, where it is today');
		expect(why.a).toContain('alone, because its timing is tight');
		expect(why.a).toMatch(/The next best, ferry out\d, would cost 1 more in cables to plug/);
		expect(why.b).toContain('alone, because it answers to every channel');
	});

	it('tells two of a model apart', () => {
		const twins = studio([module('a', { model: 'Tarn' }), module('b', { model: 'Tarn' })], {
			devices: [
				{ id: 'i', name: 'i', kind: 'interface', ports: [port('i.out', 'out')] },
				module('a', { model: 'Tarn' }),
				module('b', { model: 'Tarn' })
			],
			settings: [
				{ device: 'a', channel: 1, deviceId: 0 },
				{ device: 'b', channel: 2, deviceId: 0 }
			]
		});
		const found = plan(twins);
		const changed = found.assignments.filter(({ deviceId }) => deviceId !== null);
		expect(changed.map(({ deviceId }) => deviceId)).toEqual([1]);
		expect(found.why[changed[0].device]).toContain('with device ID 1, to be told from the other one');
		expect(checkPlan(twins, found).faults).toEqual([]);
	});
});

describe('what if', () => {
	const rig = rigSchema.parse({
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			{ id: 'i', name: 'i', kind: 'interface', ports: [port('i.out', 'out')] },
			module('a'),
			module('b'),
			module('c')
		],
		limits: { chain: 2 }
	});

	it('more gear finds places for what had none, and the studio stays as it is', () => {
		expect(plan(rig).unplaced).toHaveLength(1);
		const more = suppose(rig, [{ kind: 'interface', outs: 2 }]);
		expect(plan(more).unplaced).toEqual([]);
		expect(plan(suppose(rig, [{ kind: 'thru box' }])).unplaced).toEqual([]);
		expect(rig.devices).toHaveLength(4);
	});

	it('another instrument takes part like a real one', () => {
		const choir = { kind: 'instrument' as const, name: 'Choir', parts: 4, bytesPerSecond: 200, tight: false };
		const found = plan(suppose(rig, [{ kind: 'interface', outs: 2 }, choir]));
		expect(found.assignments.find(({ device }) => device === 'supposed-2')!.channels).toHaveLength(4);
		expect([choir, { kind: 'thru box' as const }].map(supposedName)).toEqual([
			'Choir',
			'a thru box (1 in, 4 outs)'
		]);
	});
});

it('leaves a USB instrument on its own cable, and gives it a channel where the whole studio shares them', () => {
	const usb = { id: 'u', name: 'u', kind: 'synthesiser', ports: [port('u.usb', 'both', 'usb-device')] };
	const rig = studio([usb, module('a')], {
		settings: [
			{ device: 'u', channel: 1 },
			{ device: 'a', channel: 1 }
		]
	});
	expect(plan(rig).assignments[0]).toMatchObject({ device: 'u', out: 'u.usb', in: 'u.usb', channels: [1] });
	const wide = plan(rig, 'studio-wide-channels');
	expect(new Set(wide.assignments.flatMap(({ channels }) => channels)).size).toBe(2);
	expect(checkPlan(rig, wide).faults).toEqual([]);
});

it('keeps a reserved channel free', () => {
	const rig = studio([module('a', { receive: { channels: [1, 2] } })], {
		host: {
			ports: [1, 2, 3, 4].map((n) => ({
				id: `h${n}`,
				name: `h${n}`,
				number: n,
				direction: 'out' as const,
				port: `ferry.out${n}`,
				reserved: 1
			}))
		}
	});
	expect(plan(rig).assignments[0].channels).toEqual([2]);
	expect(plan(rig, 'studio-wide-channels').assignments[0].channels).toEqual([2]);
});

describe('what a plan takes for granted', () => {
	const keyboard = (more: object = {}) => ({
		id: 'k',
		name: 'Span',
		kind: 'keyboard synthesiser',
		sends: [1],
		ports: [port('k.usb', 'both', 'usb-device'), port('k.out', 'out'), port('k.in', 'in')],
		...more
	});
	const rigOf = (more: object) => rigSchema.parse({ format: 'silent-drawer.rig', version: 1, ...more });

	it('gives out the sockets of a mixer that the computer is behind, and of a keyboard that passes on', () => {
		const mixer = {
			id: 'm',
			name: 'Weir',
			kind: 'mixer',
			ports: [port('m.usb', 'both', 'usb-device'), port('m.out', 'out')]
		};
		expect(plan(rigOf({ devices: [mixer, module('a')] })).assignments).toMatchObject([{ out: 'm.out' }]);
		const host = {
			ports: [
				{ id: 'h1', name: 'Span', number: 1, direction: 'out', port: 'k.usb' },
				{ id: 'h2', name: 'Span MIDI', number: 2, direction: 'out', port: 'k.out' }
			]
		};
		const passed = plan(rigOf({ devices: [keyboard(), module('a')], host }));
		expect(passed.assignments.find(({ device }) => device === 'a')).toMatchObject({ out: 'k.out' });
		// It is not fed from itself, wherever else there is no out.
		const din = keyboard({ ports: [port('k.out', 'out'), port('k.in', 'in')] });
		const own = plan(rigOf({ devices: [din, module('a')], host: { ports: host.ports.slice(1) } }));
		expect(own.unplaced.map(({ device }) => device)).toEqual(['k']);
		// Without a host port of its own it passes nothing on.
		expect(() => plan(rigOf({ devices: [keyboard(), module('a')] }))).toThrow('no interface with a MIDI out');
	});

	it('keeps a locked in of what wants no return, and of what only sends', () => {
		const sender = {
			id: 's',
			name: 's',
			kind: 'sequencer',
			ports: [port('s.out', 'out')],
			lock: { in: 'ferry.in3' }
		};
		const found = plan(studio([module('a', { lock: { in: 'ferry.in2' } }), sender]));
		expect(found.assignments.map(({ device, in: into }) => [device, into])).toEqual([
			['a', 'ferry.in2'],
			['s', 'ferry.in3']
		]);
	});

	it('leaves the only cable of a player, and says so; with another one it takes it, and says that', () => {
		const treadle = {
			id: 't',
			name: 'Treadle',
			kind: 'foot controller',
			sends: [1],
			ports: [port('t.out', 'out')]
		};
		const found = plan(
			studio([treadle, module('a')], {
				cables: [cable('t.out', 'a.in')],
				settings: [{ device: 'a', channel: 1 }]
			})
		);
		expect(found.moves).toBe(0);
		expect(found.steps).toEqual([]);
		expect(found.asks.map(({ says }) => says)).toEqual([
			'a is left on Treadle: that is the only cable of Treadle. For the computer to play it, plug Treadle into the computer first.'
		]);
		const both = plan(
			studio([{ ...treadle, ports: [port('t.out', 'out'), port('t.out2', 'out')] }, module('a')], {
				cables: [cable('t.out', 'a.in'), cable('t.out2', 'ferry.in1')],
				settings: [{ device: 'a', channel: 1 }]
			})
		);
		// The computer hears it: that cable is kept, though it wants no return, and the other one may go.
		expect(both.steps.map(({ says }) => says)).toEqual([
			'Pull the cable from Treadle out to a in: Treadle no longer plays a, which the computer plays from then on.',
			'Plug ferry out1 into a in.'
		]);
		expect(both.why.a).toContain('in place of Treadle');
	});

	it('asks about twins whose device IDs nobody knows, however their model is written', () => {
		const twins = studio([module('a', { model: 'Tarn ' }), module('b', { model: 'tarn' })], {
			devices: [
				{ id: 'i', name: 'i', kind: 'interface', ports: [port('i.out', 'out')] },
				module('a', { model: 'Tarn ' }),
				module('b', { model: 'tarn' })
			]
		});
		expect(plan(twins).asks.map(({ devices }) => devices)).toEqual([['a', 'b']]);
		expect(plan(twins, 'studio-wide-channels').asks).toHaveLength(1);
	});

	it('tells twins apart however many blanks their model is written with', () => {
		const twins = ['Tarn  X', ' tarn x'].map((model, i) => module(`t${i}`, { model }));
		const found = plan(
			rigOf({
				devices: [{ id: 'i', name: 'i', kind: 'interface', ports: [port('i.out', 'out')] }, ...twins],
				settings: twins.map(({ id }, i) => ({ device: id, channel: i + 1, deviceId: 0 }))
			})
		);
		expect(found.assignments.map(({ deviceId }) => deviceId).sort()).toEqual([1, null]);
	});

	it('leaves a merge box where it is that comes back to a keyboard’s own socket', () => {
		const merge = {
			id: 'm',
			name: 'm',
			kind: 'merge box',
			ports: [port('m.a', 'in'), port('m.b', 'in'), port('m.out', 'out')]
		};
		const into = { id: 'h', name: 'Span in', number: 1, direction: 'in', port: 'k.in' };
		const rig = rigOf({
			devices: [
				keyboard({ ports: [port('k.usb', 'both', 'usb-device'), port('k.in', 'in')] }),
				{ id: 'i', name: 'i', kind: 'interface', ports: [port('i.1', 'out'), port('i.2', 'out')] },
				merge,
				...['a', 'b'].map((id) => module(id, { wants: { return: true } }))
			],
			cables: [
				cable('i.1', 'a.in'),
				cable('i.2', 'b.in'),
				cable('a.out', 'm.a'),
				cable('b.out', 'm.b'),
				cable('m.out', 'k.in')
			],
			settings: ['a', 'b'].map((device) => ({ device, channel: 1 })),
			host: { ports: [into, { ...into, id: 'u', port: 'k.usb', direction: 'out' }] }
		});
		expect(plan(rig)).toMatchObject({ moves: 0, steps: [], unplaced: [] });
	});

	it('plugs what is reached by USB alone, and says where the computer has no socket left', () => {
		const usb = (id: string) => ({
			id,
			name: id,
			kind: 'controller',
			ports: [port(`${id}.usb`, 'both', 'usb-device')]
		});
		const computer = { id: 'c', name: 'c', kind: 'computer', ports: [port('c.1', 'both', 'usb-host')] };
		const found = plan(studio([usb('x'), usb('y'), computer, module('a')]));
		expect(found.plugs).toEqual([{ device: 'x', from: 'x.usb', to: 'c.1' }]);
		expect(found.steps.map(({ says }) => says)).toContain('Plug x usb into c 1.');
		expect(found.asks).toMatchObject([{ devices: ['y'] }]);
	});

	it('crosses TRS types with an adapter that the cable has, and uses an out that is off last', () => {
		const rig = studio([{ id: 'p', name: 'p', kind: 'effect pedal', ports: [port('p.in', 'in', 'trs-b')] }], {
			devices: [
				{
					id: 'i',
					name: 'i',
					kind: 'interface',
					ports: [port('i.a', 'out', 'trs-a'), port('i.b', 'out', 'trs-b')]
				},
				{ id: 'p', name: 'p', kind: 'effect pedal', ports: [port('p.in', 'in', 'trs-b')] }
			]
		});
		expect(plan(rig).assignments[0].out).toBe('i.b');
		const off = {
			...rig,
			hosts: [
				hostSchema.parse({
					ports: [{ id: 'h', name: 'B', number: 1, direction: 'out', port: 'i.b', playing: false }]
				})
			]
		};
		// An adapter or enabling an out: one thing more either way.
		expect(plan(off).moves).toBe(3);
		const only = {
			...rig,
			devices: rig.devices.map((device) => ({
				...device,
				ports: device.ports.filter(({ id }) => id !== 'i.b')
			}))
		};
		const crossed = plan(only).steps.find(({ change }) => change.do === 'plug')!;
		expect(crossed.says).toContain('with a TRS type A to type B crossing adapter');
		expect(crossed.change).toMatchObject({ adapter: 'crossing' });
		const enabled = plan({
			...off,
			devices: only.devices.map((device) =>
				device.id === 'i' ? { ...device, ports: rig.devices[0].ports.slice(1) } : device
			)
		});
		expect(enabled.steps.map(({ says }) => says)).toContain('Enable “B” for playing in the host.');
	});
});

describe('several hosts', () => {
	const reef = {
		id: 'reef',
		name: 'reef',
		kind: 'interface',
		ports: [port('reef.out1', 'out'), port('reef.in1', 'in')]
	};
	const shown = (id: string, socket: string, direction: 'in' | 'out', more: object = {}) => ({
		id,
		name: id,
		number: 1,
		direction,
		port: socket,
		...more
	});
	const desk = {
		id: 'desk',
		name: 'Desk',
		ports: [shown('fo', 'ferry.out1', 'out'), shown('fi', 'ferry.in1', 'in')]
	};
	const slate = (more: object = {}) => ({
		id: 'slate',
		name: 'Slate',
		ports: [shown('so', 'reef.out1', 'out', more), shown('si', 'reef.in1', 'in', more)]
	});
	const wants = { return: true, bytesPerSecond: 100 };

	it('keep their instruments, and their returns; a wish moves one, and says so', () => {
		const rig = studio([reef, module('a', { wants }), module('b', { wants })], {
			cables: [cable('ferry.out1', 'a.in'), cable('reef.out1', 'b.in')],
			hosts: [desk, slate()]
		});
		const made = plan(rig);
		expect(made.assignments.map(({ device, out, in: into }) => [device, out, into])).toEqual([
			['a', 'ferry.out1', expect.stringContaining('ferry.in')],
			['b', 'reef.out1', 'reef.in1']
		]);
		expect(made.why.b).toContain('played by Slate');
		expect(made.asks).toEqual([]);
		const wished = plan(
			studio(
				[
					reef,
					module('a', { wants: { ...wants, host: 'slate' } }),
					module('b', { wants: { ...wants, host: 'desk' } })
				],
				{
					cables: rig.cables,
					hosts: [desk, slate()]
				}
			)
		);
		expect(wished.assignments.map(({ out }) => out?.split('.')[0])).toEqual(['reef', 'ferry']);
		// A checker of its own says the same of a plan that mixes them up.
		const [a, b] = wished.assignments;
		const mixed = {
			...wished,
			assignments: [
				{ ...a, in: b.in },
				{ ...b, in: a.in }
			]
		};
		expect(checkPlan(rig, mixed).faults.join()).toContain('comes back to another host');
	});

	it('do not come back to one another through a merge box', () => {
		const merge = {
			id: 'mix',
			name: 'mix',
			kind: 'merge box',
			ports: [port('mix.in1', 'in'), port('mix.in2', 'in'), port('mix.out', 'out')]
		};
		const rig = studio([reef, merge, module('a', { wants }), module('b', { wants })], {
			cables: [cable('reef.out1', 'a.in'), cable('a.thru', 'b.in'), cable('mix.out', 'ferry.in1')],
			hosts: [desk, slate()]
		});
		const made = plan(rig);
		expect(made.unplaced).toEqual([]);
		expect(made.boxes.find(({ device }) => device === 'mix')?.in).toBe('reef.in1');
	});

	it('ask whose a new instrument is, enable what is off, and say what would help', () => {
		const fresh = plan(studio([reef, module('a')], { hosts: [slate({ playing: false }), desk] }));
		expect(fresh.asks[0].says).toContain('Nobody said which host plays a: it is taken to be Slate.');
		expect(fresh.steps.map(({ says }) => says)).toContain('Enable “so” for playing in Slate.');
		const full = plan(
			studio(
				[reef, ...['a', 'b'].map((id) => module(id, { receive: { omni: true }, wants: { host: 'slate' } }))],
				{
					hosts: [desk, slate()]
				}
			)
		);
		expect(full.unplaced[0].wouldHelp).toContain('Let another host play it.');
	});
});
