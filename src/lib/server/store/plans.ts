import type { Transaction } from 'sequelize';
import type { KeptPlan, Plan, PlanName } from '../../core/plan';
import type { Rig } from '../../core/rig';
import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';

/** How many plans are kept. */
const KEPT = 12;

type Row = Omit<KeptPlan, 'rig' | 'plan' | 'supposed'> & { rig: string; plan: string; supposed: string };

/** Keeps a plan; the oldest of more than twelve goes. @returns its id */
export async function addPlan(
	studio: Studio,
	kept: Omit<KeptPlan, 'id'>,
	transaction: Transaction
): Promise<number> {
	const added = await one<{ id: number }>(
		studio,
		'INSERT INTO plans (at, title, rig, plan, tookMs, supposed) VALUES (?, ?, ?, ?, ?, ?) RETURNING id',
		[
			kept.at,
			kept.title,
			JSON.stringify(kept.rig),
			JSON.stringify(kept.plan),
			kept.tookMs,
			JSON.stringify(kept.supposed)
		],
		transaction
	);
	await run(
		studio,
		'DELETE FROM plans WHERE id NOT IN (SELECT id FROM plans ORDER BY id DESC LIMIT ?)',
		[KEPT],
		transaction
	);
	return added!.id;
}

const told = (row: Row): KeptPlan => ({
	...row,
	rig: parsed(row.rig) as Rig,
	plan: parsed(row.plan) as Plan,
	supposed: parsed(row.supposed) as string[]
});

export async function planRow(studio: Studio, id: number): Promise<KeptPlan | null> {
	const row = await one<Row>(studio, 'SELECT * FROM plans WHERE id = ?', [id]);
	return row ? told(row) : null;
}

/** The plans that are kept, whole, oldest first. */
export const keptPlans = async (studio: Studio, transaction?: Transaction): Promise<KeptPlan[]> =>
	(await all<Row>(studio, 'SELECT * FROM plans ORDER BY id', [], transaction)).map(told);

/** The plans that are kept, oldest first. */
export const planNames = (studio: Studio): Promise<PlanName[]> =>
	all<PlanName>(studio, 'SELECT id, at, title FROM plans ORDER BY id');

export async function removePlan(studio: Studio, id: number): Promise<boolean> {
	return studio.write(
		async (transaction) => (await run(studio, 'DELETE FROM plans WHERE id = ?', [id], transaction)) > 0
	);
}
