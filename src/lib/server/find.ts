import { QueryTypes } from 'sequelize';
import { searchWords, type World } from '../core/drawer';
import type { Studio } from './db/connection';

/** One stretch of time in which a slot held a sound of that name. */
export interface Sighting {
	name: string;
	deviceId: string;
	deviceName: string;
	place: string;
	area: string;
	label: string;
	slot: number;
	/** The version in which it was first seen there. */
	versionId: string;
	fromAt: string;
	/** Null while nothing else was seen there. */
	toAt: string | null;
	world: World;
	/** It was there when the device was read last, in the studio's own world. */
	current: boolean;
	/** SHA-256 of the record: equal for equal sounds. */
	record: string;
}

/** A word for LIKE with `ESCAPE '\\'`, in which nothing stands for anything else. */
export const escapeLike = (word: string) => word.replace(/[\\%_]/g, '\\$&');

/** Sounds whose names hold all the words, in all drawers: what is in a device now first, then the newest. */
export async function findSounds(
	studio: Studio,
	query: string,
	limit = 200
): Promise<{ found: Sighting[]; more: boolean }> {
	const words = searchWords(query);
	if (words.length === 0) return { found: [], more: false };
	const rows = await studio.sequelize.query<Omit<Sighting, 'current'> & { current: number }>(
		`SELECT r.name, r.deviceId, d.name AS deviceName, d.place, r.area, r.label, r.slot, r.fromVersion AS versionId, r.fromAt, r.toAt, (r.current AND r.world = :world) AS current, r.world, r.record
		 FROM (
			SELECT id, current, COALESCE(toAt, fromAt) AS at, name FROM slot_runs INDEXED BY runs_search
			WHERE ${words.map((_, i) => `folded LIKE :w${i} ESCAPE '\\'`).join(' AND ')}
			ORDER BY current DESC, at DESC, name LIMIT :limit
		 ) f JOIN slot_runs r ON r.id = f.id JOIN devices d ON d.id = r.deviceId
		 ORDER BY f.current DESC, f.at DESC, f.name`,
		{
			replacements: {
				limit: limit + 1,
				world: studio.world,
				...Object.fromEntries(words.map((word, i) => [`w${i}`, `%${escapeLike(word)}%`]))
			},
			type: QueryTypes.SELECT
		}
	);
	return {
		found: rows.slice(0, limit).map((row) => ({ ...row, current: row.current === 1 })),
		more: rows.length > limit
	};
}
