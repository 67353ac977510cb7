import { covers, slotsOfSpans, spansOf, type VersionMark } from '$lib/core/drawer';
import { toHex } from '$lib/core/midi';
import { sameFamily } from '$lib/core/profile';
import { Problem, type ProblemData } from '$lib/core/problem';
import { orError } from '$lib/server/answer';
import { compareVersions, getVersion, listVersions, openVersion, type OpenVersion } from '$lib/server/drawer';
import { listDevices } from '$lib/server/gear';
import { readableSlots } from '$lib/server/knowing';
import { profileOrNull } from '$lib/server/profiles';
import type { Studio } from '$lib/server/db/connection';

/** A version, or what is wrong with it: one that is damaged must not hide the others. */
async function openOrFault(
	studio: Studio,
	id: string
): Promise<{ opened: OpenVersion | null; fault: ProblemData | null }> {
	try {
		return { opened: await openVersion(studio, id), fault: null };
	} catch (error) {
		if (error instanceof Problem && error.code !== 'version.not-found')
			return { opened: null, fault: error.toJSON() };
		throw error;
	}
}

/** `?v=` is the version that is open, `&with=` an older one to compare it with. */
export async function load({ locals, params, url, parent }) {
	const versions = await listVersions(locals.studio, params.device);
	const { device } = await parent();
	const own = profileOrNull(locals.studio, device.profileId);
	const wanted = url.searchParams.get('v');
	const shownId = wanted ?? versions.find(({ kind }) => kind !== 'imported')?.id ?? versions[0]?.id ?? null;
	const withId = url.searchParams.get('with');
	const { opened, fault } = shownId
		? await orError(openOrFault(locals.studio, shownId))
		: { opened: null, fault: null };
	const shown = opened?.version ?? (shownId ? await orError(getVersion(locals.studio, shownId)) : null);
	const whole = opened?.profile ? spansOf(readableSlots(opened.profile)) : [];
	const expected = slotsOfSpans(whole).length;
	const areas = opened?.profile?.areas.map(({ id, name }) => ({ id, name })) ?? [];
	return {
		// What the tide line draws. A drawer may hold thousands: as text they are read in a tenth of the time.
		marks: JSON.stringify(
			versions.map(
				({ id, takenAt, title, kind, verified, changed, pinned, missing, world }) =>
					({
						world,
						id,
						takenAt,
						title,
						kind,
						verified,
						changed,
						pinned,
						missing
					}) satisfies VersionMark
			)
		),
		shown,
		/** The version before it, which it is compared with; told, so that no page reads the marks for it. */
		before:
			versions.find(({ id, takenAt }) => shown && id !== shown.id && takenAt <= shown.takenAt)?.id ?? null,
		fault,
		alike:
			shown?.world === 'file'
				? (await listDevices(locals.studio))
						.filter(({ id, profileId }) => id !== device.id && profileId === device.profileId)
						.map(({ id, name }) => ({ id, name }))
				: [],
		/** That it holds a part of the memory only, in words. */
		part:
			opened?.profile && expected > 0 && !covers(opened.version.coverage, whole)
				? `A part: ${opened.slots.length} of ${expected} slots`
				: '',
		/** Nothing was read after it that would answer its question. */
		asks:
			shown?.question != null &&
			!versions.some(
				({ takenAt, world, verified, question, coverage }) =>
					takenAt > shown.takenAt &&
					world === shown.world &&
					verified &&
					question === null &&
					covers(coverage, whole)
			),
		/** The newest whole, proved version from before it. */
		wholeBefore:
			versions.find(
				({ takenAt, verified, coverage, world }) =>
					shown && takenAt < shown.takenAt && verified && world === shown.world && covers(coverage, whole)
			)?.id ?? null,
		areas,
		restorable:
			opened !== null &&
			(opened.profile === null
				? device.profileId === null
				: own !== null && sameFamily(own, opened.profile) && own.restore.length > 0),
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
