import { orError } from '$lib/server/answer';
import { decodeDump } from '$lib/core/profile';
import { openVersion } from '$lib/server/drawer';
import { getDevice } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';
import { getTransfer, receivedMessages } from '$lib/server/transfers';
import { readTrace } from '$lib/server/transfer-trace';

export async function load({ locals, params }) {
	const transfer = await orError(getTransfer(locals.studio, params.id));
	const device = await orError(getDevice(locals.studio, transfer.deviceId));
	const profile = profileOrNull(locals.studio, device.profileId);
	const messages = transfer.direction === 'capture' ? await receivedMessages(locals.studio, params.id) : [];
	const slots = transfer.versionId
		? (await orError(openVersion(locals.studio, transfer.versionId))).slots
		: profile
			? decodeDump(profile, messages).slots
			: [];
	return {
		transfer,
		device,
		profile,
		received: messages.length,
		slots: slots.map(({ area, index, label, name }) => ({ area, index, label, name })),
		trace: await readTrace(locals.studio, params.id)
	};
}
