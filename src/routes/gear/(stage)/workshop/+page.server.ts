import { localDay } from '$lib/server/local-time';
import { parseProfile, PROFILE_TEMPLATE } from '$lib/core/profile';
import { toHex } from '$lib/core/midi';
import { orError } from '$lib/server/answer';
import { listVersions, openVersion } from '$lib/server/drawer';
import { listDevices } from '$lib/server/gear';
import { currentProfile, knownProfiles, listRevisions, isOwnProfile } from '$lib/server/profiles';
import { profileJsonSchema } from '$lib/server/schemas';

/** `?profile=` opens a profile (or `new`), `&version=` the dump beside it. */
export async function load({ locals, url }) {
	const { studio } = locals;
	const profiles = knownProfiles(studio);
	const wanted = url.searchParams.get('profile') ?? 'new';
	const profile =
		wanted === 'new'
			? parseProfile(PROFILE_TEMPLATE)
			: await orError(Promise.resolve().then(() => currentProfile(studio, wanted)));
	const versionId = url.searchParams.get('version');
	const opened = versionId ? await orError(openVersion(studio, versionId)) : null;
	const devices = await listDevices(studio);
	const dumps = [];
	for (const device of devices) {
		if (
			wanted !== 'new' &&
			device.profileId !== wanted &&
			device.profileId !== null &&
			device.id !== opened?.version.deviceId
		)
			continue;
		for (const version of (await listVersions(studio, device.id)).slice(0, 12))
			dumps.push({
				id: version.id,
				title: `${device.name}, ${version.title || version.kind}, ${localDay(version.takenAt)}`
			});
	}
	return {
		wanted,
		profiles: profiles.map(({ id, maker, model, revision }) => ({
			id,
			title: `${maker} ${model}`,
			revision
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
