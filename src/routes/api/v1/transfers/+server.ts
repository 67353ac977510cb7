import { answer, body } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';
import { beginSchema } from '$lib/core/drawer';
import { beginTransfer, listTransfers } from '$lib/server/transfers';

export const GET = ({ locals, url }) =>
	answer(() => listTransfers(locals.studio, { deviceId: url.searchParams.get('device') ?? undefined }));

export const POST = (event) =>
	answer(async () => {
		const transfer = await beginTransfer(event.locals.studio, await body(event, beginSchema));
		const device = await getDevice(event.locals.studio, transfer.deviceId);
		return {
			transfer,
			device,
			profile: profileOrNull(event.locals.studio, device.profileId),
			messages: [],
			part: 0,
			distrusted: false
		};
	}, 201);
