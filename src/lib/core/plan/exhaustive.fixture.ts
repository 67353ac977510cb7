import loadHighs from 'highs';
import { expect } from 'vitest';
import { recount } from './assemble';
import { bruteForce } from './brute.fixture';
import { solveTask } from './make-plan';
import type { Policy } from './policy';
import { smallStudio } from './small-studio.fixture';
import { Solver } from './solver';
import { planTask } from './task';

/** Compares every goal of many small studios with trying everything, and that all of it is proved. */
export async function agreesWithBruteForce(policy: Policy, studios: number): Promise<void> {
	const highs = await loadHighs();
	const kinds = { proved: 0, placed: 0, chained: 0, off: 0, crossing: 0, played: 0, plugs: 0 };
	for (let seed = 1; seed <= studios; seed++) {
		const rig = smallStudio(seed);
		const task = planTask(rig, policy);
		const solved = solveTask(task, new Solver(highs, { seconds: 60, now: () => performance.now() }))!;
		const { broken: _, ...goals } = recount(task, solved.layout);
		expect({ seed, ...goals }).toEqual({ seed, ...bruteForce(rig, policy) });
		expect({ seed, open: solved.goals.filter(({ proved }) => !proved) }).toEqual({ seed, open: [] });
		kinds.proved += solved.goals.length;
		kinds.placed += solved.layout.feeds.size;
		kinds.chained += [...solved.layout.feeds.values()].filter(({ hop }) => hop > 1).length;
		kinds.off += task.outs.some(({ off }) => off) ? 1 : 0;
		kinds.crossing += task.outs.some(({ trs }) => trs !== null) ? 1 : 0;
		kinds.played += task.devices.some(({ present }) => present.player !== null) ? 1 : 0;
		kinds.plugs += task.plugs.length;
	}
	expect(kinds.proved).toBe(6 * studios);
	// None of it is left out by chance.
	for (const count of Object.values(kinds)) expect(count).toBeGreaterThan(studios / 100);
}
