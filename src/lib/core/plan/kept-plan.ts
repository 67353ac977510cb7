import type { Rig } from '../rig';
import type { Plan } from './plan';

/** A plan as it was made: with the rig that it was made for. */
export interface MadePlan {
	title: string;
	rig: Rig;
	plan: Plan;
	tookMs: number;
	/** Gear that is only supposed to be there. */
	supposed: string[];
}

/** A plan that is kept. */
export interface KeptPlan extends MadePlan {
	id: number;
	/** When it was made, ISO 8601. */
	at: string;
}

export type PlanName = Pick<KeptPlan, 'id' | 'at' | 'title'>;
