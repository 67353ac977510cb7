import { createHash } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Studio } from '../db/connection';
import { all, run } from './sql';
import { messagesOfVersion, versionRow, type StoredMessage, type VersionRow } from './versions';

/** Versions that are sealed between two breaths of the server. */
const PART = 100;
const BYTES = 16;
const LINES = 1000;

type Sealed = Pick<
	VersionRow,
	| 'id'
	| 'deviceId'
	| 'profileId'
	| 'profileRevision'
	| 'kind'
	| 'takenAt'
	| 'since'
	| 'world'
	| 'proof'
	| 'missing'
>;

/**
 * What a version is made of, message for message, where it belongs and how far it was proved, as one hash in hexadecimal.
 * Labels are not in it, nor what is worked out of the rest.
 */
export function sealOf(version: Sealed, messages: readonly StoredMessage[]): string {
	const { id, deviceId, profileId, profileRevision, kind, takenAt, since, world, proof, missing } = version;
	const facts = [id, deviceId, profileId, profileRevision, kind, takenAt, since, world, proof, missing];
	const hash = createHash('sha256').update(JSON.stringify(facts));
	// As one text for many: a version may have a hundred thousand.
	for (let from = 0; from < messages.length; from += LINES) {
		const part = messages.slice(from, from + LINES);
		hash.update(
			part.map(({ position, hash: content, readAt }) => `\n${position} ${content} ${readAt ?? ''}`).join('')
		);
	}
	return hash.digest('hex').slice(0, 2 * BYTES);
}

/** Seals a version as it is stored now: whoever wrote it, or changed what is sealed, says that it is so. */
export async function sealVersion(studio: Studio, id: string, transaction: Transaction): Promise<void> {
	const version = await versionRow(studio, id, transaction);
	if (!version) return;
	const seal = sealOf(version, await messagesOfVersion(studio, id, transaction));
	await run(studio, 'UPDATE versions SET seal = unhex(?) WHERE id = ?', [seal, id], transaction);
}

/** Whether a version is what was sealed; one that was never sealed is. */
export async function isAsSealed(
	studio: Studio,
	version: VersionRow,
	messages: readonly StoredMessage[]
): Promise<boolean> {
	const [row] = await all<{ seal: string | null }>(
		studio,
		'SELECT CASE WHEN seal IS NOT NULL THEN lower(hex(seal)) END AS seal FROM versions WHERE id = ?',
		[version.id]
	);
	return row !== undefined && (row.seal === null || row.seal === sealOf(version, messages));
}

/** Seals what was stored before seals were. */
export async function fillSeals(studio: Studio): Promise<void> {
	for (;;) {
		const rows = await all<{ id: string }>(
			studio,
			'SELECT id FROM versions WHERE seal IS NULL ORDER BY seq LIMIT ?',
			[PART]
		);
		if (rows.length === 0) return;
		await studio.write(async (transaction) => {
			for (const { id } of rows) await sealVersion(studio, id, transaction);
		});
	}
}
