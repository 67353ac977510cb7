import loadHighs, { type Highs } from 'highs';
import { beforeAll } from 'vitest';
import type { Rig } from '../rig';
import { makePlan, POLICIES, type Plan, type PlanOptions, type Policy } from './index';

export const POLICY_NAMES = Object.keys(POLICIES) as Policy[];

/** The solver of a test file, loaded before its tests, and plans made with it. */
export function planner() {
	const loaded = {} as { highs: Highs };
	beforeAll(async () => {
		loaded.highs = await loadHighs();
	});
	return {
		get highs(): Highs {
			return loaded.highs;
		},
		plan: (rig: Rig, policy: Policy = 'shared-ports', more: Partial<PlanOptions> = {}): Plan =>
			makePlan(loaded.highs, rig, { policy, seconds: 60, now: () => performance.now(), ...more })
	};
}
