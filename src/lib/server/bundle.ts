import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import {
	bundleManifestSchema,
	fileStem,
	type BundleDevice,
	type BundleManifest,
	type BundleVersion
} from '../core/drawer';
import { deviceSchema } from '../core/gear';
import { joinBytes } from '../core/midi';
import { Problem } from '../core/problem';
import { faultPath, parseProfile, type Profile } from '../core/profile';
import { frameAll } from '../core/sysex';
import type { Studio } from './db/connection';
import { keepVersionIn, listVersions, openVersion } from './drawer';
import { addDevice, listDevices } from './gear';
import { hashOf } from './hash';
import { localDay } from './local-time';
import { isOwnRevision, keepRevision, loadProfiles } from './profiles';
import { adoptRevision } from './store/profiles';
import { messagesOfVersion } from './store/versions';

const LEVEL = 6;

/** A .zip knows times from 1980 to 2099 alone; the manifest has them exactly. */
function zipTime(at: string): Date {
	const time = new Date(at);
	const year = time.getFullYear();
	return year < 1980 ? new Date(1980, 0, 1) : year > 2099 ? new Date(2099, 11, 31) : time;
}

/**
 * The studio's drawers as one .zip: `manifest.json`, the profiles that read the dumps, and each version as a plain
 * .syx file. Any unzip can read it.
 */
export async function makeBundle(
	studio: Studio,
	deviceIds?: readonly string[]
): Promise<{ name: string; bytes: Uint8Array; left: BundleManifest['left'] }> {
	const devices = (await listDevices(studio, { archived: true })).filter(
		({ id }) => !deviceIds || deviceIds.includes(id)
	);
	const files: Zippable = {};
	const profiles = new Map<string, Profile>();
	const stems = new Set<string>();
	const listed: BundleDevice[] = [];
	const left: BundleManifest['left'] = [];
	for (const device of devices) {
		let stem = fileStem(device.name);
		for (let n = 2; stems.has(stem); n++) stem = `${fileStem(device.name)}-${n}`;
		stems.add(stem);
		const versions: BundleVersion[] = [];
		const oldestFirst = (await listVersions(studio, device.id)).toReversed();
		for (const [i, { id }] of oldestFirst.entries()) {
			let opened;
			try {
				opened = await openVersion(studio, id);
			} catch (error) {
				if (!(error instanceof Problem)) throw error;
				// What is not whole is named; the rest goes on.
				left.push({ id, device: device.name, says: error.message });
				continue;
			}
			const { version, messages, profile } = opened;
			if (profile) profiles.set(`${profile.id}-${profile.revision}`, profile);
			const file = `drawers/${stem}/${localDay(version.takenAt)}-${String(i + 1).padStart(4, '0')}.syx`;
			files[file] = [joinBytes(messages), { level: LEVEL, mtime: zipTime(version.takenAt) }];
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
				messages: version.messages
			});
		}
		listed.push({ id: device.id, facts: deviceSchema.parse(device), versions });
	}
	const manifest: BundleManifest = {
		format: 'silent-drawer.bundle',
		version: 1,
		madeAt: studio.now().toISOString(),
		title: `${listed.length} devices, ${listed.reduce((sum, { versions }) => sum + versions.length, 0)} versions`,
		devices: listed,
		profiles: [...profiles].map(([key, { id, revision }]) => ({
			id,
			revision,
			own: isOwnRevision(studio, id, revision),
			file: `profiles/${key}.json`
		})),
		left
	};
	for (const [key, profile] of profiles)
		files[`profiles/${key}.json`] = [strToU8(JSON.stringify(profile, null, '\t')), { level: LEVEL }];
	files['manifest.json'] = [strToU8(JSON.stringify(manifest, null, '\t')), { level: LEVEL }];
	return { name: `silent-drawer-${localDay(manifest.madeAt)}.zip`, bytes: zipSync(files), left };
}

export interface BundleImport {
	devices: number;
	versions: number;
	/** Versions that were here already, message for message. */
	known: number;
}

const wrong = (says: string, detail: Record<string, unknown> = {}) =>
	new Problem(
		'bundle.invalid',
		says,
		'Choose a bundle that Silent Drawer wrote, unchanged. Nothing was taken over.',
		detail
	);

/** Opens a bundle and checks all of it before anything is stored. */
function readBundle(bytes: Uint8Array): {
	manifest: BundleManifest;
	messages: Map<string, Uint8Array[]>;
	profiles: Map<string, Profile>;
} {
	let files: Record<string, Uint8Array>;
	try {
		files = unzipSync(bytes);
	} catch {
		throw wrong('The file is no .zip archive, or it is damaged.');
	}
	const raw = files['manifest.json'];
	if (!raw) throw wrong('There is no manifest.json in the archive.');
	let json: unknown;
	try {
		json = JSON.parse(strFromU8(raw));
	} catch (error) {
		throw wrong(`manifest.json is no JSON: ${error instanceof Error ? error.message : String(error)}`);
	}
	const parsed = bundleManifestSchema.safeParse(json);
	if (!parsed.success) {
		const [issue] = parsed.error.issues;
		throw wrong(`manifest.json: ${faultPath(issue.path) || 'the whole file'}: ${issue.message}.`);
	}
	const profiles = new Map<string, Profile>();
	for (const { id, revision, file } of parsed.data.profiles) {
		if (!files[file]) throw wrong(`“${file}” is missing from the archive.`);
		profiles.set(`${id} ${revision}`, parseProfile(JSON.parse(strFromU8(files[file]))));
	}
	const messages = new Map<string, Uint8Array[]>();
	for (const { versions } of parsed.data.devices)
		for (const { file, messages: hashes, profile } of versions) {
			if (!files[file]) throw wrong(`“${file}” is missing from the archive.`);
			const framed = frameAll(files[file]).filter(({ kind }) => kind === 'sysex');
			const found = framed.map(({ bytes: of }) => hashOf(of));
			if (found.length !== hashes.length || found.some((hash, i) => hash !== hashes[i]))
				throw wrong(`“${file}” does not hold what the manifest says of it: it was changed or damaged.`, {
					file
				});
			if (profile && !profiles.has(`${profile.id} ${profile.revision}`))
				throw wrong(
					`The profile “${profile.id}”, revision ${profile.revision}, is missing from the archive.`
				);
			messages.set(
				file,
				framed.map(({ bytes: of }) => of)
			);
		}
	return { manifest: parsed.data, messages, profiles };
}

/**
 * Takes a bundle over: devices that are not here are added, versions that are not here are stored as they were, hash
 * for hash, oldest first. Taking the same bundle over again changes nothing.
 */
export async function takeBundle(studio: Studio, bytes: Uint8Array): Promise<BundleImport> {
	const { manifest, messages, profiles } = readBundle(bytes);
	const result: BundleImport = { devices: 0, versions: 0, known: 0 };
	const own = new Set(
		manifest.profiles.filter((profile) => profile.own).map(({ id, revision }) => `${id} ${revision}`)
	);
	await studio.write(async (transaction) => {
		for (const [key, profile] of profiles) {
			const revision = await keepRevision(studio, profile, transaction);
			if (own.has(key)) await adoptRevision(studio, profile.id, revision, transaction);
		}
	});
	await loadProfiles(studio);
	const here = new Map((await listDevices(studio, { archived: true })).map((device) => [device.id, device]));
	for (const { id, facts, versions } of manifest.devices) {
		let device = here.get(id);
		if (!device) {
			device = await addDevice(studio, deviceSchema.parse(facts), id);
			result.devices++;
		}
		const known = new Set((await listVersions(studio, device.id)).map((version) => version.id));
		for (const version of versions) {
			if (known.has(version.id)) {
				result.known++;
				continue;
			}
			const profile = version.profile
				? profiles.get(`${version.profile.id} ${version.profile.revision}`)!
				: null;
			const { kind, verified, missing, firmware, takenAt, readAt, title, note, tags, pinned } = version;
			await studio.write(async (transaction) => {
				await keepVersionIn(
					studio,
					{
						id: version.id,
						device,
						profile,
						messages: messages.get(version.file)!,
						kind,
						world: version.world ?? (version.fromDevice ? 'unrecorded' : 'file'),
						proof: version.proof ?? (verified ? 'checksum' : 'none'),
						missing,
						firmware,
						takenAt,
						readAt,
						label: { title, note, tags, pinned }
					},
					transaction
				);
			});
			result.versions++;
		}
	}
	return result;
}
