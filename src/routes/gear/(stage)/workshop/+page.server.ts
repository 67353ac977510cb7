import { localDay } from '$lib/server/local-time';
import { parseProfile, profileTitle, PROFILE_TEMPLATE } from '$lib/core/profile';
import { toHex } from '$lib/core/midi';
import { orError } from '$lib/server/answer';
import { listVersions, openVersion } from '$lib/server/drawer';
import { getDevice, listDevices } from '$lib/server/gear';
import { currentProfile, knownProfiles, listRevisions, isOwnProfile } from '$lib/server/profiles';
import { profileJsonSchema } from '$lib/server/schemas';

/** `?profile=` opens a profile (or `new`), `&version=` the dump beside it, `&device=` who gets the profile when it is saved. */
export async function load({ locals, url }) {
	const { studio } = locals;
	const profiles = knownProfiles(studio);
	const wanted = url.searchParams.get('profile') ?? 'new';
	const profile =
		wanted === 'new'
			? parseProfile(PROFILE_TEMPLATE)
			: await orError(Promise.resolve().then(() => currentProfile(studio, wanted)));
	const device = url.searchParams.has('device')
		? await orError(getDevice(studio, url.searchParams.get('device')!))
		: null;
	const newest = device ? (await listVersions(studio, device.id)).at(0)?.id : undefined;
	const versionId = url.searchParams.get('version') ?? newest ?? null;
	const opened = versionId ? await orError(openVersion(studio, versionId)) : null;
	const devices = await listDevices(studio);
	const dumps = [];
	for (const each of devices) {
		if (
			wanted !== 'new' &&
			each.profileId !== wanted &&
			each.profileId !== null &&
			each.id !== opened?.version.deviceId
		)
			continue;
		for (const version of (await listVersions(studio, each.id)).slice(0, 12))
			dumps.push({
				id: version.id,
				title: `${each.name}, ${version.title || version.kind}, ${localDay(version.takenAt)}`
			});
	}
	return {
		wanted,
		device: device && { id: device.id, name: device.name },
		profiles: profiles.map((each) => ({
			id: each.id,
			title: profileTitle(each),
			revision: each.revision
		})),
		json: JSON.stringify(profile, null, '\t'),
		own: wanted !== 'new' && isOwnProfile(studio, wanted),
		revisions: wanted === 'new' ? [] : await listRevisions(studio, wanted),
		dumps,
		versionId,
		messages: opened?.messages.slice(0, 64).map((bytes) => toHex(bytes)) ?? [],
		schema: profileJsonSchema()
	};
}
