import { toHex } from '$lib/core/midi';
import { resumeSchema } from '$lib/core/drawer';
import { answer, body } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';
import { resumeTransfer } from '$lib/server/unfinished';

export const POST = (event) =>
	answer(async () => {
		const { locals, params } = event;
		const { world } = await body(event, resumeSchema);
		const { transfer, messages, part, distrusted } = await resumeTransfer(locals.studio, params.id, world);
		const device = await getDevice(locals.studio, transfer.deviceId);
		return {
			transfer,
			device,
			profile: profileOrNull(locals.studio, device.profileId),
			messages: messages.map((bytes) => toHex(bytes)),
			part,
			distrusted
		};
	});
