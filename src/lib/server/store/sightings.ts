import {
	searchWords,
	type FoundSound,
	type Sighting,
	type SoundPlace,
	type Stay,
	type StaySource
} from '../../core/drawer';
import type { Studio } from '../db/connection';
import { deviceNames } from './devices';
import { fromHashes, hashText } from './hashes';
import { fromKind, getRecords, kindOf } from './records';
import { all, toTime, toTimeOrNull } from './sql';
import { numbersOf, told } from './words';

/** A word for LIKE with `ESCAPE '\'`, in which nothing stands for anything else. */
const escapeLike = (word: string) => word.replace(/[\\%_]/g, '\\$&');

/** Names that hold all of some words, as a list of their numbers; the words are the parameter `?1`. */
const NAMED = `SELECT n.id FROM names n WHERE NOT EXISTS (
	SELECT 1 FROM json_each(?1) w WHERE COALESCE(n.folded, n.name) NOT LIKE w.value ESCAPE '\\')`;

const patterns = (query: string): string[] => searchWords(query).map((word) => `%${escapeLike(word)}%`);

/** Where and when slots held sounds whose names hold all the words: what is in a device now first, then the newest. */
export async function sightingsByName(studio: Studio, query: string, limit: number): Promise<Sighting[]> {
	const words = patterns(query);
	if (words.length === 0) return [];
	return sightings(
		studio,
		`records k WHERE k.kind IN (SELECT DISTINCT kind FROM records) AND k.name IN (${NAMED})`,
		words,
		limit
	);
}

/** As `sightingsByName`, for sounds with one of these very names. */
export const sightingsOfNames = (
	studio: Studio,
	names: readonly string[],
	limit: number
): Promise<Sighting[]> =>
	sightings(
		studio,
		`json_each(?1) j JOIN names m ON m.name = j.value JOIN records k ON k.name = m.id
		 WHERE k.kind IN (SELECT DISTINCT kind FROM records)`,
		names,
		limit
	);

/** As `sightingsByName`, for contents by their hashes. */
export const sightingsOfSounds = (
	studio: Studio,
	hashes: readonly string[],
	limit: number
): Promise<Sighting[]> => sightings(studio, `${fromHashes('records', 'k')} WHERE 1`, hashes, limit);

/** Every name that a sound has, a part at a time. */
export async function* allNames(studio: Studio): AsyncGenerator<string[]> {
	for (let after = 0; ;) {
		const rows = await all<{ id: number; name: string }>(
			studio,
			'SELECT id, name FROM names WHERE id > ? ORDER BY id LIMIT 2000',
			[after]
		);
		if (rows.length === 0) return;
		after = rows.at(-1)!.id;
		yield rows.map(({ name }) => name);
	}
}

/** @param which SQL that names the records as `k`, from the list that is the parameter `?1` */
async function sightings(
	studio: Studio,
	which: string,
	of: readonly string[],
	limit: number
): Promise<Sighting[]> {
	const number = await numbersOf(studio, [studio.world]);
	const rows = await all<{
		name: string;
		deviceId: number;
		world: number;
		area: number;
		label: number;
		slot: number;
		versionId: string;
		fromAt: number;
		toAt: number | null;
		current: number;
		hash: Buffer;
		kind: number;
	}>(
		studio,
		`SELECT COALESCE(n.name, '') AS name, k.kind, r.device AS deviceId, r.world, r.area, r.label, r.slot, v.id AS versionId, r.fromAt, r.toAt,
			r.current AND r.world = ?2 AS current, k.hash
		 FROM (
			SELECT r.id, r.current, COALESCE(r.toAt, r.fromAt) AS at FROM (SELECT k.id FROM ${which}) k
			JOIN slot_runs r ON r.record = k.id
			ORDER BY r.current DESC, at DESC, r.id DESC LIMIT ?3
		 ) f JOIN slot_runs r ON r.id = f.id JOIN records k ON k.id = r.record LEFT JOIN names n ON n.id = k.name
			JOIN versions v ON v.seq = r.version
		 ORDER BY f.current DESC, f.at DESC, n.name`,
		[JSON.stringify(of), number(studio.world), limit]
	);
	const devices = await deviceNames(studio);
	return (await told(studio, rows, ['deviceId', 'world', 'area', 'label', 'kind'])).map(
		({ hash, fromAt, toAt, current, kind, ...row }) => ({
			...row,
			profileId: fromKind(kind).profileId,
			deviceName: devices.get(row.deviceId)?.name ?? '',
			place: devices.get(row.deviceId)?.place ?? '',
			world: row.world as Sighting['world'],
			fromAt: toTime(fromAt),
			toAt: toTimeOrNull(toAt),
			current: current === 1,
			record: hashText(hash)
		})
	);
}

/** Sounds of one model by name, each content once: what is in a device now first, then the newest. */
export async function soundsByName(
	studio: Studio,
	profileId: string,
	area: string,
	query: string,
	limit: number
): Promise<FoundSound[]> {
	const kind = kindOf(profileId, area);
	const number = await numbersOf(studio, [studio.world, kind]);
	const words = patterns(query);
	const rows = await all<{
		hash: Buffer;
		name: string;
		deviceId: number;
		label: number;
		current: number;
		fromAt: number;
	}>(
		studio,
		`SELECT k.hash, COALESCE(n.name, '') AS name, r.device AS deviceId, r.label,
			MAX(r.current AND r.world = ?2) AS current, MAX(r.fromAt) AS fromAt
		 FROM records k JOIN slot_runs r ON r.record = k.id LEFT JOIN names n ON n.id = k.name
		 WHERE k.kind = ?3 ${words.length === 0 ? 'AND ?1 IS NOT NULL' : `AND k.name IN (${NAMED})`}
		 GROUP BY k.id ORDER BY current DESC, fromAt DESC, name LIMIT ?4`,
		[JSON.stringify(words), number(studio.world), number(kind), limit]
	);
	const devices = await deviceNames(studio);
	return (await told(studio, rows, ['deviceId', 'label'])).map(({ hash, fromAt, current, ...row }) => ({
		...row,
		hash: hashText(hash),
		device: devices.get(row.deviceId)?.name ?? '',
		fromAt: toTime(fromAt),
		current: current === 1
	}));
}

/** Where sounds are, or were last, by hash: what is there now first. */
export async function placesOfSounds(
	studio: Studio,
	hashes: readonly string[]
): Promise<Map<string, SoundPlace[]>> {
	const number = await numbersOf(studio, [studio.world]);
	const rows = await all<{ hash: Buffer; deviceId: number; label: number; current: number }>(
		studio,
		`SELECT k.hash, r.device AS deviceId, r.label, MAX(r.current AND r.world = ?2) AS current
		 FROM ${fromHashes('records', 'k')}
		 JOIN slot_runs r ON r.record = k.id
		 GROUP BY k.hash, r.device, r.area, r.slot ORDER BY current DESC`,
		[JSON.stringify(hashes), number(studio.world)]
	);
	const devices = await deviceNames(studio);
	const places = new Map<string, SoundPlace[]>();
	for (const { hash, current, ...row } of await told(studio, rows, ['deviceId', 'label'])) {
		const key = hashText(hash);
		const place = { ...row, device: devices.get(row.deviceId)?.name ?? '', current: current === 1 };
		places.set(key, [...(places.get(key) ?? []), place]);
	}
	return places;
}

interface StayRow {
	id: number;
	deviceId: number;
	area: number;
	slot: number;
	label: number;
	name: string | null;
	hash: Buffer;
	versionId: string;
	fromAt: number;
	toAt: number | null;
	current: number;
	world: number;
}

const STAY = `SELECT r.id, r.device AS deviceId, r.area, r.slot, r.label, n.name, k.hash, v.id AS versionId, r.fromAt, r.toAt,
	r.current, r.world`;
// The plus keeps SQLite from beginning with all sounds of the kind.
const OF_STAY = `JOIN records k ON k.id = r.record AND +k.kind = ?2 LEFT JOIN names n ON n.id = k.name
	JOIN versions v ON v.seq = r.version`;

/** The stays of sounds of one area of a model, in all drawers, looked up as they are asked for. */
export async function staysOf(studio: Studio, profileId: string, area: string): Promise<StaySource> {
	const kind = kindOf(profileId, area);
	const number = await numbersOf(studio, [kind]);
	const look = async (sql: string, of: readonly (string | number)[]): Promise<Stay[]> => {
		if (of.length === 0) return [];
		const rows = await all<StayRow>(studio, sql, [JSON.stringify(of), number(kind)]);
		return (await told(studio, rows, ['deviceId', 'area', 'label', 'world'])).map(
			({ hash, fromAt, toAt, current, world, ...row }) => ({
				...row,
				record: hashText(hash),
				fromAt: toTime(fromAt),
				// What lasts in another world than the studio's own says nothing of where a sound is now.
				toAt: toTimeOrNull(current === 1 && world !== studio.world ? fromAt : toAt),
				imported: world === 'file'
			})
		);
	};
	const ids = (stays: readonly Stay[]) => stays.map(({ id }) => id);
	return {
		ofRecords: (records) =>
			look(
				`${STAY} FROM ${fromHashes('records', 'k')} AND k.kind = ?2
				 JOIN slot_runs r ON r.record = k.id LEFT JOIN names n ON n.id = k.name JOIN versions v ON v.seq = r.version`,
				records
			),
		histories: (stays) =>
			look(
				`${STAY} FROM (SELECT DISTINCT s.device, s.area, s.slot FROM json_each(?1) j CROSS JOIN slot_runs s ON s.id = j.value) s
				 CROSS JOIN slot_runs r ON r.device = s.device AND r.area = s.area AND r.slot = s.slot ${OF_STAY}`,
				ids(stays)
			),
		besides: (stays) =>
			look(
				`${STAY} FROM (SELECT DISTINCT s.version FROM json_each(?1) j CROSS JOIN slot_runs s ON s.id = j.value) s
				 CROSS JOIN slot_runs r ON r.version = s.version ${OF_STAY}`,
				ids(stays)
			),
		before: (stays) =>
			look(
				`${STAY} FROM json_each(?1) j CROSS JOIN slot_runs s ON s.id = j.value
				 CROSS JOIN slot_runs r ON r.id IN (
					SELECT p.id FROM slot_runs p WHERE p.device = s.device AND p.area = s.area AND p.slot = s.slot
					AND p.fromAt <= s.fromAt AND p.id <> s.id ORDER BY p.fromAt DESC LIMIT 2) ${OF_STAY}`,
				ids(stays)
			),
		bytes: (records) => getRecords(studio, records)
	};
}
