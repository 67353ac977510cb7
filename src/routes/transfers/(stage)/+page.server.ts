import { listDevices } from '$lib/server/gear';
import { knownProfiles } from '$lib/server/profiles';
import { listTransfers } from '$lib/server/transfers';
import { unfinishedCaptures } from '$lib/server/unfinished';

export async function load({ locals }) {
	const [transfers, open, devices] = await Promise.all([
		listTransfers(locals.studio, { limit: 200 }),
		unfinishedCaptures(locals.studio),
		listDevices(locals.studio, { archived: true })
	]);
	const readable = new Set(
		knownProfiles(locals.studio)
			.filter(({ capture }) => capture.length > 0)
			.map(({ id }) => id)
	);
	const nameOf = (deviceId: string) => devices.find((device) => device.id === deviceId)?.name ?? '';
	return {
		/** Captures that broke off, however old, and that nothing newer has made pointless. */
		waiting: open.map(({ id, deviceId, startedAt, received }) => ({
			id,
			startedAt,
			received,
			device: nameOf(deviceId)
		})),
		transfers: transfers.map(
			({
				id,
				deviceId,
				direction,
				status,
				startedAt,
				endedAt,
				title,
				received,
				versionId,
				reason,
				world
			}) => ({
				world,
				id,
				direction,
				status,
				startedAt,
				endedAt,
				title,
				received,
				versionId,
				reason,
				device: nameOf(deviceId)
			})
		),
		devices: devices
			.filter(
				({ archivedAt, profileId }) => archivedAt === null && profileId !== null && readable.has(profileId)
			)
			.map(({ id, name }) => ({ id, name }))
	};
}
