import { tornFile } from '../db/damage';

/** The tables whose rows are named by the SHA-256 of their content. */
type Named = 'objects' | 'records';

/**
 * SQL that asks whether a row has a hash, given in hexadecimal. The index is by the first bytes, so they are asked for
 * as the index has them.
 */
export const hasHash = (row: string, hex: string): string =>
	`substr(${row}.hash, 1, 3) = substr(unhex(${hex}), 1, 3) AND ${row}.hash = unhex(${hex})`;

/** SQL that begins with the rows named by a JSON list of hashes, the parameter \`?1\`. */
export const fromHashes = (table: Named, row: string): string =>
	`json_each(?1) j CROSS JOIN ${table} ${row} INDEXED BY ${table}_by_hash ON ${hasHash(row, 'j.value')}`;

const withBases = (table: Named, seed: string): string => `WITH RECURSIVE chain(id) AS (${seed}
	UNION SELECT b.base FROM chain c JOIN ${table} b ON b.id = c.id WHERE b.base IS NOT NULL)`;

/** SQL that has, as \`chain\`, the numbers of rows and of all that they build on: from a JSON list of hashes, or of numbers. */
export const chainsOf = (table: Named) => ({
	byHash: withBases(table, `SELECT n.id FROM ${fromHashes(table, 'n')}`),
	byId: withBases(table, 'SELECT value FROM json_each(?1)')
});

/** The SHA-256 that names a row, in hexadecimal. @throws Problem `studio.torn` where the row has none */
export function hashText(hash: Uint8Array | null | undefined): string {
	if (!(hash instanceof Uint8Array)) throw tornFile('a row has no name');
	return Buffer.from(hash.buffer, hash.byteOffset, hash.byteLength).toString('hex');
}
