import { z } from 'zod';
import type { Transaction } from 'sequelize';
import { spanSchema, type Span, type Version, type World } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { isTorn, tornFile } from '../db/damage';
import { Turn } from '../in-steps';
import { fromHashes } from './hashes';
import { toColumns, type Column, type Shape } from './columns';
import { all, one, parsed, run, toMs, toTime, toTimeOrNull } from './sql';
import { numbersOf, told } from './words';

/** A version without what it is made of. */
export type VersionRow = Omit<Version, 'messages'>;

const COLUMNS = `v.id, v.device, v.profile, v.revision, v.kind, v.firmware, v.takenAt, v.since, v.world, v.proof, v.coverage,
	v.question, v.verified, v.missing, v.bytes, v.slots, v.changed, v.title, v.note, v.tags, v.pinned`;
const WORDS = ['device', 'profile', 'kind', 'firmware', 'world', 'proof', 'coverage'] as const;

interface Stored {
	id: string;
	device: number;
	profile: number | null;
	revision: number | null;
	kind: number;
	firmware: number | null;
	takenAt: number;
	since: number | null;
	world: number;
	proof: number;
	coverage: number | null;
	question: string | null;
	verified: number;
	missing: number;
	bytes: number;
	slots: number;
	changed: number;
	title: string;
	note: string;
	tags: string | null;
	pinned: number;
}

/** Versions that are read between two breaths of the server. */
const PART = 500;

/** What a text of JSON holds; null where it is damaged: what else is told of a version stands, and the check names it. */
function orNone(text: string | null | undefined): unknown {
	try {
		return parsed(text ?? null);
	} catch (error) {
		if (isTorn(error)) return null;
		throw error;
	}
}
const tagsOf = (text: string | null): string[] => z.string().array().safeParse(orNone(text)).data ?? [];

/** Coverage is told by few different texts: each is read once. */
const spans = new Map<string | null, Span[]>([[null, []]]);

export function readCoverage(text: string | null): Span[] {
	let read = spans.get(text);
	if (!read) {
		if (spans.size > 5000) spans.clear();
		spans.set(text, (read = spanSchema.array().safeParse(orNone(text)).data ?? []));
	}
	return read;
}

async function fromRows(
	studio: Studio,
	rows: readonly Stored[],
	transaction?: Transaction
): Promise<VersionRow[]> {
	return (await told(studio, rows, WORDS, transaction)).map(
		({ device, profile, revision, takenAt, since, coverage, verified, pinned, tags, ...row }) =>
			({
				...row,
				deviceId: device,
				profileId: profile,
				profileRevision: revision,
				takenAt: toTime(takenAt),
				since: toTimeOrNull(since),
				coverage: readCoverage(coverage),
				verified: verified === 1,
				pinned: pinned === 1,
				tags: tagsOf(tags)
			}) as VersionRow
	);
}

const SHAPE: Shape = {
	names: { deviceId: 'device', profileId: 'profile', profileRevision: 'revision' },
	words: WORDS,
	times: ['takenAt', 'since', 'goneAt'],
	jsons: ['tags']
};

/** What is told of a version or a part of it, as its columns hold it. */
const columnsOf = (
	studio: Studio,
	values: Partial<VersionRow & { goneAt: string | null }>,
	transaction: Transaction
): Promise<Column[]> =>
	toColumns(studio, values.tags?.length === 0 ? { ...values, tags: null } : values, SHAPE, transaction);

/** Stores a version's row and which messages it is made of, each with when it was read where that is noted. */
export async function insertVersion(
	studio: Studio,
	row: VersionRow,
	messages: readonly { object: number; readAt: string | null }[],
	transaction: Transaction
): Promise<void> {
	const columns = await columnsOf(studio, row, transaction);
	const stored = await run(
		studio,
		`INSERT INTO versions (${columns.map(([column]) => column).join(', ')})
		 SELECT ${columns.map(() => '?').join(', ')} WHERE EXISTS (SELECT 1 FROM devices WHERE id = ?)`,
		[...columns.map(([, value]) => value), row.deviceId],
		transaction
	);
	if (stored === 0) throw new Error(`There is no device ${row.deviceId}.`);
	await run(
		studio,
		`INSERT INTO version_messages (version, position, object, readAt)
		 SELECT (SELECT seq FROM versions WHERE id = ?), key, value ->> 0, value ->> 1 FROM json_each(?)`,
		[row.id, JSON.stringify(messages.map(({ object, readAt }) => [object, readAt && toMs(readAt)]))],
		transaction
	);
}

/** A device's versions without their messages, newest first: a drawer may hold thousands. */
export async function versionsOfDevice(studio: Studio, deviceId: string): Promise<VersionRow[]> {
	const device = (await numbersOf(studio, [deviceId]))(deviceId);
	const numbers = await all<{ seq: number }>(
		studio,
		'SELECT seq FROM versions WHERE device = ? AND goneAt IS NULL ORDER BY takenAt DESC, seq DESC',
		[device]
	);
	const rows: VersionRow[] = [];
	for (let i = 0; i < numbers.length; i += PART) {
		const part = await all<Stored>(
			studio,
			`SELECT ${COLUMNS} FROM json_each(?) j CROSS JOIN versions v ON v.seq = j.value ORDER BY j.key`,
			[JSON.stringify(numbers.slice(i, i + PART).map(({ seq }) => seq))]
		);
		rows.push(...(await fromRows(studio, part)));
	}
	return rows;
}

/** The ids of a device's versions. */
export async function versionIds(
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<Set<string>> {
	const number = await numbersOf(studio, [deviceId], transaction);
	const rows = await all<{ id: string }>(
		studio,
		'SELECT id FROM versions WHERE device = ?',
		[number(deviceId)],
		transaction
	);
	return new Set(rows.map(({ id }) => id));
}

/** A version without its messages, or null. */
export async function versionRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<VersionRow | null> {
	const row = await one<Stored>(
		studio,
		`SELECT ${COLUMNS} FROM versions v WHERE v.id = ?`,
		[id],
		transaction
	);
	// An index that leads to another row than it says.
	if (row && row.id !== id) throw tornFile(`version ${id} is listed as ${row.id}`);
	return row ? (await fromRows(studio, [row], transaction))[0] : null;
}

export interface StoredMessage {
	position: number;
	hash: string;
	/** Null where it was read at the time of the version itself. */
	readAt: string | null;
}

/** The messages that a version is made of, in order, as they are stored. */
export async function messagesOfVersion(
	studio: Studio,
	versionId: string,
	transaction?: Transaction
): Promise<StoredMessage[]> {
	// Row by row, a hundred thousand would keep everybody waiting.
	const parts = await all<{ rows: string }>(
		studio,
		`SELECT json_group_array(json_array(m.position, iif(typeof(o.hash) = 'blob', lower(hex(o.hash)), ''), m.readAt)) AS rows
		 FROM version_messages m JOIN objects o ON o.id = m.object
		 WHERE m.version = (SELECT seq FROM versions WHERE id = ?) GROUP BY m.position / 1000`,
		[versionId],
		transaction
	);
	const turn = new Turn();
	const read: StoredMessage[] = [];
	for (const { rows } of parts) {
		if (turn.over) await turn.next();
		for (const [position, hash, readAt] of JSON.parse(rows) as [number, string, number | null][]) {
			if (hash === '') throw tornFile('a row has no name');
			read.push({ position, hash, readAt: toTimeOrNull(readAt) });
		}
	}
	return read.sort((one, other) => one.position - other.position);
}

/** Writes what is known of a version besides its content: labels, coverage, its question, the profile that reads it. */
export async function updateVersion(
	studio: Studio,
	id: string,
	values: Partial<VersionRow & { goneAt: string | null }>,
	transaction: Transaction
): Promise<number> {
	const columns = await columnsOf(studio, values, transaction);
	return run(
		studio,
		`UPDATE versions SET ${columns.map(([column]) => `${column} = ?`).join(', ')} WHERE id = ?`,
		[...columns.map(([, value]) => value), id],
		transaction
	);
}

/** Versions that a profile reads and whose coverage was never worked out. */
export async function versionsWithoutCoverage(studio: Studio): Promise<string[]> {
	const rows = await all<{ id: string }>(
		studio,
		'SELECT id FROM versions WHERE coverage IS NULL ORDER BY seq'
	);
	return rows.map(({ id }) => id);
}

/** The newest version of each coverage that each device has from a world, newest first. */
export async function newestVersions(
	studio: Studio,
	world: string
): Promise<{ id: string; deviceId: string; coverage: Span[]; takenAt: string }[]> {
	const number = await numbersOf(studio, [world]);
	const rows = await all<{ id: string; device: number; coverage: number | null; takenAt: number }>(
		studio,
		`SELECT id, device, coverage, takenAt FROM (
			SELECT id, device, coverage, takenAt, seq,
				ROW_NUMBER() OVER (PARTITION BY device, coverage ORDER BY takenAt DESC, seq DESC) AS nth
			FROM versions WHERE world = ? AND goneAt IS NULL)
		 WHERE nth = 1 ORDER BY takenAt DESC, seq DESC`,
		[number(world)]
	);
	return (await told(studio, rows, ['device', 'coverage'])).map(({ id, device, coverage, takenAt }) => ({
		id,
		deviceId: device,
		coverage: readCoverage(coverage),
		takenAt: toTime(takenAt)
	}));
}

/** How many versions each device has from each world. */
export async function countVersions(studio: Studio): Promise<Map<string, Map<string, number>>> {
	const rows = await all<{ device: number; world: number; n: number }>(
		studio,
		`SELECT device, world, COUNT(*) - (SELECT COUNT(*) FROM versions g WHERE g.goneAt IS NOT NULL
			AND g.device = v.device AND g.world = v.world) AS n
		 FROM versions v GROUP BY device, world`
	);
	const counts = new Map<string, Map<string, number>>();
	for (const { device, world, n } of await told(studio, rows, ['device', 'world']))
		if (n > 0) counts.set(device, (counts.get(device) ?? new Map<string, number>()).set(world, n));
	return counts;
}

/** Versions that ask to be looked at before they count, newest first. */
export async function openQuestions(
	studio: Studio,
	world: string
): Promise<{ id: string; deviceId: string; takenAt: string; question: string }[]> {
	const number = await numbersOf(studio, [world]);
	const rows = await all<{ id: string; device: number; takenAt: number; question: string }>(
		studio,
		`SELECT id, device, takenAt, question FROM versions
		 WHERE question IS NOT NULL AND goneAt IS NULL AND world = ? ORDER BY takenAt DESC`,
		[number(world)]
	);
	return (await told(studio, rows, ['device'])).map(({ device, takenAt, ...row }) => ({
		...row,
		deviceId: device,
		takenAt: toTime(takenAt)
	}));
}

/** Makes versions, stays, transfers and snapshots that were stored before worlds were noted those of a world; their seals are due. */
export async function noteWorld(studio: Studio, world: World, transaction: Transaction): Promise<void> {
	const number = await numbersOf(studio, [world, 'unrecorded'], transaction);
	await run(studio, 'UPDATE versions SET seal = NULL WHERE world = ?', [number('unrecorded')], transaction);
	for (const table of ['versions', 'slot_runs', 'transfers'])
		await run(
			studio,
			`UPDATE ${table} SET world = ? WHERE world = ?`,
			[number(world), number('unrecorded')],
			transaction
		);
	await run(studio, `UPDATE snapshots SET world = ? WHERE world = 'unrecorded'`, [world], transaction);
}

interface Candidate {
	seq: number;
	id: string;
	device: number;
	takenAt: number;
}

/** Versions of so many messages of which this is the first, newest first. */
export const versionsBeginning = (studio: Studio, first: string, count: number): Promise<Candidate[]> =>
	all<Candidate>(
		studio,
		`SELECT v.seq, v.id, v.device, v.takenAt FROM ${fromHashes('objects', 'o')}
		 JOIN version_messages m ON m.object = o.id AND m.position = 0 JOIN versions v ON v.seq = m.version
		 WHERE v.goneAt IS NULL AND (SELECT COUNT(*) FROM version_messages n WHERE n.version = v.seq) = ?2
		 ORDER BY v.takenAt DESC`,
		[JSON.stringify([first]), count]
	);

/** Versions that are made of exactly these messages in this order, by their hashes; newest first. */
export async function versionsHolding(
	studio: Studio,
	hashes: readonly string[]
): Promise<{ id: string; deviceId: string; takenAt: string }[]> {
	const rows = hashes.length === 0 ? [] : await versionsBeginning(studio, hashes[0], hashes.length);
	const same: { id: string; device: number; takenAt: number }[] = [];
	for (const { seq, ...row } of rows) {
		const held = await all<{ hash: string }>(
			studio,
			`SELECT lower(hex(o.hash)) AS hash FROM version_messages m JOIN objects o ON o.id = m.object
			 WHERE m.version = ? ORDER BY m.position`,
			[seq]
		);
		if (held.every(({ hash }, i) => hash === hashes[i])) same.push(row);
	}
	return (await told(studio, same, ['device'])).map(({ id, device, takenAt }) => ({
		id,
		deviceId: device,
		takenAt: toTime(takenAt)
	}));
}

/** Versions that somebody wrote a title, a note or tags for, the newest first. */
export async function labelledVersions(
	studio: Studio
): Promise<{ id: string; deviceId: string; takenAt: string; title: string; note: string; tags: string[] }[]> {
	const rows = await all<Pick<Stored, 'id' | 'device' | 'takenAt' | 'title' | 'note' | 'tags'>>(
		studio,
		`SELECT id, device, takenAt, title, note, tags FROM versions
		 WHERE goneAt IS NULL AND (title <> '' OR note <> '' OR tags IS NOT NULL) ORDER BY takenAt DESC`
	);
	return (await told(studio, rows, ['device'])).map(({ device, takenAt, tags, ...row }) => ({
		...row,
		deviceId: device,
		takenAt: toTime(takenAt),
		tags: tagsOf(tags)
	}));
}

/** The ids of a device's versions in the order in which they were read, those that were let go too. */
export async function versionsInOrder(studio: Studio, deviceId: string): Promise<string[]> {
	const number = await numbersOf(studio, [deviceId]);
	const rows = await all<{ id: string }>(
		studio,
		'SELECT id FROM versions WHERE device = ? ORDER BY takenAt, seq',
		[number(deviceId)]
	);
	return rows.map(({ id }) => id);
}
