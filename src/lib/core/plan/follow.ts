import { applyChanges, changesBetween, sameGear, type Rig, type RigChange } from '../rig';
import type { PlanStep } from './plan';

/** How far a plan has been followed. */
export interface Followed {
	/** Whether the wiring is noted as this step would leave it, a step each. */
	done: boolean[];
	/** Whether nothing but steps of the plan was changed since it was made, so that the rest still is what was planned. */
	stands: boolean;
}

/** Whether a rig is as a change, made on `before`, would leave it. */
function holds(before: Rig, rig: Rig, change: RigChange): boolean {
	if (change.do === 'pull') {
		// The same two sockets may be joined again, with an adapter.
		const was = before.cables.find(({ from, to }) => from === change.from && to === change.to);
		return !rig.cables.some(
			({ from, to, adapter }) => from === change.from && to === change.to && adapter === was?.adapter
		);
	}
	if (change.do === 'plug')
		return rig.cables.some(
			({ from, to, adapter }) => from === change.from && to === change.to && adapter === change.adapter
		);
	try {
		return changesBetween(rig, applyChanges(rig, [change])).length === 0;
	} catch {
		// What it is about is not there any more.
		return false;
	}
}

/**
 * How far a plan has been followed, as the wiring shows it: a step is done where the wiring is as it would leave it, by
 * whatever way it came to be so, and open again when that is undone.
 * @param made the rig that the plan was made for
 */
export function followed(steps: readonly PlanStep[], made: Rig, rig: Rig): Followed {
	const done = steps.map(({ change }) => holds(made, rig, change));
	return {
		done,
		stands: sameGear(made, rig) && stands(steps, done, made, rig)
	};
}

function stands(steps: readonly PlanStep[], done: readonly boolean[], made: Rig, rig: Rig): boolean {
	try {
		const expected = applyChanges(
			made,
			steps.flatMap(({ change }, i) => (done[i] ? [change] : []))
		);
		return changesBetween(expected, rig).length === 0;
	} catch {
		// It is no plan for the rig that it says it was made for.
		return false;
	}
}
