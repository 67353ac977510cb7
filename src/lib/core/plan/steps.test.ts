import loadHighs, { type Highs } from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { applyChanges, rigSchema, type Rig } from '../rig';
import { cable, module, port, studio } from '../rig/rig.fixture';
import { makePlan, suppose, supposedName, checkPlan } from './index';

let highs: Highs;
beforeAll(async () => {
	highs = await loadHighs();
});
const plan = (rig: Rig, policy: Parameters<typeof makePlan>[2]['policy'] = 'shared-ports') =>
	makePlan(highs, rig, { policy, seconds: 20, now: () => performance.now() });

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
