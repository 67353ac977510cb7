// What feeds what, in large studios, for the table that `npm run bench` prints.
import loadHighs from 'highs';
import { faultsOfFeeding, planPower } from '../src/lib/core/power';
import { eightyLoads } from '../src/lib/core/power/eighty-loads.fixture';
import type { Row } from './bench-rows';

const SEEDS = [1, 2, 3, 4, 5];
/** Plugs at each of the 40 outputs: with two, no plug is to spare. */
const PLUGS = [3, 2];
const SECONDS = 20;

export async function power(row: Row): Promise<void> {
	const highs = await loadHighs();
	for (const plugs of PLUGS) {
		const runs = SEEDS.map((seed) => {
			const task = eightyLoads(seed, plugs);
			const plan = planPower(highs, task, { seconds: SECONDS, now: () => performance.now() });
			const feeding = new Map(plan.feeding.map(({ load, supply, output }) => [load, { supply, output }]));
			return { plan, faults: faultsOfFeeding(task, feeding).length };
		});
		const seconds = runs.map(({ plan }) => plan.tookMs / 1000).sort((a, b) => a - b);
		const open = runs.flatMap(({ plan }) =>
			plan.goals.filter(({ proof }) => !proof).map(({ goal, value, bound }) => `${goal} ${bound}–${value}`)
		);
		row(
			`Feeding 80 loads from 40 outputs, ${plugs} plugs each, proved`,
			`${runs.filter(({ plan }) => plan.proved).length} of ${runs.length}`,
			`${seconds[0].toFixed(1)}–${seconds.at(-1)!.toFixed(1)} s of ${SECONDS} s at most; ${runs.reduce((sum, { faults }) => sum + faults, 0)} faults${open.length > 0 ? `; open: ${open.join(', ')}` : ''}`
		);
	}
}
