import { QueryTypes } from 'sequelize';
import {
	findFamilies,
	lifeOf,
	recordChange,
	searchWords,
	type Family,
	type FoundSound,
	type FamilyOptions,
	type Life,
	type RecordChange,
	type Stay
} from '../core/drawer';
import { Problem } from '../core/problem';
import { areaOf, formatValue, readParameter } from '../core/profile';
import type { Studio } from './db/connection';
import { escapeLike } from './find';
import { currentProfile } from './profiles';
import { recordsOf } from './store/records';

type StayRow = Omit<Stay, 'imported'> & { current: number; world: string };

/** Every stay of sounds of one model and area, in all drawers, oldest first. */
export async function staysOf(studio: Studio, profileId: string, area: string): Promise<Stay[]> {
	const rows = await studio.sequelize.query<StayRow>(
		`SELECT r.id, r.deviceId, r.area, r.slot, r.label, r.name, r.record, r.fromVersion AS versionId, r.fromAt, r.toAt, r.current, r.world
		 FROM slot_runs r JOIN versions v ON v.id = r.fromVersion
		 WHERE v.profileId = :profileId AND r.area = :area ORDER BY r.fromAt, r.id`,
		{ replacements: { profileId, area }, type: QueryTypes.SELECT }
	);
	// What lasts in another world than the studio's own says nothing of where a sound is now.
	return rows.map(({ current, world, ...row }) => ({
		...row,
		toAt: current === 1 && world !== studio.world ? row.fromAt : row.toAt,
		imported: world === 'file'
	}));
}

export interface Sound {
	profileId: string;
	area: string;
	hash: string;
	name: string | null;
	model: string;
	parameters: { id: string; name: string; shown: string }[];
}

/** A sound by its content. @throws Problem `sound.not-found` */
export async function getSound(studio: Studio, hash: string): Promise<Sound> {
	const [row] = await studio.sequelize.query<{
		profileId: string;
		area: string;
		name: string | null;
		bytes: Buffer;
	}>('SELECT profileId, area, name, bytes FROM records WHERE hash = :hash', {
		replacements: { hash },
		type: QueryTypes.SELECT
	});
	if (!row) throw new Problem('sound.not-found', 'That sound is not kept.', 'Look for it by its name again.');
	const profile = currentProfile(studio, row.profileId);
	const record = profile.records[areaOf(profile, row.area).record];
	return {
		profileId: row.profileId,
		area: row.area,
		hash,
		name: row.name,
		model: `${profile.maker} ${profile.model}`,
		parameters: record.parameters.map((parameter) => ({
			id: parameter.id,
			name: parameter.name,
			shown: formatValue(parameter, readParameter(parameter, row.bytes))
		}))
	};
}

/** The life of a sound across slots, devices of its model and years. */
export async function lifeOfSound(studio: Studio, hash: string): Promise<{ sound: Sound; life: Life }> {
	const sound = await getSound(studio, hash);
	const profile = currentProfile(studio, sound.profileId);
	const stays = await staysOf(studio, sound.profileId, sound.area);
	const records = new Map(
		(await recordsOf(studio, sound.profileId, sound.area)).map(({ hash: of, bytes }) => [of, bytes])
	);
	return { sound, life: lifeOf(profile, stays, hash, (of) => records.get(of)) };
}

export interface FamilyMember {
	hash: string;
	name: string | null;
	/** Where it is, or was last. */
	places: { deviceId: string; device: string; label: string; current: boolean }[];
	/** What differs from the family's first member. */
	change: RecordChange | null;
}

export interface FamilyView extends Omit<Family, 'members' | 'differing'> {
	size: number;
	differing: string[];
	members: FamilyMember[];
}

/** How many members of a family are described; the rest is counted. */
const SHOWN = 24;

/** Sounds of a model that are the same or nearly so, in all drawers: largest families first. */
export async function familiesOf(
	studio: Studio,
	profileId: string,
	area: string,
	options: FamilyOptions,
	limit = 60
): Promise<{ families: FamilyView[]; sounds: number; all: number }> {
	const profile = currentProfile(studio, profileId);
	const records = await recordsOf(studio, profileId, area);
	const found = findFamilies(
		profile,
		area,
		records.map(({ hash, bytes }) => ({ key: hash, bytes })),
		options
	);
	const shown = found.slice(0, limit);
	const byHash = new Map(records.map((record) => [record.hash, record]));
	const hashes = shown.flatMap(({ members }) => members.slice(0, SHOWN));
	const places = new Map<string, FamilyMember['places']>();
	for (let i = 0; i < hashes.length; i += 500) {
		const rows = await studio.sequelize.query<{
			record: string;
			deviceId: string;
			device: string;
			label: string;
			current: number;
		}>(
			`SELECT r.record, r.deviceId, d.name AS device, r.label, MAX(r.current AND r.world = :world) AS current FROM slot_runs r JOIN devices d ON d.id = r.deviceId
			 WHERE r.record IN (:list) GROUP BY r.record, r.deviceId, r.area, r.slot ORDER BY current DESC`,
			{ replacements: { list: hashes.slice(i, i + 500), world: studio.world }, type: QueryTypes.SELECT }
		);
		for (const { record, current, ...row } of rows)
			places.set(record, [...(places.get(record) ?? []), { ...row, current: current === 1 }]);
	}
	const names = new Map(
		profile.records[areaOf(profile, area).record].parameters.map(({ id, name }) => [id, name])
	);
	return {
		sounds: records.length,
		all: found.length,
		families: shown.map(({ members, kind, spread, differing }) => {
			const first = byHash.get(members[0])!;
			return {
				kind,
				spread,
				size: members.length,
				differing: differing.map((id) => names.get(id) ?? id),
				members: members.slice(0, SHOWN).map((hash) => ({
					hash,
					name: byHash.get(hash)!.name,
					places: places.get(hash) ?? [],
					change:
						hash === members[0] ? null : recordChange(profile, area, first.bytes, byHash.get(hash)!.bytes)
				}))
			};
		})
	};
}

/** Sounds of one model by name, each content once, for the bank builder: what is in a device now first. */
export async function soundsFor(
	studio: Studio,
	profileId: string,
	area: string,
	query: string,
	limit = 120
): Promise<FoundSound[]> {
	const words = searchWords(query);
	const rows = await studio.sequelize.query<Omit<FoundSound, 'current'> & { current: number }>(
		`SELECT k.hash, COALESCE(k.name, '') AS name, r.deviceId, d.name AS device, r.label, MAX(r.current AND r.world = :world) AS current, MAX(r.fromAt) AS fromAt
		 FROM records k JOIN slot_runs r ON r.record = k.hash AND r.area = k.area JOIN devices d ON d.id = r.deviceId
		 WHERE k.profileId = :profileId AND k.area = :area ${words.map((_, i) => `AND k.folded LIKE :w${i} ESCAPE '\\'`).join(' ')}
		 GROUP BY k.hash ORDER BY current DESC, fromAt DESC, k.folded LIMIT :limit`,
		{
			replacements: {
				profileId,
				area,
				limit,
				world: studio.world,
				...Object.fromEntries(words.map((word, i) => [`w${i}`, `%${escapeLike(word)}%`]))
			},
			type: QueryTypes.SELECT
		}
	);
	return rows.map((row) => ({ ...row, current: row.current === 1 }));
}
