import { listDevices } from '$lib/server/gear';
import { knownProfiles } from '$lib/server/profiles';
import { listTransfers } from '$lib/server/transfers';

export async function load({ locals }) {
	const [transfers, devices] = await Promise.all([
		listTransfers(locals.studio, { limit: 200 }),
		listDevices(locals.studio, { archived: true })
	]);
	const readable = new Set(
		knownProfiles(locals.studio)
			.filter(({ capture }) => capture.length > 0)
			.map(({ id }) => id)
	);
	return {
		transfers: transfers.map(
			({ id, deviceId, direction, status, startedAt, endedAt, title, received, versionId, reason }) => ({
				id,
				direction,
				status,
				startedAt,
				endedAt,
				title,
				received,
				versionId,
				reason,
				device: devices.find((device) => device.id === deviceId)?.name ?? ''
			})
		),
		devices: devices
			.filter(
				({ archivedAt, profileId }) => archivedAt === null && profileId !== null && readable.has(profileId)
			)
			.map(({ id, name }) => ({ id, name }))
	};
}
