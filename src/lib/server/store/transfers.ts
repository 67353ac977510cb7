import type { Transaction } from 'sequelize';
import type { Transfer } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { toColumns, type Shape } from './columns';
import { all, one, parsed, run, toMs, toTime, type Value } from './sql';
import { numbersOf, told } from './words';
import { hashText } from './hashes';

export type TransferRow = Transfer;

/** A transfer with how many messages it has received. */
export type CountedTransfer = TransferRow & { received: number };

const WORDS = ['device', 'direction', 'scope', 'status', 'kind', 'world'] as const;

const COLUMNS = `t.id, t.device, t.direction, t.scope, t.status, t.kind, t.world, t.title, t.startedAt, t.tookMs, t.predictedMs,
	t.distrusted, t.resumed, t.snapshotId, t.bankId, t.reason, t.outcome, t.wanted,
	(SELECT v.id FROM versions v WHERE v.seq = t.version) AS versionId,
	(SELECT v.id FROM versions v WHERE v.seq = t.safety) AS safetyVersionId,
	(SELECT v.id FROM versions v WHERE v.seq = t.source) AS sourceVersionId,
	COALESCE(t.received, (SELECT COUNT(*) FROM transfer_messages m WHERE m.transfer = t.seq)) AS received`;

interface Stored {
	id: string;
	device: number;
	direction: number;
	scope: number;
	status: number;
	kind: number;
	world: number;
	title: string;
	startedAt: number;
	tookMs: number | null;
	predictedMs: number | null;
	distrusted: number;
	resumed: number;
	snapshotId: string | null;
	bankId: string | null;
	reason: string | null;
	outcome: string | null;
	wanted: string | null;
	versionId: string | null;
	safetyVersionId: string | null;
	sourceVersionId: string | null;
	received: number;
}

async function fromRows(
	studio: Studio,
	rows: readonly Stored[],
	transaction?: Transaction
): Promise<CountedTransfer[]> {
	return (await told(studio, rows, WORDS, transaction)).map(
		({ device, scope, startedAt, tookMs, distrusted, resumed, reason, outcome, wanted, ...row }) =>
			({
				...row,
				deviceId: device,
				scope: parsed(scope),
				startedAt: toTime(startedAt),
				endedAt: tookMs === null ? null : toTime(startedAt + tookMs),
				distrusted: distrusted === 1,
				resumed: resumed === 1,
				reason: parsed(reason),
				outcome: parsed(outcome),
				wanted: parsed(wanted)
			}) as CountedTransfer
	);
}

const SHAPE: Shape = {
	names: { deviceId: 'device', versionId: 'version', safetyVersionId: 'safety', sourceVersionId: 'source' },
	words: WORDS,
	times: ['startedAt', 'endedAt'],
	jsons: ['reason', 'outcome', 'wanted']
};
const VERSIONS = ['version', 'safety', 'source'];

/** What is told of a transfer or a part of it: each column with how it is written, and its value. */
async function columnsOf(
	studio: Studio,
	values: Partial<TransferRow>,
	transaction: Transaction
): Promise<[column: string, how: string, value: Value][]> {
	const columns = await toColumns(studio, values, SHAPE, transaction);
	const begun = values.startedAt === undefined ? null : toMs(values.startedAt);
	return columns.map(([column, value]): [string, string, Value] => {
		if (VERSIONS.includes(column)) return [column, '(SELECT seq FROM versions WHERE id = ?)', value];
		if (column !== 'endedAt') return [column, '?', value];
		// The end is kept as how long it took.
		if (value === null) return ['tookMs', '?', null];
		return begun === null ? ['tookMs', '? - startedAt', value] : ['tookMs', '?', (value as number) - begun];
	});
}

export async function insertTransfer(
	studio: Studio,
	row: TransferRow,
	transaction: Transaction
): Promise<TransferRow> {
	const columns = await columnsOf(studio, row, transaction);
	await run(
		studio,
		`INSERT INTO transfers (${columns.map(([column]) => column).join(', ')}) VALUES (${columns.map(([, how]) => how).join(', ')})`,
		columns.map(([, , value]) => value),
		transaction
	);
	return row;
}

export async function transferRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<TransferRow | null> {
	const row = await one<Stored>(
		studio,
		`SELECT ${COLUMNS} FROM transfers t WHERE t.id = ?`,
		[id],
		transaction
	);
	if (!row) return null;
	const [{ received: _, ...transfer }] = await fromRows(studio, [row], transaction);
	return transfer;
}

export async function updateTransfer(
	studio: Studio,
	id: string,
	values: Partial<TransferRow>,
	transaction: Transaction
): Promise<void> {
	const columns = await columnsOf(studio, values, transaction);
	await run(
		studio,
		`UPDATE transfers SET ${columns.map(([column, how]) => `${column} = ${how}`).join(', ')} WHERE id = ?`,
		[...columns.map(([, , value]) => value), id],
		transaction
	);
}

/** Nothing runs any more: what says so was left alone. With an id, that transfer alone. */
export const abandonRunning = (studio: Studio, id?: string): Promise<void> =>
	studio.write(async (transaction) => {
		const number = await numbersOf(studio, ['running', 'unfinished'], transaction);
		await run(
			studio,
			`UPDATE transfers SET status = ?1 WHERE status = ?2 AND (?3 IS NULL OR id = ?3)`,
			[number('unfinished'), number('running'), id ?? null],
			transaction
		);
	});

/** Transfers, newest first. */
export async function recentTransfers(
	studio: Studio,
	options: { deviceId?: string; limit: number }
): Promise<CountedTransfer[]> {
	const { deviceId, limit } = options;
	const device = deviceId === undefined ? null : (await numbersOf(studio, [deviceId]))(deviceId);
	return fromRows(
		studio,
		await all<Stored>(
			studio,
			`SELECT ${COLUMNS} FROM (
				SELECT seq FROM transfers ${device === null ? '' : 'WHERE device = ?2'} ORDER BY startedAt DESC, seq DESC LIMIT ?1
			 ) x CROSS JOIN transfers t ON t.seq = x.seq ORDER BY t.startedAt DESC, t.seq DESC`,
			device === null ? [limit] : [limit, device]
		)
	);
}

/** Transfers of a device that are said to run. */
export async function runningOf(
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<CountedTransfer[]> {
	const number = await numbersOf(studio, [deviceId, 'running'], transaction);
	return fromRows(
		studio,
		await all<Stored>(
			studio,
			`SELECT ${COLUMNS} FROM transfers t WHERE t.device = ? AND t.status = ?`,
			[number(deviceId), number('running')],
			transaction
		),
		transaction
	);
}

/** How many transfers are read at one go. */
const PART = 200;

/** Every transfer that is over, oldest first, one after another. */
export async function* endedTransfers(studio: Studio): AsyncGenerator<CountedTransfer> {
	const running = ['running', 'unfinished'];
	const number = await numbersOf(studio, running);
	for (let after = -1; ;) {
		const rows = await all<Stored & { seq: number }>(
			studio,
			`SELECT t.seq, ${COLUMNS} FROM transfers t WHERE t.seq > ? AND t.tookMs IS NOT NULL
			 AND t.status NOT IN (SELECT value FROM json_each(?)) ORDER BY t.seq LIMIT ${PART}`,
			[after, JSON.stringify(running.map(number))]
		);
		if (rows.length === 0) return;
		after = rows.at(-1)!.seq;
		yield* await fromRows(
			studio,
			rows.map(({ seq: _, ...row }) => row)
		);
	}
}

/** All transfers by their ids: which of the versions that they are about they name. */
export async function knownTransfers(
	studio: Studio,
	transaction: Transaction
): Promise<Map<string, Pick<Transfer, 'versionId' | 'safetyVersionId' | 'sourceVersionId'>>> {
	const rows = await all<Pick<Stored, 'id' | 'versionId' | 'safetyVersionId' | 'sourceVersionId'>>(
		studio,
		`SELECT t.id, (SELECT v.id FROM versions v WHERE v.seq = t.version) AS versionId,
			(SELECT v.id FROM versions v WHERE v.seq = t.safety) AS safetyVersionId,
			(SELECT v.id FROM versions v WHERE v.seq = t.source) AS sourceVersionId FROM transfers t`,
		[],
		transaction
	);
	return new Map(rows.map(({ id, ...versions }) => [id, versions]));
}

/** Every capture that neither ended well nor was kept or let go, however old, newest first. */
export async function openCaptures(studio: Studio): Promise<CountedTransfer[]> {
	const open = ['running', 'unfinished', 'incomplete'];
	const number = await numbersOf(studio, ['capture', ...open]);
	return fromRows(
		studio,
		await all<Stored>(
			studio,
			`SELECT ${COLUMNS} FROM transfers t WHERE t.direction = ? AND t.version IS NULL
			 AND t.status IN (SELECT value FROM json_each(?)) ORDER BY t.startedAt DESC`,
			[number('capture'), JSON.stringify(open.map(number))]
		)
	);
}

export interface ReceivedMessage {
	position: number;
	/** Its number among the stored contents, and its name. */
	id: number;
	hash: string;
	receivedAt: string;
}

/** What a transfer has received, in order: its own messages until it ends, then those of the version that it gave. */
export async function receivedRows(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<ReceivedMessage[]> {
	const rows = await all<{ position: number; id: number; hash: Buffer; receivedAt: number }>(
		studio,
		`SELECT m.position, o.id, o.hash, m.receivedAt FROM transfers t JOIN transfer_messages m ON m.transfer = t.seq
			JOIN objects o ON o.id = m.object WHERE t.id = ?1
		 UNION ALL
		 SELECT m.position, o.id, o.hash, COALESCE(m.readAt, v.takenAt) FROM transfers t JOIN versions v ON v.seq = t.version
			JOIN version_messages m ON m.version = v.seq JOIN objects o ON o.id = m.object
			WHERE t.id = ?1 AND t.received IS NOT NULL
		 ORDER BY 1`,
		[id],
		transaction
	);
	return rows.map(({ position, id: object, hash, receivedAt }) => ({
		position,
		id: object,
		hash: hashText(hash),
		receivedAt: toTime(receivedAt)
	}));
}

export async function insertReceived(
	studio: Studio,
	id: string,
	messages: readonly { position: number; object: number; receivedAt: string }[],
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		`INSERT INTO transfer_messages (transfer, position, object, receivedAt)
		 SELECT (SELECT seq FROM transfers WHERE id = ?), value ->> 0, value ->> 1, value ->> 2 FROM json_each(?)`,
		[
			id,
			JSON.stringify(messages.map(({ position, object, receivedAt }) => [position, object, toMs(receivedAt)]))
		],
		transaction
	);
}

/** From here on the version that a transfer gave tells what it received: all of it, each at its time. */
export async function handReceivedOver(
	studio: Studio,
	id: string,
	received: number,
	transaction: Transaction
): Promise<void> {
	await run(
		studio,
		'DELETE FROM transfer_messages WHERE transfer = (SELECT seq FROM transfers WHERE id = ?)',
		[id],
		transaction
	);
	await run(studio, 'UPDATE transfers SET received = ? WHERE id = ?', [received, id], transaction);
}

/** Of so many captures of a device, the newest, it is learnt how long the next will take. */
const LEARNT_FROM = 50;

/** How long whole captures took against what was expected, in one world, oldest first. */
export async function pastCaptures(
	studio: Studio,
	world: string
): Promise<{ deviceId: string; predictedMs: number; tookMs: number }[]> {
	const whole = JSON.stringify({ kind: 'all' });
	const number = await numbersOf(studio, ['capture', 'complete', world, whole]);
	const rows = await all<{ device: number; predictedMs: number; tookMs: number }>(
		studio,
		`SELECT device, predictedMs, tookMs FROM (
			SELECT device, predictedMs, startedAt, tookMs,
				ROW_NUMBER() OVER (PARTITION BY device ORDER BY startedAt DESC) AS nth
			FROM transfers WHERE direction = ? AND status = ? AND world = ? AND scope = ?
			AND resumed = 0 AND predictedMs > 0 AND tookMs IS NOT NULL)
		 WHERE nth <= ${LEARNT_FROM} ORDER BY startedAt`,
		[number('capture'), number('complete'), number(world), number(whole)]
	);
	return (await told(studio, rows, ['device'])).map(({ device, ...past }) => ({ deviceId: device, ...past }));
}

/** When each device was written to last in one world, ISO 8601; while it is being written to, now. */
export async function lastWrites(studio: Studio, world: string): Promise<Map<string, string>> {
	const number = await numbersOf(studio, ['restore', 'running', world]);
	const rows = await all<{ device: number; at: number; running: number }>(
		studio,
		`SELECT device, MAX(startedAt + COALESCE(tookMs, 0)) AS at, MAX(status = ?) AS running
		 FROM transfers WHERE direction = ? AND world = ? GROUP BY device`,
		[number('running'), number('restore'), number(world)]
	);
	const now = studio.now().getTime();
	return new Map(
		(await told(studio, rows, ['device'])).map(({ device, at, running }) => [
			device,
			toTime(running ? Math.max(at, now) : at)
		])
	);
}
