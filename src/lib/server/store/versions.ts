import { QueryTypes, type Transaction } from 'sequelize';
import { spanSchema, type Span, type Version } from '../../core/drawer';
import type { Studio } from '../db/connection';
import type { VersionRow } from '../db/models';
import { insertRows } from './insert-rows';

const COLUMNS = `id, deviceId, profileId, profileRevision, kind, firmware, takenAt, since, world, proof, coverage, question,
	verified, missing, bytes, slots, changed, title, note, tags, pinned`;

type Stored = Omit<Version, 'messages' | 'verified' | 'pinned' | 'tags' | 'coverage'> & {
	verified: number;
	pinned: number;
	tags: string;
	coverage: string | null;
};

/** Coverage is told by few different texts: each is read once. */
const spans = new Map<string | null, Span[]>([[null, []]]);

export function readCoverage(text: string | null): Span[] {
	let read = spans.get(text);
	if (!read) {
		if (spans.size > 5000) spans.clear();
		spans.set(text, (read = spanSchema.array().parse(JSON.parse(text!))));
	}
	return read;
}

const fromRow = (row: Stored): Omit<Version, 'messages'> => ({
	...row,
	verified: row.verified === 1,
	pinned: row.pinned === 1,
	tags: row.tags === '[]' ? [] : (JSON.parse(row.tags) as string[]),
	coverage: readCoverage(row.coverage)
});

/** Stores a version's row and which messages it is made of, each with when it was read where that is noted. */
export async function insertVersion(
	studio: Studio,
	row: VersionRow,
	messages: readonly { hash: string; readAt: string | null }[],
	transaction: Transaction
): Promise<void> {
	await studio.models.versions.create(row, { transaction });
	await insertRows(
		studio,
		'version_messages (versionId, position, hash, readAt)',
		messages.map(({ hash, readAt }, position) => [row.id, position, hash, readAt]),
		transaction
	);
}

/** A device's versions without their messages, newest first. Plain rows: a drawer may hold thousands. */
export async function versionsOfDevice(
	studio: Studio,
	deviceId: string
): Promise<Omit<Version, 'messages'>[]> {
	const rows = await studio.sequelize.query<Stored>(
		`SELECT ${COLUMNS} FROM versions WHERE deviceId = :deviceId AND goneAt IS NULL ORDER BY takenAt DESC, seq DESC`,
		{ replacements: { deviceId }, type: QueryTypes.SELECT }
	);
	return rows.map(fromRow);
}

/** A version without its messages, or null. */
export async function versionRow(
	studio: Studio,
	id: string,
	transaction?: Transaction
): Promise<Omit<Version, 'messages'> | null> {
	const [row] = await studio.sequelize.query<Stored>(`SELECT ${COLUMNS} FROM versions WHERE id = :id`, {
		replacements: { id },
		type: QueryTypes.SELECT,
		transaction
	});
	return row ? fromRow(row) : null;
}

export interface StoredMessage {
	position: number;
	hash: string;
	/** Null where it was read at the time of the version itself. */
	readAt: string | null;
}

/** The messages that a version is made of, in order, as they are stored. */
export const messagesOfVersion = (
	studio: Studio,
	versionId: string,
	transaction?: Transaction
): Promise<StoredMessage[]> =>
	studio.sequelize.query<StoredMessage>(
		'SELECT position, hash, readAt FROM version_messages WHERE versionId = :versionId ORDER BY position',
		{ replacements: { versionId }, type: QueryTypes.SELECT, transaction }
	);

/** Writes what is known of a version besides its content: labels, coverage, its question, the profile that reads it. */
export async function updateVersion(
	studio: Studio,
	id: string,
	values: Partial<VersionRow>,
	transaction?: Transaction
): Promise<number> {
	const [changed] = await studio.models.versions.update(values, { where: { id }, transaction });
	return changed;
}

/** Versions that a profile reads and whose coverage was never worked out. */
export async function versionsWithoutCoverage(studio: Studio): Promise<string[]> {
	const rows = await studio.sequelize.query<{ id: string }>(
		'SELECT id FROM versions WHERE coverage IS NULL ORDER BY seq',
		{ type: QueryTypes.SELECT }
	);
	return rows.map(({ id }) => id);
}

/** Every device's versions of a world, newest first, with what each covers. */
export async function newestVersions(
	studio: Studio,
	world: string
): Promise<{ id: string; deviceId: string; coverage: Span[]; takenAt: string }[]> {
	const rows = await studio.sequelize.query<{
		id: string;
		deviceId: string;
		coverage: string | null;
		takenAt: string;
	}>(
		'SELECT id, deviceId, coverage, takenAt FROM versions WHERE world = :world AND goneAt IS NULL ORDER BY takenAt DESC, seq DESC',
		{ replacements: { world }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({ ...row, coverage: readCoverage(row.coverage) }));
}

/** How many versions each device has from each world. */
export async function countVersions(studio: Studio): Promise<Map<string, Map<string, number>>> {
	const rows = await studio.sequelize.query<{ deviceId: string; world: string; n: number }>(
		'SELECT deviceId, world, COUNT(*) AS n FROM versions WHERE goneAt IS NULL GROUP BY deviceId, world',
		{ type: QueryTypes.SELECT }
	);
	const counts = new Map<string, Map<string, number>>();
	for (const { deviceId, world, n } of rows)
		counts.set(deviceId, (counts.get(deviceId) ?? new Map<string, number>()).set(world, n));
	return counts;
}

/** Versions that ask to be looked at before they count, newest first. */
export const openQuestions = (
	studio: Studio,
	world: string
): Promise<{ id: string; deviceId: string; takenAt: string; question: string }[]> =>
	studio.sequelize.query(
		'SELECT id, deviceId, takenAt, question FROM versions WHERE question IS NOT NULL AND goneAt IS NULL AND world = :world ORDER BY takenAt DESC',
		{ replacements: { world }, type: QueryTypes.SELECT }
	);
