import { z, type ZodError } from 'zod';
import {
	bundleManifestSchema,
	bundleVersionSchema,
	type BundleDevice,
	type BundleManifest,
	type BundleVersion
} from '../../core/drawer';
import { deviceSchema } from '../../core/gear';
import { Problem } from '../../core/problem';
import { parseProfile, type Profile } from '../../core/profile';
import { faultPath } from '../../core/reading';
import { sysexOf } from '../../core/sysex';
import { hashOf } from '../hash';
import { inSteps } from '../in-steps';
import { openZip, type OpenZip } from '../zip';
import type { Holding } from './holding';
import { HOLDINGS } from './registry';
import { whole } from './whole';

/** The most that a file of a bundle can hold: a dump of one device, a profile; a list. */
const FILE_LIMIT = 32 * 1024 * 1024;

const utf8 = new TextDecoder('utf-8', { fatal: true });

const wrong = (says: string, detail: Record<string, unknown> = {}) =>
	new Problem(
		'bundle.invalid',
		says,
		'Choose a bundle that Silent Drawer wrote, unchanged. Nothing was taken over.',
		detail
	);

const faulty = (where: string, { issues: [{ path, message }] }: ZodError) =>
	wrong(`manifest.json: ${faultPath(path) || where}: ${message}.`);

/** A bundle of which everything was checked; dumps are read again when they are stored. */
export interface OpenBundle {
	manifest: BundleManifest;
	profiles: Map<string, Profile>;
	/** The versions of a device of the manifest. */
	versionsOf(device: BundleDevice): Promise<BundleVersion[]>;
	messagesOf(version: BundleVersion): Promise<Uint8Array[]>;
	/** By their ids: versions whose files are damaged, with what is wrong. */
	hurt: ReadonlyMap<string, string>;
	/** What else it carries, as far as that is whole. */
	held: { holding: Holding; rows: unknown[] }[];
	/** What of that is not: what it is, and what is wrong with it. */
	lost: { what: string; says: string }[];
	read(file: string): Promise<Uint8Array>;
}

/** What a file of an archive holds. @throws Problem `bundle.invalid` */
async function fileOf(zip: OpenZip, name: string): Promise<Uint8Array> {
	if (!zip.has(name)) throw wrong(`“${name}” is missing from the archive.`);
	try {
		return await zip.read(name, FILE_LIMIT);
	} catch (error) {
		throw wrong(`“${name}” cannot be read: ${error instanceof Error ? error.message : String(error)}`);
	}
}

/** The JSON in a file of an archive. @throws Problem `bundle.invalid` */
async function jsonOf(zip: OpenZip, name: string): Promise<unknown> {
	const bytes = await fileOf(zip, name);
	try {
		return JSON.parse(utf8.decode(bytes));
	} catch (error) {
		throw wrong(`${name} is no JSON: ${error instanceof Error ? error.message : String(error)}`);
	}
}

function cutAt(bytes: Uint8Array, sizes: readonly number[]): Uint8Array[] {
	let at = 0;
	return sizes.map((size) => bytes.subarray(at, (at += size)));
}

/**
 * Checks all of a bundle before anything is stored. A version whose file is damaged, or a row that is not what it should be,
 * is left out.
 * @throws Problem `bundle.invalid`
 */
async function checkBundle(zip: OpenZip): Promise<OpenBundle> {
	if (!zip.has('manifest.json')) throw wrong('There is no manifest.json in the archive.');
	const parsed = bundleManifestSchema.safeParse(await jsonOf(zip, 'manifest.json'));
	if (!parsed.success) throw faulty('the whole file', parsed.error);
	const manifest = parsed.data;
	const profiles = new Map<string, Profile>();
	for (const { id, revision, file } of manifest.profiles)
		profiles.set(`${id} ${revision}`, parseProfile(await jsonOf(zip, file)));
	const messagesOf = async ({ file, messages: hashes, sizes }: BundleVersion) => {
		const bytes = await fileOf(zip, file);
		const messages = sizes ? cutAt(bytes, sizes) : await inSteps(sysexOf(bytes));
		if (messages.length !== hashes.length || messages.some((bytes, i) => hashOf(bytes) !== hashes[i]))
			throw wrong(`“${file}” does not hold what the manifest says of it: it was changed or damaged.`, {
				file
			});
		return messages;
	};
	for (const { facts } of manifest.devices) {
		const device = deviceSchema.safeParse(facts);
		if (!device.success) throw faulty('facts of a device', device.error);
	}
	const lost: OpenBundle['lost'] = [];
	const hurt = new Map<string, string>();
	/** Devices whose lists of versions are damaged. */
	const unlisted = new Set<string>();
	const versionsOf = async ({ id, list, versions }: BundleDevice) => {
		if (list === undefined || unlisted.has(id)) return versions;
		return z.array(bundleVersionSchema).parse(await jsonOf(zip, list));
	};
	for (const device of manifest.devices) {
		const listed = await whole(
			() => versionsOf(device),
			(says) => lost.push({ what: String(device.facts.name), says: `Its versions: ${says}` })
		);
		if (!listed) unlisted.add(device.id);
		for (const version of listed ?? []) {
			await whole(
				() => messagesOf(version),
				(says) => hurt.set(version.id, says)
			);
			const { profile } = version;
			if (profile && !profiles.has(`${profile.id} ${profile.revision}`))
				throw wrong(
					`The profile “${profile.id}”, revision ${profile.revision}, is missing from the archive.`
				);
		}
	}
	const held: OpenBundle['held'] = [];
	for (const holding of HOLDINGS) {
		const listed = manifest.studio.find(({ name }) => name === holding.name);
		if (listed) held.push({ holding, rows: await rowsOf(zip, listed, holding, lost) });
	}
	return {
		manifest,
		profiles,
		versionsOf,
		messagesOf,
		hurt,
		held,
		lost,
		read: (file) => fileOf(zip, file)
	};
}

/** The rows of a file that are what they should be; the others are named. */
async function rowsOf(
	zip: OpenZip,
	{ file, rows: count }: BundleManifest['studio'][number],
	{ title, schema }: Holding,
	lost: OpenBundle['lost']
): Promise<unknown[]> {
	const rows = await whole(
		() => jsonOf(zip, file),
		(says) => lost.push({ what: title, says })
	);
	if (rows === null) return [];
	if (!Array.isArray(rows) || rows.length !== count) {
		lost.push({ what: title, says: `“${file}” does not hold the ${count} rows that the manifest says.` });
		return [];
	}
	return rows.flatMap((row, i) => {
		const read = schema.safeParse(row);
		if (read.success) return [read.data];
		const [{ path, message }] = read.error.issues;
		lost.push({ what: title, says: `${file}, row ${i + 1}: ${faultPath(path) || 'all of it'}: ${message}.` });
		return [];
	});
}

/** Opens a bundle and checks it, for `work`. @throws Problem `bundle.invalid` */
export async function withBundle<T>(
	source: string | Uint8Array,
	work: (bundle: OpenBundle) => Promise<T>
): Promise<T> {
	let zip: OpenZip;
	try {
		zip = await openZip(source);
	} catch (error) {
		throw wrong(
			`The file is no .zip archive, or it is damaged: ${error instanceof Error ? error.message : String(error)}.`
		);
	}
	try {
		return await work(await checkBundle(zip));
	} finally {
		zip.close();
	}
}
