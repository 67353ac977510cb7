import type { Transaction } from 'sequelize';
import type { LiveWorld } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { all, one, parsed, run } from './sql';

/** Something of Care that is carried out over time: a procedure, or the studio being switched on or off. */
export interface CareRun {
	id: string;
	kind: 'procedure' | 'on' | 'off';
	title: string;
	/** The device that it is about. */
	deviceId: string | null;
	world: LiveWorld;
	begunAt: string;
	endedAt: string | null;
	/** How it ended. */
	over: 'done' | 'abandoned' | null;
	/** Goes up with every change. */
	revision: number;
	document: unknown;
}

const read = (row: CareRun & { document: string }): CareRun => ({ ...row, document: parsed(row.document) });

export async function careRunRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<CareRun | null> {
	const row = await one<CareRun & { document: string }>(
		studio,
		'SELECT * FROM care_runs WHERE id = ?',
		[id],
		transaction
	);
	return row ? read(row) : null;
}

/** Runs of these kinds, those that are not over first, then the newest first. */
export async function careRunRows(
	studio: Studio,
	kinds: readonly CareRun['kind'][],
	limit: number
): Promise<CareRun[]> {
	const rows = await all<CareRun & { document: string }>(
		studio,
		`SELECT * FROM care_runs WHERE kind IN (SELECT value FROM json_each(?))
		 ORDER BY endedAt IS NOT NULL, begunAt DESC, id DESC LIMIT ?`,
		[JSON.stringify(kinds), limit]
	);
	return rows.map(read);
}

/** Runs that are not over. */
export async function openCareRuns(studio: Studio, kind: CareRun['kind']): Promise<CareRun[]> {
	const rows = await all<CareRun & { document: string }>(
		studio,
		'SELECT * FROM care_runs WHERE endedAt IS NULL AND kind = ? ORDER BY begunAt DESC, id DESC',
		[kind]
	);
	return rows.map(read);
}

export async function insertCareRun(studio: Studio, row: CareRun, transaction: Transaction): Promise<void> {
	const { id, kind, title, deviceId, world, begunAt, endedAt, over, revision, document } = row;
	await run(
		studio,
		`INSERT INTO care_runs (id, kind, title, deviceId, world, begunAt, endedAt, over, revision, document)
		 VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		[id, kind, title, deviceId, world, begunAt, endedAt, over, revision, JSON.stringify(document)],
		transaction
	);
}

/** Writes how far a run is, as its next revision. */
export async function updateCareRun(
	studio: Studio,
	{ id, document, endedAt, over }: Pick<CareRun, 'id' | 'document' | 'endedAt' | 'over'>,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'UPDATE care_runs SET document = ?, endedAt = ?, over = ?, revision = revision + 1 WHERE id = ?',
		[JSON.stringify(document), endedAt, over, id],
		transaction
	);
}
