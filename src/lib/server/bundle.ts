import type { Readable } from 'node:stream';
import type { ZodError } from 'zod';
import {
	bundleManifestSchema,
	fileStem,
	type BundleDevice,
	type BundleManifest,
	type BundleVersion
} from '../core/drawer';
import { deviceSchema, type Device } from '../core/gear';
import { joinBytes } from '../core/midi';
import { Problem } from '../core/problem';
import { parseProfile, type Profile } from '../core/profile';
import { faultPath } from '../core/reading';
import { frameAll } from '../core/sysex';
import type { Studio } from './db/connection';
import { keepVersionIn, listVersions, openVersion, type NewVersion } from './drawer';
import { addDeviceIn, listDevices } from './gear';
import { hashOf } from './hash';
import { localDay } from './local-time';
import { isOwnRevision, keepRevision, loadProfiles } from './profiles';
import { adoptRevision } from './store/profiles';
import { messagesOfVersion, versionIds } from './store/versions';
import { openZip, zipStream, type AddFile, type OpenZip } from './zip';

/** The most that a file of a bundle can hold: a dump of one device, a profile; and the list of all. */
const FILE_LIMIT = 32 * 1024 * 1024;
const MANIFEST_LIMIT = 256 * 1024 * 1024;

const utf8 = new TextDecoder('utf-8', { fatal: true });

/**
 * The studio's drawers as one .zip, made while it is read: each version as a plain .syx file, the profiles that read
 * them, and `manifest.json` last. Any unzip can read it. What is not whole is named in the manifest; the rest goes on.
 */
export async function makeBundle(
	studio: Studio,
	deviceIds?: readonly string[]
): Promise<{ name: string; stream: Readable }> {
	const devices = (await listDevices(studio, { archived: true })).filter(
		({ id }) => !deviceIds || deviceIds.includes(id)
	);
	const madeAt = studio.now().toISOString();
	const stream = zipStream(async (add) => {
		const profiles = new Map<string, Profile>();
		const stems = new Set<string>();
		// What the manifest says of each device, as it is written: a studio has many versions.
		const listed: Uint8Array[] = [];
		let count = 0;
		const left: BundleManifest['left'] = [];
		for (const device of devices) {
			let stem = fileStem(device.name);
			for (let n = 2; stems.has(stem); n++) stem = `${fileStem(device.name)}-${n}`;
			stems.add(stem);
			const versions = await addVersions(studio, device, stem, { add, profiles, left });
			count += versions.length;
			listed.push(pieceOf({ id: device.id, facts: deviceSchema.parse(device), versions }));
		}
		for (const [key, profile] of profiles)
			await add(`profiles/${key}.json`, Buffer.from(JSON.stringify(profile, null, '\t')));
		const rest: Omit<BundleManifest, 'devices'> = {
			format: 'silent-drawer.bundle',
			version: 1,
			madeAt,
			title: `${listed.length} devices, ${count} versions`,
			profiles: [...profiles].map(([key, { id, revision }]) => ({
				id,
				revision,
				own: isOwnRevision(studio, id, revision),
				file: `profiles/${key}.json`
			})),
			left
		};
		await add('manifest.json', manifestOf(rest, listed));
	});
	return { name: `silent-drawer-${localDay(madeAt)}.zip`, stream };
}

/** A device of the manifest: a line for what it is, and one for each version. */
const pieceOf = ({ versions, ...device }: BundleDevice): Uint8Array =>
	Buffer.from(
		`${JSON.stringify(device).slice(0, -1)},"versions":[${versions.map((version) => `\n${JSON.stringify(version)}`).join()}]}`
	);

/** The manifest as it goes out, a device at a time. */
function* manifestOf(rest: Omit<BundleManifest, 'devices'>, devices: Uint8Array[]): Generator<Uint8Array> {
	yield Buffer.from(`${JSON.stringify(rest, null, '\t').slice(0, -2)},\n\t"devices": [`);
	for (const [i, piece] of devices.entries()) {
		yield Buffer.from(i === 0 ? '\n' : ',\n');
		yield piece;
	}
	yield Buffer.from(']\n}\n');
}

/** Adds every version of a device, oldest first; gives what the manifest says of them. */
async function addVersions(
	studio: Studio,
	device: Device,
	stem: string,
	bundle: { add: AddFile; profiles: Map<string, Profile>; left: BundleManifest['left'] }
): Promise<BundleVersion[]> {
	const versions: BundleVersion[] = [];
	const oldestFirst = (await listVersions(studio, device.id)).toReversed();
	for (const [i, { id }] of oldestFirst.entries()) {
		let opened;
		try {
			opened = await openVersion(studio, id);
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			bundle.left.push({ id, device: device.name, says: error.message });
			continue;
		}
		const { version, messages, profile } = opened;
		if (profile) bundle.profiles.set(`${profile.id}-${profile.revision}`, profile);
		const file = `drawers/${stem}/${localDay(version.takenAt)}-${String(i + 1).padStart(4, '0')}.syx`;
		await bundle.add(file, joinBytes(messages), version.takenAt);
		const { takenAt, since, kind, title, note, tags, pinned, verified, missing, firmware, world, proof } =
			version;
		const times = (await messagesOfVersion(studio, id)).map(({ readAt }) => readAt ?? takenAt);
		versions.push({
			id,
			takenAt,
			kind,
			title,
			note,
			tags,
			pinned,
			verified,
			missing,
			firmware,
			fromDevice: kind !== 'imported',
			world,
			proof,
			...(since === null ? {} : { readAt: times }),
			profile: version.profileId ? { id: version.profileId, revision: version.profileRevision! } : null,
			file,
			messages: version.messages,
			...(messages.every((bytes) => bytes[0] === 0xf0) ? {} : { sizes: messages.map(({ length }) => length) })
		});
	}
	return versions;
}

export interface BundleImport {
	devices: number;
	versions: number;
	/** Versions that were here already, message for message. */
	known: number;
	/** Versions that are damaged in the archive, and were not taken. */
	left: { device: string; takenAt: string; says: string }[];
}

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
interface OpenBundle {
	manifest: BundleManifest;
	profiles: Map<string, Profile>;
	messagesOf(version: BundleVersion): Promise<Uint8Array[]>;
	/** By their ids: versions whose files are damaged, with what is wrong. */
	hurt: ReadonlyMap<string, string>;
}

/** What a file of an archive holds. @throws Problem `bundle.invalid` */
async function fileOf(zip: OpenZip, name: string, limit = FILE_LIMIT): Promise<Uint8Array> {
	if (!zip.has(name)) throw wrong(`“${name}” is missing from the archive.`);
	try {
		return await zip.read(name, limit);
	} catch (error) {
		throw wrong(`“${name}” cannot be read: ${error instanceof Error ? error.message : String(error)}`);
	}
}

/** The JSON in a file of an archive. @throws Problem `bundle.invalid` */
async function jsonOf(zip: OpenZip, name: string, limit?: number): Promise<unknown> {
	const bytes = await fileOf(zip, name, limit);
	try {
		return JSON.parse(utf8.decode(bytes));
	} catch (error) {
		throw wrong(`${name} is no JSON: ${error instanceof Error ? error.message : String(error)}`);
	}
}

const sysexIn = (bytes: Uint8Array): Uint8Array[] =>
	frameAll(bytes).flatMap(({ kind, bytes: message }) => (kind === 'sysex' ? [message] : []));

function cutAt(bytes: Uint8Array, sizes: readonly number[]): Uint8Array[] {
	let at = 0;
	return sizes.map((size) => bytes.subarray(at, (at += size)));
}

/**
 * Checks all of a bundle before anything is stored. A version whose file is damaged is left out.
 * @throws Problem `bundle.invalid`
 */
async function checkBundle(zip: OpenZip): Promise<OpenBundle> {
	if (!zip.has('manifest.json')) throw wrong('There is no manifest.json in the archive.');
	const parsed = bundleManifestSchema.safeParse(await jsonOf(zip, 'manifest.json', MANIFEST_LIMIT));
	if (!parsed.success) throw faulty('the whole file', parsed.error);
	const manifest = parsed.data;
	const profiles = new Map<string, Profile>();
	for (const { id, revision, file } of manifest.profiles)
		profiles.set(`${id} ${revision}`, parseProfile(await jsonOf(zip, file)));
	const messagesOf = async ({ file, messages: hashes, sizes }: BundleVersion) => {
		const bytes = await fileOf(zip, file);
		const messages = sizes ? cutAt(bytes, sizes) : sysexIn(bytes);
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
	const hurt = new Map<string, string>();
	for (const version of manifest.devices.flatMap(({ versions }) => versions)) {
		try {
			await messagesOf(version);
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			hurt.set(version.id, error.message);
		}
		const { profile } = version;
		if (profile && !profiles.has(`${profile.id} ${profile.revision}`))
			throw wrong(`The profile “${profile.id}”, revision ${profile.revision}, is missing from the archive.`);
	}
	return { manifest, profiles, messagesOf, hurt };
}

/**
 * Takes a bundle over: devices that are not here are added, versions that are not here are stored as they were, hash
 * for hash, oldest first, all of it or nothing. Taking the same bundle over again changes nothing. A version that is damaged
 * in the archive is left out and named. The archive may be a file on disk: no more than a dump of it is held in memory at a
 * time.
 * @throws Problem `bundle.invalid`
 */
export async function takeBundle(studio: Studio, source: string | Uint8Array): Promise<BundleImport> {
	let zip: OpenZip;
	try {
		zip = await openZip(source);
	} catch (error) {
		throw wrong(
			`The file is no .zip archive, or it is damaged: ${error instanceof Error ? error.message : String(error)}.`
		);
	}
	try {
		return await takeOver(studio, await checkBundle(zip));
	} finally {
		zip.close();
	}
}

/** All of it, or nothing: whoever looks meanwhile sees the studio as it was before. */
async function takeOver(
	studio: Studio,
	{ manifest, profiles, messagesOf, hurt }: OpenBundle
): Promise<BundleImport> {
	const own = new Set(
		manifest.profiles.filter((profile) => profile.own).map(({ id, revision }) => `${id} ${revision}`)
	);
	const here = new Map((await listDevices(studio, { archived: true })).map((device) => [device.id, device]));
	const newest = new Map(
		[...profiles.values()].sort((a, b) => a.revision - b.revision).map((profile) => [profile.id, profile])
	);
	const result = await studio.write(async (transaction) => {
		const taken: BundleImport = { devices: 0, versions: 0, known: 0, left: [] };
		for (const [key, profile] of profiles) {
			const revision = await keepRevision(studio, profile, transaction);
			if (own.has(key)) await adoptRevision(studio, profile.id, revision, transaction);
		}
		for (const { id, facts, versions } of manifest.devices) {
			let device = here.get(id);
			if (!device) {
				const parsed = deviceSchema.parse(facts);
				const profile = parsed.profileId === null ? undefined : newest.get(parsed.profileId);
				device = await addDeviceIn(studio, parsed, id, transaction, profile);
				taken.devices++;
			}
			const known = await versionIds(studio, device.id, transaction);
			for (const version of versions) {
				if (known.has(version.id)) {
					taken.known++;
					continue;
				}
				const says = hurt.get(version.id);
				if (says !== undefined) {
					taken.left.push({ device: device.name, takenAt: version.takenAt, says });
					continue;
				}
				await keepVersionIn(studio, await asRead(version, device, profiles, messagesOf), transaction);
				taken.versions++;
			}
		}
		return taken;
	});
	await loadProfiles(studio);
	return result;
}

/** A version of a bundle as it was read. */
async function asRead(
	version: BundleVersion,
	device: Device,
	profiles: OpenBundle['profiles'],
	messagesOf: OpenBundle['messagesOf']
): Promise<NewVersion> {
	const { id, kind, verified, missing, firmware, takenAt, readAt, title, note, tags, pinned } = version;
	return {
		id,
		device,
		profile: version.profile ? profiles.get(`${version.profile.id} ${version.profile.revision}`)! : null,
		messages: await messagesOf(version),
		kind,
		world: version.world ?? (version.fromDevice ? 'unrecorded' : 'file'),
		proof: version.proof ?? (verified ? 'checksum' : 'none'),
		missing,
		firmware,
		takenAt,
		readAt,
		label: { title, note, tags, pinned }
	};
}
