import loadHighs, { type Highs } from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { applyChanges, checkRig, rigSchema, type Rig, type RigFile } from '../rig';
import { bruteForce } from './brute.fixture';
import { checkPlan, makePlan, POLICIES, type Policy } from './index';
import { madeStudio, seeded } from './studio.fixture';

let highs: Highs;
beforeAll(async () => {
	highs = await loadHighs();
});

const POLICY_NAMES = Object.keys(POLICIES) as Policy[];
const plan = (rig: Rig, policy: Policy, seconds = 60) =>
	makePlan(highs, rig, { policy, seconds, now: () => performance.now() });

/** A studio small enough for trying everything, with every kind of wish in it now and then. */
function smallStudio(seed: number): Rig {
	const random = seeded(seed);
	const chance = (share: number) => random() < share;
	const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
	const places = ['Desk', 'Rack'];
	const many = 2 + Math.floor(random() * 3);
	const outs = 1 + Math.floor(random() * 3);
	const port = (id: string, direction: 'in' | 'out' | 'thru') => ({
		id,
		name: id,
		direction,
		connector: 'din' as const
	});
	const devices: NonNullable<RigFile['devices']>[number][] = Array.from({ length: many }, (_, i) => {
		const id = `d${i}`;
		const parts = chance(0.2) ? 2 : 1;
		const channels = chance(0.3) ? [1, 2, 3, 4, 5].filter(() => chance(0.6)) : [1, 2, 3, 4];
		return {
			id,
			name: id,
			place: pick(places),
			kind: 'sound module',
			model: pick(['Model A', 'Model B', '']),
			ports: [
				port(`${id}.in`, 'in'),
				...(chance(0.9) ? [port(`${id}.out`, 'out')] : []),
				...(chance(0.7) ? [port(`${id}.thru`, 'thru')] : [])
			],
			receive: {
				channels: channels.length > 0 ? channels : [2],
				parts,
				adjacent: chance(0.7),
				omni: chance(0.1)
			},
			wants: { return: chance(0.4), bytesPerSecond: Math.floor(random() * 15) * 50, tight: chance(0.25) },
			lock: {
				...(chance(0.12) ? { out: `i.out${1 + Math.floor(random() * outs)}` } : {}),
				...(chance(0.1) ? { channel: pick(channels.length > 0 ? channels : [2]) } : {}),
				...(chance(0.08) ? { in: 'i.in1' } : {})
			}
		};
	});
	const box = many < 4 && chance(0.25);
	const merge = chance(0.25);
	const rig = {
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			{
				id: 'i',
				name: 'i',
				place: pick(places),
				kind: 'interface',
				ports: [
					...Array.from({ length: outs }, (_, i) => port(`i.out${i + 1}`, 'out')),
					...Array.from({ length: 1 + Math.floor(random() * 2) }, (_, i) => port(`i.in${i + 1}`, 'in'))
				]
			},
			...(box
				? [
						{
							id: 'box',
							name: 'box',
							kind: 'thru box',
							ports: [port('box.in', 'in'), port('box.out1', 'out'), port('box.out2', 'out')]
						}
					]
				: []),
			...(merge
				? [
						{
							id: 'mix',
							name: 'mix',
							kind: 'merge box',
							ports: [port('mix.in1', 'in'), port('mix.in2', 'in'), port('mix.out', 'out')]
						}
					]
				: []),
			...devices
		],
		limits: { chain: 1 + Math.floor(random() * 3), load: pick([0.2, 0.7]) }
	};
	// Today's cabling: whatever happens to fit.
	const free = new Set(
		['d0', 'd1', 'd2', 'd3', 'box']
			.flatMap((id) => [`${id}.thru`, `${id}.out1`, `${id}.out2`])
			.concat(['i.out1', 'i.out2', 'i.out3'])
	);
	const exists = new Set(rig.devices.flatMap(({ ports }) => (ports ?? []).map(({ id }) => id)));
	const cables: { from: string; to: string }[] = [];
	for (const { id } of devices) {
		const able = [...free].filter((socket) => exists.has(socket) && !socket.startsWith(`${id}.`));
		if (chance(0.6) && able.length > 0) {
			const from = pick(able);
			free.delete(from);
			cables.push({ from, to: `${id}.in` });
		}
		const back = pick(['i.in1', 'i.in2', 'mix.in1', 'mix.in2']);
		if (chance(0.5) && exists.has(`${id}.out`) && exists.has(back) && !cables.some(({ to }) => to === back))
			cables.push({ from: `${id}.out`, to: back });
	}
	return rigSchema.parse({
		...rig,
		cables,
		settings: devices
			.filter(() => chance(0.8))
			.map(({ id }) => ({
				device: id,
				channel: 1 + Math.floor(random() * 4),
				...(chance(0.7) ? { deviceId: Math.floor(random() * 2) } : {})
			}))
	});
}

describe('against brute force', () => {
	it.each(POLICY_NAMES)(
		'every goal of 300 small studios is the best there is: %s',
		(policy) => {
			let placed = 0;
			for (let seed = 1; seed <= 300; seed++) {
				const rig = smallStudio(seed);
				const found = plan(rig, policy);
				const { broken, ...goals } = found.goals;
				expect({ seed, goals }).toEqual({ seed, goals: bruteForce(rig, policy) });
				expect({ seed, faults: checkPlan(rig, found).faults, broken }).toEqual({
					seed,
					faults: [],
					broken: 0
				});
				placed += found.assignments.length;
			}
			expect(placed).toBeGreaterThan(300);
		},
		300_000
	);
});

it('applies its change list step by step, and the studio is then as planned, without a hard problem', () => {
	for (let seed = 1; seed <= 40; seed++) {
		const rig = smallStudio(seed);
		const found = plan(rig, 'shared-ports');
		const after = applyChanges(
			rig,
			found.steps.map(({ change }) => change)
		);
		// Planned again, nothing is left to do.
		const again = plan(after, 'shared-ports');
		expect({ seed, moves: again.moves, steps: again.steps.map(({ says }) => says) }).toEqual({
			seed,
			moves: 0,
			steps: []
		});
		const placed = new Set(found.assignments.map(({ device }) => device));
		const troubles = checkRig(after).filter(
			({ rule, about }) =>
				[
					'channel.clash',
					'channel.blocks',
					'channel.omni',
					'id.same',
					'cable.socket',
					'chain.deep',
					'channel.impossible'
				].includes(rule) && about.every((id) => placed.has(id) || !id.startsWith('d'))
		);
		expect({ seed, troubles: troubles.map(({ says }) => says) }).toEqual({ seed, troubles: [] });
	}
}, 120_000);

it('gives equal plans for equal rigs', () => {
	const rig = madeStudio(14, 6, 5);
	expect(plan(rig, 'shared-ports')).toEqual(plan(structuredClone(rig), 'shared-ports'));
});

it('solves a studio of middle size by sets, and the checker agrees', () => {
	const rig = madeStudio(24, 10, 3);
	const found = plan(rig, 'shared-ports');
	expect(found.status).toBe('optimal');
	expect(checkPlan(rig, found).faults).toEqual([]);
	expect(Object.keys(found.why)).toHaveLength(24);
}, 60_000);

it('keeps the best plan so far when it is stopped, and says how far it may be from the best', () => {
	const rig = madeStudio(40, 16, 2);
	let looked = 0;
	const found = makePlan(highs, rig, {
		policy: 'shared-ports',
		seconds: 60,
		now: () => performance.now(),
		cancelled: () => ++looked > 3
	});
	expect(found.cancelled).toBe(true);
	expect(found.status).not.toBe('optimal');
	expect(checkPlan(rig, found).faults).toEqual([]);
}, 60_000);

describe('what has no place', () => {
	const studio = (devices: RigFile['devices'], ports = 1) =>
		rigSchema.parse({
			format: 'silent-drawer.rig',
			version: 1,
			devices: [
				{
					id: 'i',
					name: 'Ferry',
					kind: 'interface',
					ports: Array.from({ length: ports }, (_, i) => ({
						id: `i.out${i}`,
						direction: 'out',
						connector: 'din'
					}))
				},
				...devices
			]
		});
	const module = (id: string, more: object = {}) => ({
		id,
		name: id,
		kind: 'sound module',
		ports: [{ id: `${id}.in`, direction: 'in' as const, connector: 'din' as const }],
		...more
	});

	it('is told what would free it, found by trying', () => {
		const rig = studio([module('a'), module('b')]);
		const found = plan(rig, 'shared-ports');
		expect(found.status).toBe('infeasible');
		expect(found.unplaced).toHaveLength(1);
		expect(found.unplaced[0].wouldHelp).toEqual([
			'One thru box more (1 in, 4 outs).',
			'One interface out more.'
		]);
		expect(found.unplaced[0].because).toContain('no out is left for it');
	});

	it('unlocks a choice before it asks for more gear', () => {
		const rig = studio(
			[module('a', { lock: { out: 'i.out0' } }), module('b', { lock: { out: 'i.out0' } })],
			2
		);
		const { unplaced } = plan(rig, 'port-per-instrument');
		expect(unplaced[0].wouldHelp[0]).toBe('Unlock its port and channel.');
	});

	it('says so when a return is asked of a device without an out', () => {
		const { unplaced } = plan(studio([module('a', { wants: { return: true } })]), 'shared-ports');
		expect(unplaced[0].because).toEqual(['a return is asked for, but it has no MIDI out']);
	});

	it('names channels that run out in the whole studio', () => {
		const rig = studio(
			[module('a', { receive: { channels: [1] } }), module('b', { receive: { channels: [1] } })],
			2
		);
		const { unplaced } = plan(rig, 'studio-wide-channels');
		expect(unplaced[0].wouldHelp).toContain('A different range of channels, if it can be set to one.');
	});
});

it('refuses a rig without an interface', () => {
	expect(() =>
		plan(rigSchema.parse({ format: 'silent-drawer.rig', version: 1, devices: [] }), 'shared-ports')
	).toThrow('no interface with a MIDI out');
});
