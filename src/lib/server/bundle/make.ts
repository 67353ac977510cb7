import type { Readable } from 'node:stream';
import { fileStem, type BundleManifest, type BundleVersion } from '../../core/drawer';
import { deviceSchema, type Device } from '../../core/gear';
import { joinBytes } from '../../core/midi';
import { Problem } from '../../core/problem';
import type { Profile } from '../../core/profile';
import type { Studio } from '../db/connection';
import { isTorn } from '../db/damage';
import { listVersions, openVersion } from '../drawer';
import { listDevices } from '../gear';
import { localDay } from '../local-time';
import { isOwnRevision } from '../profiles';
import { messagesOfVersion } from '../store/versions';
import { zipStream, type AddFile } from '../zip';
import type { Making } from './holding';
import { HOLDINGS } from './registry';

/**
 * The studio as one .zip, made while it is read: each version as a plain .syx file, the profiles that read them, what else
 * there is as files of rows, and `manifest.json` last. Any unzip can read it. What is not whole is named in the manifest; the
 * rest goes on. Of chosen devices there are the drawers alone.
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
		const listed: BundleManifest['devices'] = [];
		let count = 0;
		const left: BundleManifest['left'] = [];
		for (const device of devices) {
			let stem = fileStem(device.name);
			for (let n = 2; stems.has(stem); n++) stem = `${fileStem(device.name)}-${n}`;
			stems.add(stem);
			const versions = await addVersions(studio, device, stem, { add, profiles, left });
			const list = `drawers/${stem}/versions.json`;
			await add(list, linesOf(versions));
			count += versions.length;
			listed.push({ id: device.id, facts: deviceSchema.parse(device), list, versions: [] });
		}
		for (const [key, profile] of profiles)
			await add(`profiles/${key}.json`, Buffer.from(JSON.stringify(profile, null, '\t')));
		const held = deviceIds ? [] : await addHoldings(studio, add, left);
		const manifest: BundleManifest = {
			format: 'silent-drawer.bundle',
			version: 2,
			madeAt,
			title: `${listed.length} devices, ${count} versions`,
			profiles: [...profiles].map(([key, { id, revision }]) => ({
				id,
				revision,
				own: isOwnRevision(studio, id, revision),
				file: `profiles/${key}.json`
			})),
			devices: listed,
			studio: held,
			left
		};
		await add('manifest.json', Buffer.from(JSON.stringify(manifest, null, '\t')));
	});
	return { name: `silent-drawer-${localDay(madeAt)}.zip`, stream };
}

/** Adds what a studio holds besides its drawers; gives what the manifest says of it. */
async function addHoldings(
	studio: Studio,
	add: AddFile,
	left: BundleManifest['left']
): Promise<BundleManifest['studio']> {
	const held: BundleManifest['studio'] = [];
	for (const { name, title, rows } of HOLDINGS) {
		const making: Making = {
			studio,
			add,
			left: (what, says) => left.push({ id: name, device: what, says })
		};
		let own: unknown[];
		try {
			own = await rows(making);
		} catch (error) {
			if (!isTorn(error)) throw error;
			making.left(title, 'It cannot be read: run the check.');
			continue;
		}
		const file = `studio/${name}.json`;
		await add(file, linesOf(own));
		held.push({ name, file, rows: own.length });
	}
	return held;
}

/** A list as JSON, a row a line. */
function* linesOf(rows: readonly unknown[]): Generator<Uint8Array> {
	yield Buffer.from('[');
	for (const [i, row] of rows.entries()) yield Buffer.from(`${i === 0 ? '' : ','}\n${JSON.stringify(row)}`);
	yield Buffer.from('\n]\n');
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
		const { question } = version;
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
			...(question === null ? {} : { question }),
			...(since === null ? {} : { readAt: times }),
			profile: version.profileId ? { id: version.profileId, revision: version.profileRevision! } : null,
			file,
			messages: version.messages,
			...(messages.every((bytes) => bytes[0] === 0xf0) ? {} : { sizes: messages.map(({ length }) => length) })
		});
	}
	return versions;
}
