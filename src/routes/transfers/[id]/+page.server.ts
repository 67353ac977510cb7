import { orError } from '$lib/server/answer';
import { decodeDump } from '$lib/core/profile';
import { openVersion } from '$lib/server/drawer';
import { getDevice } from '$lib/server/gear';
import { profileOrNull } from '$lib/server/profiles';
import { getTransfer, receivedMessages } from '$lib/server/transfers';
import { readTrace } from '$lib/server/store/traces';

export async function load({ locals, params }) {
	const transfer = await orError(getTransfer(locals.studio, params.id));
	const device = await orError(getDevice(locals.studio, transfer.deviceId));
	const profile = profileOrNull(locals.studio, device.profileId);
	const messages = transfer.direction === 'capture' ? await receivedMessages(locals.studio, params.id) : [];
	const kept = transfer.versionId ? await orError(openVersion(locals.studio, transfer.versionId)) : null;
	const slots = kept ? kept.slots : profile ? decodeDump(profile, messages).slots : [];
	return {
		transfer,
		device,
		profile,
		received: messages.length,
		proof:
			transfer.direction === 'capture' && transfer.status === 'complete'
				? (kept?.version.proof ?? 'none')
				: null,
		slots: slots.map(({ area, index, label, name }) => ({ area, index, label, name })),
		trace: await readTrace(locals.studio, params.id)
	};
}
