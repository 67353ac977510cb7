import type { MapFile } from '../core/control';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { hashOf } from './hash';
import { getMap } from './maps';
import { newId } from './new-id';
import {
	insertMapFile,
	mapFileIds,
	mapFileRow,
	mapFileRows,
	markFileRemoved,
	type StoredMapFile
} from './store/map-files';

const LONGEST_NAME = 200;

async function kept(studio: Studio, id: string): Promise<StoredMapFile> {
	const file = await mapFileRow(studio, id);
	if (!file) throw new Problem('map-file.not-found', 'There is no such file.', 'See what the map keeps now.');
	return file;
}

/** A file's own name: without folders, and with a space for what nobody can see. */
const bareName = (name: string): string => (name.split(/[\\/]/).at(-1) ?? '').replace(/\p{Cc}/gu, ' ').trim();

/** The files of a map, newest first. @throws Problem `map.not-found` */
export async function listMapFiles(studio: Studio, mapId: string): Promise<MapFile[]> {
	await getMap(studio, mapId);
	return mapFileRows(studio, mapId);
}

/**
 * Keeps a file with a map: another one of that name stays as an older version.
 * @returns the file, and as what it is kept: the first of its name, a newer one, or the newest itself, byte for byte
 * @throws Problem `map.not-found`, `map-file.name`, `map-file.note`
 */
export async function keepMapFile(
	studio: Studio,
	mapId: string,
	given: { name: string; bytes: Uint8Array; note: string }
): Promise<{ file: MapFile; as: 'first' | 'newer' | 'same' }> {
	await getMap(studio, mapId);
	const { bytes, note } = given;
	const name = bareName(given.name);
	if (note.length > LONGEST_NAME)
		throw new Problem(
			'map-file.note',
			`A note has at most ${LONGEST_NAME} characters.`,
			'Write it shorter; nothing was kept.'
		);
	if (name === '' || name.length > LONGEST_NAME)
		throw new Problem(
			'map-file.name',
			`A file’s name has from 1 to ${LONGEST_NAME} characters.`,
			'Rename it and attach it again.'
		);
	const hash = hashOf(bytes);
	return studio.write(async (transaction) => {
		const newest = (await mapFileRows(studio, mapId, transaction)).find((file) => file.name === name);
		if (newest?.hash === hash) return { file: newest, as: 'same' };
		const at = studio.now().toISOString();
		const file = { id: newId(), name, at, note: note.trim(), size: bytes.length, hash };
		await insertMapFile(studio, { ...file, mapId, bytes }, transaction);
		return { file, as: newest ? 'newer' : 'first' };
	});
}

const damaged = ({ name, at }: MapFile) =>
	new Problem(
		'map-file.damaged',
		`The stored file “${name}” of ${at.slice(0, 10)} is damaged: its content is not what was kept.`,
		'Attach it again from where it came.'
	);

/** A file, byte for byte. @throws Problem `map-file.not-found`, `map-file.damaged` */
export async function readMapFile(studio: Studio, id: string): Promise<StoredMapFile> {
	const file = await kept(studio, id);
	if (hashOf(file.bytes) !== file.hash) throw damaged(file);
	return file;
}

/** What is wrong with the files that are kept, in words; read one after another. */
export async function checkMapFiles(studio: Studio): Promise<{ files: number; damage: string[] }> {
	const ids = await mapFileIds(studio);
	const damage: string[] = [];
	for (const id of ids) {
		const file = await mapFileRow(studio, id);
		if (file && hashOf(file.bytes) !== file.hash) damage.push(damaged(file).message);
	}
	return { files: ids.length, damage };
}

/** Takes a file away, or brings it back. @throws Problem `map-file.not-found` */
export async function removeMapFile(studio: Studio, id: string, back = false): Promise<void> {
	await kept(studio, id);
	await studio.write((transaction) =>
		markFileRemoved(studio, id, back ? null : studio.now().toISOString(), transaction)
	);
}
