import type { Transaction } from 'sequelize';
import { proofOf, versionKind, type FinishOrder, type LiveWorld, type Transfer } from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { decoding, slotKey, type Dump, type Profile } from '../core/profile';
import { slotsInScope } from '../core/transfer';
import type { Studio } from './db/connection';
import { keepVersionIn } from './drawer';
import { inSteps } from './in-steps';
import { getObjects } from './store/objects';
import { handReceivedOver, receivedRows } from './store/transfers';

interface Captured {
	transfer: Transfer;
	device: Device;
	profile: Profile | null;
	world: LiveWorld;
	order: FinishOrder;
}

/** Slots of the transfer's scope that its stored messages do not hold. */
export function missingSlots(profile: Profile, transfer: Transfer, dump: Dump): number {
	const held = new Set(dump.slots.map((slot) => slotKey(slot.area, slot.index)));
	let missing = 0;
	for (const [area, slots] of slotsInScope(profile, transfer.scope))
		missing += slots.filter((slot) => !held.has(slotKey(area, slot))).length;
	return missing;
}

/**
 * Keeps what a complete capture received as a version, each message at the time at which it came.
 * @returns the version
 * @throws Problem `transfer.not-whole` where a slot that was asked for is not stored
 */
export async function keepCaptured(
	studio: Studio,
	{ transfer, device, profile, world, order }: Captured,
	transaction: Transaction
): Promise<string> {
	const rows = await receivedRows(studio, transfer.id, transaction);
	// Equal messages are named by the place of the first.
	const places = [...(order.use ?? rows.keys())].filter((place) => place < rows.length);
	const used = places.map((place) => rows[place]);
	const messages = await getObjects(
		studio,
		used.map(({ hash }) => hash),
		transaction
	);
	const dump = profile ? await inSteps(decoding(profile, messages)) : undefined;
	const missing = profile && dump ? missingSlots(profile, transfer, dump) : 0;
	if (missing > 0)
		throw new Problem(
			'transfer.not-whole',
			`${missing} slots of this capture are not stored, so it is not complete.`,
			'Resume it.'
		);
	const { id } = await keepVersionIn(
		studio,
		{
			device,
			profile,
			messages,
			stored: used,
			dump,
			kind: versionKind.parse(transfer.kind),
			world,
			// Without a profile only a dump that came twice alike is proved.
			proof: profile ? proofOf(profile) : order.proved ? 'twice alike' : 'none',
			firmware: order.firmware,
			readAt: used.map(({ receivedAt }) => receivedAt),
			label: { title: transfer.title },
			questioned: true
		},
		transaction
	);
	// From here on the version tells what was received, where all of it went in, in that order.
	if (places.length === rows.length && places.every((place, i) => place === i))
		await handReceivedOver(studio, transfer.id, rows.length, transaction);
	return id;
}
