// The planner and the wire's simulation, for the table that `npm run bench` prints.
import loadHighs from 'highs';
import {
	checkPlan,
	GOALS,
	lineOf,
	makePlan,
	patternScore,
	POLICIES,
	simulate,
	type Goal,
	type Network,
	type Policy
} from '../src/lib/core/plan';
import { mixedStudio } from '../src/lib/core/plan/mixed-studio.fixture';
import { madeStudio } from '../src/lib/core/plan/studio.fixture';
import { checkRig, findLoops, indexRig, ledgerOf, trace } from '../src/lib/core/rig';
import type { Row } from './bench-rows';

/** Devices and outs: the planner's time against size. Three made-up studios of each, most of them cabled today. */
const SIZES = [
	[12, 6],
	[24, 8],
	[36, 14],
	[48, 18],
	[64, 24]
] as const;
const SEEDS = [2, 3, 5];
const CABLED = 0.9;

async function planning(row: Row): Promise<void> {
	const highs = await loadHighs();
	let before = 0;
	for (const [devices, outs] of SIZES) {
		const runs = SEEDS.map((seed) => {
			const rig = madeStudio(devices, outs, seed, CABLED);
			const started = performance.now();
			const plan = makePlan(highs, rig, {
				policy: 'shared-ports',
				seconds: 120,
				now: () => performance.now()
			});
			const seconds = (performance.now() - started) / 1000;
			return {
				seconds,
				proved: plan.gap === 0 && plan.proved.length === 6,
				faults: checkPlan(rig, plan).faults.length
			};
		});
		const times = runs.map(({ seconds }) => seconds).sort((a, b) => a - b);
		row(
			`Planning ${devices} devices on ${outs} outs, s`,
			times[1].toFixed(1),
			`${times[0].toFixed(1)}–${times[2].toFixed(1)} in three studios; ${runs.filter(({ proved }) => proved).length} of 3 proved best, ${runs.reduce((sum, { faults }) => sum + faults, 0)} faults${before > 0 ? `; ${(times[1] / before).toFixed(1)} × the size before` : ''}`
		);
		before = times[1];
	}
}

/**
 * Studios with everything in them: parts, loose channels, wide thru sockets, boxes, locks, reserved channels. Devices,
 * outs, seconds for the goals, and how many studios are drawn.
 */
const MIXED = [
	[24, 8, 3, 10],
	[64, 24, 15, 10]
] as const;

async function mixtures(row: Row): Promise<void> {
	const highs = await loadHighs();
	for (const policy of Object.keys(POLICIES) as Policy[])
		for (const [devices, outs, limit, many] of MIXED) {
			const runs = Array.from({ length: many }, (_, i) => {
				const rig = mixedStudio(devices, outs, i + 1);
				const started = performance.now();
				let first = 0;
				const plan = makePlan(highs, rig, {
					policy,
					seconds: limit,
					now: () => performance.now(),
					onPlan: () => (first ||= performance.now() - started)
				});
				return { plan, first, faults: checkPlan(rig, plan).faults.length };
			});
			const seconds = runs.map(({ plan }) => plan.took.ms / 1000).sort((a, b) => a - b);
			const proved = runs.filter(({ plan }) => plan.proved.length === 6);
			const open = runs.filter(({ plan }) => plan.proved.length < 6);
			row(
				`Mixture of ${devices} on ${outs}, ${policy}, proved`,
				`${proved.length} of ${runs.length}`,
				`within ${limit} s for the goals; ${seconds[0].toFixed(1)}–${seconds.at(-1)!.toFixed(1)} s with what has no place explained; first plan after ${Math.max(...runs.map(({ first }) => first)).toFixed(0)} ms${
					open.length > 0
						? `; open: ${open.map(({ plan }) => `${GOAL_ORDER[plan.proved.length]} ${plan.gap < 1 ? `within ${(plan.gap * 100).toFixed(0)} %` : 'how far is not known'}`).join(', ')}`
						: ''
				}; ${runs.reduce((sum, { faults }) => sum + faults, 0)} faults`
			);
		}
}

/** Goals in their order, without the hard rules. */
const GOAL_ORDER = (Object.keys(GOALS) as Goal[]).filter((goal) => goal !== 'broken');

function playing(row: Row): void {
	const parts = Array.from({ length: 48 }, (_, i) => ({ device: `d${i}`, channel: (i % 16) + 1 }));
	const network: Network = {
		lines: Array.from({ length: 24 }, (_, i) => lineOf(`out${i}`, { pipe: `i${i % 3}` })),
		hearings: parts.map(({ device }, i) => ({ device, line: i % 24, afterUs: 0 })),
		channels: new Map(parts.map(({ device, channel }) => [device, [channel]])),
		home: new Map(parts.map(({ device }, i) => [device, i % 24]))
	};
	const score = patternScore('sweeps', parts, 70);
	const started = performance.now();
	const report = simulate(score, network, { runningStatus: true, usb: true });
	const seconds = (performance.now() - started) / 1000;
	row(
		`Playing ${score.atUs.length.toLocaleString('en')} events through 24 ports, s`,
		seconds.toFixed(2),
		`${(70 / seconds).toFixed(0)} × as fast as the 70 s it stands for; ${report.devices.length} devices`
	);
}

function reading(row: Row): void {
	const rig = madeStudio(60, 24, 2, CABLED);
	const fresh = () => structuredClone(rig);
	const time = (work: (of: typeof rig) => unknown): number => {
		let least = Infinity;
		for (let i = 0; i < 5; i++) {
			const copy = fresh();
			const started = performance.now();
			work(copy);
			least = Math.min(least, performance.now() - started);
		}
		return least;
	};
	const index = time((copy) => indexRig(copy));
	const rules = time((copy) => checkRig(copy));
	row(
		'All rules over 60 devices, ms',
		rules.toFixed(1),
		`${(rules / Math.max(0.01, index)).toFixed(0)} × the indexing alone; ledger with them ${time((copy) => ledgerOf(copy)).toFixed(1)} ms, loops ${time((copy) => findLoops(copy)).toFixed(1)} ms`
	);
	row(
		'Tracing one port to all of 60 devices, ms',
		time((copy) => trace(copy, { port: 'i0.out1' }, 1)).toFixed(1)
	);
}

export async function wiring(row: Row): Promise<void> {
	reading(row);
	playing(row);
	await planning(row);
	await mixtures(row);
}
