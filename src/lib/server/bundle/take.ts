import type { BundleImport, BundleVersion } from '../../core/drawer';
import { deviceSchema, type Device } from '../../core/gear';
import type { Studio } from '../db/connection';
import { keepVersionIn, listVersions, type NewVersion } from '../drawer';
import { addDeviceIn, listDevices } from '../gear';
import { hashOf } from '../hash';
import { keepRevision, loadProfiles } from '../profiles';
import { adoptRevision } from '../store/profiles';
import { versionIds, versionRow } from '../store/versions';
import { takeFacts, takeLabels } from './facts';
import type { Taking } from './holding';
import { withBundle, type OpenBundle } from './read';

/**
 * Takes a bundle over: devices that are not here are added, versions that are not here are stored as they were, hash
 * for hash, oldest first, then what else it carries; all of it or nothing. Taking the same bundle over again changes nothing.
 * What is damaged in the archive is left out and named. Where both differ, what is here stays and the difference is told. The
 * archive may be a file on disk: no more than a dump of it, or a list, is held in memory at a time.
 * @param chosen keys of differences of which the bundle's is taken instead
 * @throws Problem `bundle.invalid`
 */
export const takeBundle = (
	studio: Studio,
	source: string | Uint8Array,
	chosen: ReadonlySet<string> = new Set()
): Promise<BundleImport> => withBundle(source, (bundle) => takeOver(studio, bundle, chosen));

/** Tells differences, and whether they were chosen. */
function asking(chosen: ReadonlySet<string>, taken: BundleImport): Taking['takes'] {
	return ({ what, here, there, hereAt = null, thereAt = null }, contents) => {
		const key = hashOf(Buffer.from(JSON.stringify([what, contents.here, contents.there]))).slice(0, 12);
		if (chosen.has(key)) {
			taken.chosen++;
			return true;
		}
		taken.differ.push({ key, what, here, there, hereAt, thereAt });
		return false;
	};
}

/** All of it, or nothing: whoever looks meanwhile sees the studio as it was before. */
async function takeOver(
	studio: Studio,
	{ manifest, profiles, versionsOf, messagesOf, hurt, held, lost, read }: OpenBundle,
	chosen: ReadonlySet<string>
): Promise<BundleImport> {
	const own = new Set(
		manifest.profiles.filter((profile) => profile.own).map(({ id, revision }) => `${id} ${revision}`)
	);
	const here = new Map((await listDevices(studio, { archived: true })).map((device) => [device.id, device]));
	const newest = new Map(
		[...profiles.values()].sort((a, b) => a.revision - b.revision).map((profile) => [profile.id, profile])
	);
	const labelled = new Map<string, Awaited<ReturnType<typeof listVersions>>>();
	for (const { id } of manifest.devices) if (here.has(id)) labelled.set(id, await listVersions(studio, id));
	const result = await studio.write(async (transaction) => {
		const taken: BundleImport = {
			devices: 0,
			versions: 0,
			known: 0,
			left: [],
			also: [],
			chosen: 0,
			differ: []
		};
		const all = { devices: new Set(here.keys()), added: new Set<string>(), versions: new Set<string>() };
		const leave = (what: string, says: string) =>
			taken.left.push({ device: what, takenAt: manifest.madeAt, says });
		for (const { what, says } of lost) leave(what, says);
		const taking: Taking = {
			studio,
			transaction,
			fresh: here.size === 0,
			...all,
			read,
			lost: leave,
			takes: asking(chosen, taken)
		};
		for (const [key, profile] of profiles) {
			const revision = await keepRevision(studio, profile, transaction);
			if (own.has(key)) await adoptRevision(studio, profile.id, revision, transaction);
		}
		for (const listed of manifest.devices) {
			const { id, facts } = listed;
			const versions = await versionsOf(listed);
			const parsed = deviceSchema.parse(facts);
			let device = here.get(id);
			if (device) device = await takeFacts(taking, device, parsed, newest);
			else {
				const profile = parsed.profileId === null ? undefined : newest.get(parsed.profileId);
				device = await addDeviceIn(studio, parsed, id, transaction, profile);
				here.set(id, device);
				all.devices.add(id);
				all.added.add(id);
				taken.devices++;
			}
			const known = await versionIds(studio, id, transaction);
			for (const version of versions) {
				if (known.has(version.id)) {
					taken.known++;
					continue;
				}
				// Whose it is elsewhere stays so.
				const other = await versionRow(studio, version.id, transaction);
				const says = other
					? 'There is a version of that id already, of another device.'
					: hurt.get(version.id);
				if (says !== undefined) {
					taken.left.push({ device: device.name, takenAt: version.takenAt, says });
					continue;
				}
				await keepVersionIn(studio, await asRead(version, device, profiles, messagesOf), transaction);
				known.add(version.id);
				taken.versions++;
			}
			await takeLabels(taking, device, labelled.get(id) ?? [], versions);
			for (const version of known) all.versions.add(version);
		}
		for (const { holding, rows } of held) {
			const count = await holding.take(taking, rows);
			if (count > 0) taken.also.push({ what: holding.title, rows: count });
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
	const { id, kind, verified, missing, firmware, takenAt, readAt, title, note, tags, pinned, question } =
		version;
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
		question,
		label: { title, note, tags, pinned }
	};
}
