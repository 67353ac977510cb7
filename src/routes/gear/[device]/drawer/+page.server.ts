import { orError } from '$lib/server/answer';
import { compareVersions, listVersions, openVersion } from '$lib/server/drawer';
import { toHex } from '$lib/core/midi';

/** `?v=` is the version that is open, `&with=` an older one to compare it with. */
export async function load({ locals, params, url, parent }) {
	const versions = await listVersions(locals.studio, params.device);
	const { device } = await parent();
	const wanted = url.searchParams.get('v');
	const shownId = wanted ?? versions.find(({ kind }) => kind !== 'imported')?.id ?? versions[0]?.id ?? null;
	const withId = url.searchParams.get('with');
	const opened = shownId ? await orError(openVersion(locals.studio, shownId)) : null;
	const areas = opened?.profile?.areas.map(({ id, name }) => ({ id, name })) ?? [];
	return {
		// What the tide line draws; a drawer may hold thousands.
		versions: versions.map(({ id, takenAt, title, kind, verified, changed, pinned, missing }) => ({
			id,
			takenAt,
			title,
			kind,
			verified,
			changed,
			pinned,
			missing
		})),
		shown: opened?.version ?? null,
		areas,
		restorable:
			opened !== null &&
			(opened.profile === null
				? device.profileId === null
				: device.profileId === opened.profile.id && opened.profile.restore.length > 0),
		slots: opened?.slots.map(({ area, index, label, name }) => ({ area, index, label, name })) ?? [],
		raw:
			opened && !opened.profile
				? opened.messages.map((bytes) => ({ length: bytes.length, head: toHex(bytes.subarray(0, 32)) }))
				: [],
		withId,
		comparison:
			shownId && withId && withId !== shownId
				? await orError(compareVersions(locals.studio, withId, shownId))
				: null,
		focus: url.searchParams.get('slot')
	};
}
