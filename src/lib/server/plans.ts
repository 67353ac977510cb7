import { z } from 'zod';
import { planSchema, type KeptPlan } from '../core/plan';
import { Problem } from '../core/problem';
import { rigSchema } from '../core/rig';
import type { Studio } from './db/connection';
import { addPlan, planNames, planRow, removePlan } from './store/plans';
import { rigFacts } from './store/wiring';

/** A plan that is to be kept, so that it is seen on the phone in the other hand. */
export const keepPlanSchema = z.object({
	title: z.string().trim().min(1).max(300),
	rig: rigSchema,
	plan: planSchema,
	tookMs: z.number().min(0),
	supposed: z.array(z.string().max(200)).max(50)
});
export type KeepPlan = z.infer<typeof keepPlanSchema>;

const gone = () =>
	new Problem('plan.not-found', 'That plan is not kept any more.', 'Choose another, or make one.');

/** Keeps a plan. @returns its id */
export const keepPlan = (studio: Studio, plan: KeepPlan): Promise<{ id: number }> =>
	studio.write(async (transaction) => ({
		id: await addPlan(studio, { ...plan, at: studio.now().toISOString() }, transaction)
	}));

/** @throws Problem `plan.not-found` */
export async function getPlan(studio: Studio, id: string): Promise<KeptPlan> {
	const found = await planRow(studio, Number(id));
	if (!found) throw gone();
	return found;
}

/** @throws Problem `plan.not-found` */
export async function dropPlan(studio: Studio, id: string): Promise<void> {
	if (!(await removePlan(studio, Number(id)))) throw gone();
}

export const listPlans = planNames;

/** What tells a page whether what it shows of the wiring is still so. */
export async function wiringState(studio: Studio): Promise<{ revision: number; plan: number | null }> {
	const [facts, plans] = await Promise.all([rigFacts(studio), planNames(studio)]);
	return { revision: Number(facts.get('revision') ?? 0), plan: plans.at(-1)?.id ?? null };
}
