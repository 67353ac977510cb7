import { decoding } from '../core/profile';
import type { TransferResult } from '../core/drawer';
import type { Studio } from './db/connection';
import { openVersion } from './drawer';
import { getDevice } from './gear';
import { inSteps } from './in-steps';
import { profileOrNull } from './profiles';
import { getTransfer, receivedMessages } from './transfers';

/** @throws Problem `transfer.not-found` */
export async function transferResult(studio: Studio, id: string): Promise<TransferResult> {
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOrNull(studio, device.profileId);
	const messages = transfer.direction === 'capture' ? await receivedMessages(studio, id) : [];
	const kept = transfer.versionId ? await openVersion(studio, transfer.versionId) : null;
	const slots = kept ? kept.slots : profile ? (await inSteps(decoding(profile, messages))).slots : [];
	const checks = profile?.preflight[transfer.direction] ?? [];
	return {
		transfer,
		device: { id: device.id, name: device.name, benchUnit: device.benchUnit },
		received: messages.length,
		proof:
			transfer.direction === 'capture' && transfer.status === 'complete'
				? (kept?.version.proof ?? 'none')
				: null,
		slots: slots.map(({ area, index, label, name }) => ({ area, index, label, name })),
		after: checks.flatMap(({ id: check, after }) => (after ? [{ id: check, says: after }] : []))
	};
}
