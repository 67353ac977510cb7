import { toHex } from '$lib/core/midi';
import { answer } from '$lib/server/answer';
import { getDevice } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';
import { resumeTransfer } from '$lib/server/unfinished';

export const POST = ({ locals, params }) =>
	answer(async () => {
		const { transfer, messages, part, distrusted } = await resumeTransfer(locals.studio, params.id);
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
