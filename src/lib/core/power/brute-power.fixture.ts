import {
	countPower,
	faultsOfFeeding,
	POWER_GOALS,
	wantsFeeding,
	type Feeding,
	type PowerGoals
} from './feeding';
import type { Power } from './power';

/** The best goals of all feedings that there are, found by trying every one. */
export function bruteForcePower(power: Power): PowerGoals {
	const places = power.supplies.flatMap(({ id, outputs }) =>
		outputs.map((output) => ({ supply: id, output: output.id }))
	);
	const loads = power.loads.filter(wantsFeeding);
	let best: PowerGoals | null = null;
	const feeding = new Map<string, { supply: string; output: string }>();
	const go = (at: number): void => {
		if (at === loads.length) {
			if (faultsOfFeeding(power, feeding as Feeding).length > 0) return;
			const goals = countPower(power, feeding);
			const differs = POWER_GOALS.find((goal) => best !== null && goals[goal] !== best[goal]);
			if (best === null || (differs && goals[differs] < best[differs])) best = goals;
			return;
		}
		go(at + 1);
		for (const place of places) {
			feeding.set(loads[at].id, place);
			go(at + 1);
			feeding.delete(loads[at].id);
		}
	};
	go(0);
	return best!;
}
