import type { Transaction } from 'sequelize';
import type { SoundMark } from '../../core/drawer';
import type { Studio } from '../db/connection';
import { all, run } from './sql';

interface Row {
	hash: string;
	favourite: number;
	category: string;
}

const told = ({ favourite, category }: Row): SoundMark => ({ favourite: favourite === 1, category });

/** What people said of sounds, by hash. */
export async function marksOf(studio: Studio, hashes: readonly string[]): Promise<Map<string, SoundMark>> {
	const rows = await all<Row>(
		studio,
		'SELECT m.* FROM json_each(?) j JOIN sound_marks m ON m.hash = j.value',
		[JSON.stringify([...new Set(hashes)])]
	);
	return new Map(rows.map((row) => [row.hash, told(row)]));
}

/** The favourites, the newest first. */
export async function favouriteHashes(studio: Studio): Promise<string[]> {
	const rows = await all<{ hash: string }>(
		studio,
		'SELECT hash FROM sound_marks WHERE favourite = 1 ORDER BY at DESC'
	);
	return rows.map(({ hash }) => hash);
}

/** Says something of a sound; a mark that says nothing is none. */
export async function putMark(
	studio: Studio,
	hash: string,
	{ favourite, category }: SoundMark,
	at: string,
	transaction: Transaction
): Promise<void> {
	if (!favourite && category === '')
		await run(studio, 'DELETE FROM sound_marks WHERE hash = ?', [hash], transaction);
	else
		await run(
			studio,
			`INSERT INTO sound_marks (hash, favourite, category, at) VALUES (?, ?, ?, ?)
			 ON CONFLICT (hash) DO UPDATE SET favourite = excluded.favourite, category = excluded.category, at = excluded.at`,
			[hash, Number(favourite), category, at],
			transaction
		);
}
