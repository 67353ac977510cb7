import type { Transaction } from 'sequelize';
import type { Edit } from '../../core/edit';
import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';

/** How many steps of one owner can be taken back. */
const KEPT = 200;

/** Edits that were made at one go, and what takes them back. */
export interface Step {
	id: number;
	says: string;
	edits: Edit[];
	undo: Edit[];
}
export type StepName = Pick<Step, 'id' | 'says'>;
/** What would be undone and redone next. */
export interface NextSteps {
	undo: StepName | null;
	redo: StepName | null;
}

/** Adds a step; what was undone before cannot be redone from then on. `owner`: the id of what is edited. */
export async function addStep(
	studio: Studio,
	step: Omit<Step, 'id'> & { owner: string; at: string },
	transaction: Transaction
): Promise<void> {
	await run(studio, 'DELETE FROM steps WHERE owner = ? AND undone = 1', [step.owner], transaction);
	await run(
		studio,
		'INSERT INTO steps (owner, at, says, edits, undo) VALUES (?, ?, ?, ?, ?)',
		[step.owner, step.at, step.says, JSON.stringify(step.edits), JSON.stringify(step.undo)],
		transaction
	);
	await run(
		studio,
		`DELETE FROM steps WHERE owner = ? AND id <= (
			SELECT id FROM steps WHERE owner = ? ORDER BY id DESC LIMIT 1 OFFSET ?)`,
		[step.owner, step.owner, KEPT],
		transaction
	);
}

/** The step that would be undone next, or redone next. */
export async function nextStep(
	studio: Studio,
	owner: string,
	way: 'undo' | 'redo',
	transaction?: Transaction
): Promise<Step | null> {
	const row = await one<Record<'says' | 'edits' | 'undo', string> & { id: number }>(
		studio,
		way === 'undo'
			? 'SELECT * FROM steps WHERE owner = ? AND undone = 0 ORDER BY id DESC LIMIT 1'
			: 'SELECT * FROM steps WHERE owner = ? AND undone = 1 ORDER BY id LIMIT 1',
		[owner],
		transaction
	);
	return row
		? {
				id: row.id,
				says: row.says,
				edits: parsed(row.edits) as Edit[],
				undo: parsed(row.undo) as Edit[]
			}
		: null;
}

/** The steps that can be undone, the latest first. */
export const pastSteps = async (
	studio: Studio,
	owner: string
): Promise<(Omit<Step, 'edits'> & { at: string })[]> =>
	(
		await all<Record<'says' | 'undo' | 'at', string> & { id: number }>(
			studio,
			'SELECT id, at, says, undo FROM steps WHERE owner = ? AND undone = 0 ORDER BY id DESC',
			[owner]
		)
	).map(({ undo, ...row }) => ({ ...row, undo: parsed(undo) as Edit[] }));

/** The names of the steps that would be undone and redone next. */
export async function nextSteps(
	studio: Studio,
	owner: string,
	transaction?: Transaction
): Promise<NextSteps> {
	const name = (step: Step | null) => step && { id: step.id, says: step.says };
	return {
		undo: name(await nextStep(studio, owner, 'undo', transaction)),
		redo: name(await nextStep(studio, owner, 'redo', transaction))
	};
}

export async function markStep(
	studio: Studio,
	id: number,
	undone: boolean,
	transaction: Transaction
): Promise<void> {
	await run(studio, 'UPDATE steps SET undone = ? WHERE id = ?', [Number(undone), id], transaction);
}
