import { describe, expect, it } from 'vitest';
import { mixedStudio } from '../core/plan/mixed-studio.fixture';
import { planner } from '../core/plan/planner.fixture';
import { planSchema } from '../core/plan';
import { dropPlan, getPlan, keepPlan, keepPlanSchema, listPlans, wiringState } from './plans';
import { freshStudio } from './studio.fixture';

const here = freshStudio();
const { plan } = planner();

describe('plans that are kept', () => {
	it('come back as they were made, with the rig that they were made for', async () => {
		const rig = mixedStudio(6, 4, 5);
		const made = plan(rig, 'shared-ports');
		// What the planner makes is what may be kept.
		expect(planSchema.parse(made)).toEqual(made);
		const order = keepPlanSchema.parse({ title: 'Shared ports', rig, plan: made, tookMs: 12, supposed: [] });
		const { id } = await keepPlan(here.studio, order);
		expect(await getPlan(here.studio, String(id))).toMatchObject({ id, ...order });
		expect(await wiringState(here.studio)).toEqual({ revision: 0, plan: id });
		await dropPlan(here.studio, String(id));
		await expect(getPlan(here.studio, String(id))).rejects.toMatchObject({ code: 'plan.not-found' });
		await expect(dropPlan(here.studio, 'nonsense')).rejects.toMatchObject({ code: 'plan.not-found' });
	});

	it('are the last twelve', async () => {
		const rig = mixedStudio(3, 3, 5);
		const made = plan(rig, 'shared-ports');
		for (let i = 0; i < 14; i++)
			await keepPlan(here.studio, { title: `Plan ${i}`, rig, plan: made, tookMs: 1, supposed: [] });
		expect((await listPlans(here.studio)).map(({ title }) => title)).toEqual(
			Array.from({ length: 12 }, (_, i) => `Plan ${i + 2}`)
		);
	});

	it('are refused where they are no plans', () => {
		const rig = mixedStudio(3, 3, 5);
		const made = plan(rig, 'shared-ports');
		const fits = (change: object) =>
			keepPlanSchema.safeParse({ title: 'A', rig, plan: { ...made, ...change }, tookMs: 1, supposed: [] })
				.success;
		expect(fits({})).toBe(true);
		expect(fits({ steps: [{ says: 'Burn it.', change: { do: 'burn' } }] })).toBe(false);
		expect(fits({ policy: 'toString' })).toBe(false);
		expect(fits({ goals: {} })).toBe(false);
	});
});
