import { describe, expect, it } from 'vitest';
import { applyChanges, checkRig, rigSchema, type Rig, type RigFile } from '../rig';
import { checkPlan, type Plan } from './index';
import { planner, POLICY_NAMES } from './planner.fixture';
import { smallStudio } from './small-studio.fixture';
import { madeStudio } from './studio.fixture';

const { plan } = planner();

it.each(POLICY_NAMES)('is what it says, checked from first principles: %s', (policy) => {
	let placed = 0;
	for (let seed = 1; seed <= 20; seed++) {
		const rig = smallStudio(seed);
		const found = plan(rig, policy);
		expect({ seed, faults: checkPlan(rig, found).faults }).toEqual({ seed, faults: [] });
		placed += found.assignments.length;
	}
	expect(placed).toBeGreaterThan(20);
});

describe('the change list', () => {
	it.each(POLICY_NAMES)(
		'played on the rig gives the plan, and nothing is wrong that was not wrong before: %s',
		(policy) => {
			const findings = (rig: Rig) =>
				checkRig(rig).map(({ rule, about }) => `${rule} ${[...about].sort().join(' ')}`);
			for (let seed = 1; seed <= 25; seed++) {
				const rig = smallStudio(seed);
				const found = plan(rig, policy);
				const after = applyChanges(
					rig,
					found.steps.map(({ change }) => change)
				);
				const before = new Set(findings(rig));
				// What has no place is unplugged, who played something may be heard nowhere, and twins are asked about: the plan says so.
				const told = (finding: string) =>
					found.unplaced.some(({ device }) =>
						[`device.unfed ${device}`, `return.missing ${device}`].includes(finding)
					) ||
					(/^keys\.unheard pl$/.test(finding) &&
						found.steps.some(({ says }) => /pl no longer plays/.test(says))) ||
					(finding.startsWith('id.unknown ') &&
						found.asks.some(({ devices }) => devices.every((id) => finding.split(' ').includes(id))));
				expect({
					seed,
					wrong: findings(after).filter((finding) => !before.has(finding) && !told(finding))
				}).toEqual({ seed, wrong: [] });
				// Nothing that is an error is left to what was planned, but in cables that are none of its business.
				const planned = new Set(found.assignments.map(({ device }) => device));
				const errors = checkRig(after).filter(
					({ rule, severity, about }) =>
						severity === 'error' &&
						about.some((id) => planned.has(id)) &&
						!(
							rule.startsWith('cable.') &&
							rig.cables.some(({ from, to }) => about.includes(from) && about.includes(to))
						)
				);
				expect({ seed, errors: errors.map(({ says }) => says) }).toEqual({ seed, errors: [] });
				// Planned again, nothing is left to do.
				const again = plan(after, policy);
				expect({ seed, moves: again.moves, steps: again.steps.map(({ says }) => says) }).toEqual({
					seed,
					moves: 0,
					steps: []
				});
			}
		},
		120_000
	);
});

it('gives equal plans for equal rigs', () => {
	const rig = madeStudio(14, 6, 5);
	const [a, b] = [rig, structuredClone(rig)].map((of) => ({ ...plan(of, 'shared-ports'), took: null }));
	expect(a).toEqual(b);
});

it.each(POLICY_NAMES)(
	'shows plans that keep all rules before the proof, each no worse: %s',
	(policy) => {
		const shown: Plan[] = [];
		const rig = madeStudio(16, 6, 4);
		const last = plan(rig, policy, { seconds: 20, onPlan: (found) => shown.push(found) });
		expect(shown.length).toBeGreaterThan(0);
		const order = ['unplaced', 'crowded', 'moves', 'busiest', 'away', 'channels'] as const;
		const value = ({ goals }: Plan) => order.map((goal) => String(goals[goal]).padStart(8, '0')).join();
		for (const [i, found] of [...shown, last].entries()) {
			expect(checkPlan(rig, found).faults).toEqual([]);
			if (i > 0) expect(value(found) <= value(shown[i - 1])).toBe(true);
		}
		expect(last.took.proofMs).toBeLessThanOrEqual(last.took.ms);
	},
	60_000
);

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
	const found = plan(rig, 'shared-ports', { cancelled: () => ++looked > 3 });
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
