import type { Transaction } from 'sequelize';
import type { RigChange } from '../../core/rig';
import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';

/** How many steps can be taken back. */
const KEPT = 200;

/** Changes of the wiring that were made at one go. */
export interface WiringStep {
	id: number;
	at: string;
	says: string;
	changes: RigChange[];
	undo: RigChange[];
	undone: boolean;
}

interface Row {
	id: number;
	at: string;
	says: string;
	changes: string;
	undo: string;
	undone: number;
}

const told = (row: Row): WiringStep => ({
	...row,
	changes: parsed(row.changes) as RigChange[],
	undo: parsed(row.undo) as RigChange[],
	undone: row.undone === 1
});

/** Adds a step; what was undone before cannot be redone from then on. @returns its id */
export async function addStep(
	studio: Studio,
	step: Pick<WiringStep, 'at' | 'says' | 'changes' | 'undo'>,
	transaction: Transaction
): Promise<number> {
	await run(studio, 'DELETE FROM wiring_steps WHERE undone = 1', [], transaction);
	const added = await one<{ id: number }>(
		studio,
		'INSERT INTO wiring_steps (at, says, changes, undo) VALUES (?, ?, ?, ?) RETURNING id',
		[step.at, step.says, JSON.stringify(step.changes), JSON.stringify(step.undo)],
		transaction
	);
	await run(studio, 'DELETE FROM wiring_steps WHERE id <= ?', [added!.id - KEPT], transaction);
	return added!.id;
}

export async function stepRow(
	studio: Studio,
	id: number,
	transaction?: Transaction
): Promise<WiringStep | null> {
	const row = await one<Row>(studio, 'SELECT * FROM wiring_steps WHERE id = ?', [id], transaction);
	return row ? told(row) : null;
}

export async function markStep(
	studio: Studio,
	id: number,
	undone: boolean,
	transaction: Transaction
): Promise<void> {
	await run(studio, 'UPDATE wiring_steps SET undone = ? WHERE id = ?', [Number(undone), id], transaction);
}

export async function dropStep(studio: Studio, id: number, transaction: Transaction): Promise<void> {
	await run(studio, 'DELETE FROM wiring_steps WHERE id = ?', [id], transaction);
}

/** A step by what it is called. */
export type StepName = Pick<WiringStep, 'id' | 'says'>;

/** The step that would be undone next, and the one that would be redone next. */
export async function nextSteps(
	studio: Studio,
	transaction?: Transaction
): Promise<{ undo: StepName | null; redo: StepName | null }> {
	const [undo, redo] = await Promise.all([
		all<StepName>(
			studio,
			'SELECT id, says FROM wiring_steps WHERE undone = 0 ORDER BY id DESC LIMIT 1',
			[],
			transaction
		),
		all<StepName>(
			studio,
			'SELECT id, says FROM wiring_steps WHERE undone = 1 ORDER BY id LIMIT 1',
			[],
			transaction
		)
	]);
	return { undo: undo[0] ?? null, redo: redo[0] ?? null };
}
