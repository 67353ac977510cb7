import type { KeptFile } from '../core/kept-file';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { hashOf } from './hash';
import { getDevice } from './gear';
import { getMap } from './maps';
import { newId } from './new-id';
import {
	insertKeptFile,
	keptFileIds,
	keptFileRow,
	keptFileRows,
	markFileRemoved,
	type StoredFile
} from './store/kept-files';

const LONGEST_NAME = 200;

async function kept(studio: Studio, id: string): Promise<StoredFile> {
	const file = await keptFileRow(studio, id);
	if (!file)
		throw new Problem('kept-file.not-found', 'There is no such file.', 'See which files are kept now.');
	return file;
}

/** A file's own name: without folders, and with a space for what nobody can see. */
const bareName = (name: string): string => (name.split(/[\\/]/).at(-1) ?? '').replace(/\p{Cc}/gu, ' ').trim();

/** What files are kept with: a controller map, or a device. */
export type FileOwner = { map: string } | { device: string };

/** How an owner is stored; it is looked up first. @throws Problem `map.not-found`, `device.not-found` */
async function ownerKey(studio: Studio, owner: FileOwner): Promise<string> {
	if ('map' in owner) return (await getMap(studio, owner.map)).id;
	return `device:${(await getDevice(studio, owner.device)).id}`;
}

/** The files of a map or a device, newest first. @throws Problem `map.not-found`, `device.not-found` */
export async function listKeptFiles(studio: Studio, owner: FileOwner): Promise<KeptFile[]> {
	return keptFileRows(studio, await ownerKey(studio, owner));
}

/**
 * Keeps a file with a map or a device: another one of that name stays as an older version.
 * @returns the file, and as what it is kept: the first of its name, a newer one, or the newest itself, byte for byte
 * @throws Problem `map.not-found`, `device.not-found`, `kept-file.name`, `kept-file.note`
 */
export async function keepFile(
	studio: Studio,
	owner: FileOwner,
	given: { name: string; bytes: Uint8Array; note: string }
): Promise<{ file: KeptFile; as: 'first' | 'newer' | 'same' }> {
	const key = await ownerKey(studio, owner);
	const { bytes, note } = given;
	const name = bareName(given.name);
	if (note.length > LONGEST_NAME)
		throw new Problem(
			'kept-file.note',
			`A note has at most ${LONGEST_NAME} characters.`,
			'Write it shorter; nothing was kept.'
		);
	if (name === '' || name.length > LONGEST_NAME)
		throw new Problem(
			'kept-file.name',
			`A file’s name has from 1 to ${LONGEST_NAME} characters.`,
			'Rename it and attach it again.'
		);
	const hash = hashOf(bytes);
	return studio.write(async (transaction) => {
		const newest = (await keptFileRows(studio, key, transaction)).find((file) => file.name === name);
		if (newest?.hash === hash) return { file: newest, as: 'same' };
		const at = studio.now().toISOString();
		const file = { id: newId(), name, at, note: note.trim(), size: bytes.length, hash };
		await insertKeptFile(studio, { ...file, owner: key, bytes }, transaction);
		return { file, as: newest ? 'newer' : 'first' };
	});
}

const damaged = ({ name, at }: KeptFile) =>
	new Problem(
		'kept-file.damaged',
		`The stored file “${name}” of ${at.slice(0, 10)} is damaged: its content is not what was kept.`,
		'Attach it again from where it came.'
	);

/** A file, byte for byte. @throws Problem `kept-file.not-found`, `kept-file.damaged` */
export async function readKeptFile(studio: Studio, id: string): Promise<StoredFile> {
	const file = await kept(studio, id);
	if (hashOf(file.bytes) !== file.hash) throw damaged(file);
	return file;
}

/** What is wrong with the files that are kept, in words; read one after another. */
export async function checkKeptFiles(studio: Studio): Promise<{ files: number; damage: string[] }> {
	const ids = await keptFileIds(studio);
	const damage: string[] = [];
	for (const id of ids) {
		const file = await keptFileRow(studio, id);
		if (file && hashOf(file.bytes) !== file.hash) damage.push(damaged(file).message);
	}
	return { files: ids.length, damage };
}

/** Takes a file away, or brings it back. @throws Problem `kept-file.not-found` */
export async function removeKeptFile(studio: Studio, id: string, back = false): Promise<void> {
	await kept(studio, id);
	await studio.write((transaction) =>
		markFileRemoved(studio, id, back ? null : studio.now().toISOString(), transaction)
	);
}
