import type { KeptPlan } from '../../core/plan';
import { call } from '../../hardware/api';

const fetched = new Map<number, Promise<KeptPlan>>();

/** A plan that is kept; it never changes, so it is fetched once. @throws Problem `plan.not-found` */
export function keptPlan(id: number): Promise<KeptPlan> {
	const known = fetched.get(id);
	if (known) return known;
	const asked = call<KeptPlan>('GET', `/plans/${id}`).catch((error: unknown) => {
		fetched.delete(id);
		throw error;
	});
	fetched.set(id, asked);
	return asked;
}

/**
 * Plans that are chosen, one after the other perhaps: only the answer to the last choice counts. Call it in an effect.
 * @returns what ends the waiting
 */
export function showPlans(
	ids: readonly number[],
	show: (plans: KeptPlan[]) => void,
	failed: (error: unknown) => void
): () => void {
	let over = false;
	Promise.all(ids.map(keptPlan)).then(
		(plans) => over || show(plans),
		(error: unknown) => over || failed(error)
	);
	return () => (over = true);
}
