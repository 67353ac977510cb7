import type { Transaction } from 'sequelize';
import {
	proofOf,
	spared,
	wrote,
	type FinishOrder,
	type LiveWorld,
	type SlotRef,
	type Transfer
} from '../core/drawer';
import type { Device } from '../core/gear';
import { fromHex } from '../core/midi';
import { Problem } from '../core/problem';
import { decodeDump, slotKey, type Profile, type ProfileArea } from '../core/profile';
import { noteBankSent } from './banks';
import type { Studio } from './db/connection';
import { keepVersionIn } from './drawer';
import { hashOf } from './hash';
import { RAW_SLOT } from './knowing';
import { readKnowledge, writeKnowledge } from './store/knowledge';

interface Restored {
	transfer: Transfer;
	device: Device;
	profile: Profile | null;
	world: LiveWorld;
	order: FinishOrder;
}

/**
 * Takes in how a restore ended: what was read back is known, what was sent and not read is `sent`, what may have been
 * written is `unknown`, and what was not written is as it was known before.
 * @returns the version of what was read back, or null
 * @throws Problem `transfer.not-verified` where what was read back is not what was wanted
 */
export async function noteRestored(
	studio: Studio,
	{ transfer, device, profile, world, order }: Restored,
	transaction: Transaction
): Promise<string | null> {
	const messages = order.readBack.map(fromHex);
	const read = new Map(
		(profile ? decodeDump(profile, messages).slots : []).map((slot) => [
			slotKey(slot.area, slot.index),
			hashOf(slot.bytes)
		])
	);
	const results = order.outcome.slots ?? [];
	if (order.status === 'verified') await assertVerified(studio, transfer, world, profile, read, transaction);
	const equal = (transfer.wanted ?? []).every(({ area, index, record }) => {
		const back = read.get(slotKey(area, index));
		return back === undefined || back === record;
	});

	let versionId = transfer.versionId;
	if (messages.length > 0 && !versionId)
		({ id: versionId } = await keepVersionIn(
			studio,
			{
				device,
				profile,
				messages,
				kind: 'after restore',
				world,
				proof:
					equal && (order.status === 'verified' || order.status === 'sent')
						? 'read back'
						: profile
							? proofOf(profile)
							: 'none',
				firmware: order.firmware,
				label: { title: transfer.title }
			},
			transaction
		));

	const knowledge = await readKnowledge(studio, device.id, world, transaction);
	const open = [...knowledge.slots.values()].filter(({ unread }) =>
		unread.some(({ by }) => by === transfer.id)
	);
	const touched =
		order.touched === null ? null : new Set(order.touched.map(({ area, index }) => slotKey(area, index)));
	const sent = new Set(
		results.filter(({ result }) => result === 'sent').map(({ area, index }) => slotKey(area, index))
	);
	if (!profile && results.some(({ result }) => result === 'sent'))
		sent.add(slotKey(RAW_SLOT.area, RAW_SLOT.index));
	const isTouched = ({ area, index }: SlotRef) => touched === null || touched.has(slotKey(area, index));
	const untouched =
		order.status === 'refused' && touched === null ? open : open.filter((slot) => !isTouched(slot));
	const whole = order.status === 'sent' || order.status === 'verified' || order.status === 'differs';
	const sentSlots = open.filter(
		(slot) => isTouched(slot) && sent.has(slotKey(slot.area, slot.index)) && whole
	);
	const writing = { at: studio.now().toISOString(), by: transfer.id };
	const told = wrote(spared(knowledge, transfer.id, untouched), {
		...writing,
		kind: 'sent',
		slots: sentSlots
	});
	// Where a panel was moved meanwhile, a dump may have gone to a slot that nobody meant, and nobody copied first.
	const strays = (order.touched ?? []).filter(
		({ area, index }) =>
			namesNoSlot(profile?.areas.find(({ id }) => id === area)) &&
			!open.some((slot) => slot.area === area && slot.index === index) &&
			!read.has(slotKey(area, index))
	);
	await writeKnowledge(
		studio,
		device.id,
		world,
		wrote(told, { ...writing, kind: 'unknown', slots: strays }),
		transaction
	);
	if (transfer.bankId && transfer.wanted && (order.status === 'verified' || order.status === 'sent'))
		await noteBankSent(studio, transfer.bankId, transfer.wanted, world, transaction);
	return versionId;
}

/** Whether dumps of an area say not where they belong: they go to what the panel shows, or what a command names. */
const namesNoSlot = (area: ProfileArea | undefined): boolean => (area?.panel ?? area?.called) !== undefined;

/** What is called verified was read: after writing, or before it where nothing had to be written. */
async function assertVerified(
	studio: Studio,
	transfer: Transfer,
	world: LiveWorld,
	profile: Profile | null,
	read: ReadonlyMap<string, string>,
	transaction: Transaction
): Promise<void> {
	if (!profile || (read.size === 0 && !transfer.wanted))
		throw new Problem(
			'transfer.not-verified',
			'Nothing was read back, so this restore is not verified.',
			'It ends as sent: check by eye.'
		);
	const knowledge = await readKnowledge(studio, transfer.deviceId, world, transaction);
	const wrong = (transfer.wanted ?? []).filter(({ area, index, record }) => {
		const key = slotKey(area, index);
		if (read.has(key)) return read.get(key) !== record;
		const seen = knowledge.slots.get(key)?.seen;
		return !(seen && seen.versionId === transfer.safetyVersionId && seen.record === record);
	});
	if (wrong.length > 0)
		throw new Problem(
			'transfer.not-verified',
			`${wrong.length} slots were not read back as they were wanted, so this restore is not verified.`,
			'Read the device again: a backup shows what it holds.'
		);
}
