import { z } from 'zod';
import { planSchema, type KeptPlan } from '../../../core/plan';
import { rigSchema } from '../../../core/rig';
import { addPlan, keptPlans } from '../../store/plans';
import type { Holding } from '../holding';
import { when } from '../pieces';

const planRowSchema = z.strictObject({
	at: when,
	title: z.string().max(300),
	rig: rigSchema,
	plan: planSchema,
	tookMs: z.number().min(0),
	supposed: z.array(z.string().max(200)).max(50)
});

export const plans: Holding<Omit<KeptPlan, 'id'>> = {
	name: 'plans',
	title: 'Plans of the wiring',
	tables: ['plans'],
	schema: planRowSchema,
	rows: async ({ studio, left }) =>
		(await keptPlans(studio)).flatMap(({ id: _, ...plan }) => {
			const read = planRowSchema.safeParse(plan);
			if (read.success) return [read.data];
			left(`Plan “${plan.title}”`, read.error.issues[0].message);
			return [];
		}),
	/** The newest plan is the one that a phone shows: of the bundle's, only later ones come in. */
	async take({ studio, transaction }, rows) {
		const newest =
			(await keptPlans(studio, transaction))
				.map(({ at }) => at)
				.sort()
				.at(-1) ?? '';
		const later = rows.filter(({ at }) => at > newest).sort((a, b) => a.at.localeCompare(b.at));
		for (const plan of later) await addPlan(studio, plan, transaction);
		return later.length;
	}
};
