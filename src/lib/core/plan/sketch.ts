import type { Layout } from './layout';
import { roughPlan } from './sets/set-solve';
import type { Solver } from './solver';
import type { Candidate, PlanTask } from './task';

/** How much of the time goes into a plan to begin with. */
const SHARE = 0.35;

/** Channels that follow one another among those that parts may be set to, from the lowest on; today's come first. */
function windows({ loose, parts, lockChannel, present }: Candidate): number[][] {
	const found = loose
		.map((_, i) => loose.slice(i, i + parts))
		.filter((window) => window.length === parts && (lockChannel === null || window[0] === lockChannel));
	const today = present.channels;
	const stays =
		today.length === parts &&
		today.every((channel) => loose.includes(channel)) &&
		(lockChannel === null || today[0] === lockChannel);
	return stays && !found.some((window) => window.join() === today.join()) ? [today, ...found] : found;
}

/**
 * A plan to begin with, for a task that the programme over sets does not take: as if there were no thru boxes, one thru
 * socket at most on each device, and loose channels in one go. It keeps all rules, and proves nothing.
 */
export function sketchPlan(task: PlanTask, solver: Solver): Layout | null {
	if (task.policy !== 'shared-ports') return null;
	const plain: PlanTask = {
		...task,
		chain: Math.min(task.chain, 4),
		devices: task.devices
			.filter(({ box }) => !box)
			.map((device) => ({
				...device,
				thrus: device.thrus.slice(0, 1),
				blocks: device.loose.length > 0 ? windows(device) : device.blocks,
				loose: []
			}))
	};
	return roughPlan(plain, solver.part(SHARE));
}
