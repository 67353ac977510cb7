import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import {
	beginSchema,
	proofOf,
	finishSchema,
	seenOf,
	traceSchema,
	type AppendOrder,
	type LiveWorld,
	type SafetyOrder,
	type SlotRef,
	type Transfer
} from '../core/drawer';
import type { Device } from '../core/gear';
import { fromHex, toHex } from '../core/midi';
import { Problem } from '../core/problem';
import { decoding, isMatch, matchAny, type Profile } from '../core/profile';
import { notThere, type Reason } from '../core/transfer';
import type { Studio } from './db/connection';
import { keepVersionIn, openVersion } from './drawer';
import { noteHeard } from './contact';
import { noteTemplatesSent } from './controllers';
import { getDevice } from './gear';
import { keepCaptured } from './captured';
import { inSteps } from './in-steps';
import { noteRestored } from './restored';
import { RAW_SLOT, liveWorld, noteWriting } from './knowing';
import { newId } from './new-id';
import { currentProfile } from './profiles';
import { noteSnapshotItem } from './snapshots';
import { getObjects, putObjects, similarObjects } from './store/objects';
import { readKnowledge } from './store/knowledge';
import { getRecords } from './store/records';
import { addTrace, packTrace } from './store/traces';
import {
	insertReceived,
	insertTransfer,
	receivedRows,
	recentTransfers,
	runningOf,
	transferRow,
	updateTransfer,
	type CountedTransfer
} from './store/transfers';
import { keepWanted, slotsOfSource, wantedScope } from './wanted';

const notFound = (id: string) =>
	new Problem('transfer.not-found', `There is no transfer “${id}”.`, 'Look at the list of transfers.');

/** A transfer whose page was not heard of for so long was left alone. */
const LIVE_MS = 15_000;
export const hear = (studio: Studio, id: string): void => void studio.heardAt.set(id, studio.clock());
export const unhear = (studio: Studio, id: string): boolean => studio.heardAt.delete(id);

export const settle = <T extends Transfer>(studio: Studio, row: T): T =>
	row.status === 'running' && studio.clock() - (studio.heardAt.get(row.id) ?? -Infinity) > LIVE_MS
		? { ...row, status: 'unfinished' }
		: row;

/** Whether a transfer has ended, so that nothing can be added to it any more. One that broke off has not. */
const isOver = ({ endedAt, status }: Transfer): boolean =>
	endedAt !== null && status !== 'running' && status !== 'unfinished';

const over = ({ direction }: Transfer) =>
	new Problem('transfer.ended', `This ${direction} has ended; what came of it stands.`, 'Begin a new one.');

/**
 * A device is spoken with by one transfer at a time, whichever tab or program began it.
 * @throws Problem `transfer.taken`
 */
export async function mustBeFree(
	studio: Studio,
	device: Device,
	world: LiveWorld,
	transaction: Transaction
): Promise<void> {
	const other = (await runningOf(studio, device.id, transaction))
		.map((row) => settle(studio, row))
		.find((row) => row.status === 'running' && liveWorld(row.world) === world);
	if (other)
		throw new Problem(
			'transfer.taken',
			`A ${other.direction} of ${device.name} is under way since ${other.startedAt}.`,
			'Wait for its end, or stop it in the tray. If its page is gone, try again in a quarter of a minute.'
		);
}

/** The profile that a device is asked with; null for one that is kept raw. */
export const profileOf = (studio: Studio, device: Device): Profile | null =>
	device.profileId ? currentProfile(studio, device.profileId) : null;

/** @throws Problem `transfer.no-slot` where the device has no such area or slot, and whatever the source lacks */
export async function beginTransfer(studio: Studio, given: z.input<typeof beginSchema>): Promise<Transfer> {
	const order = beginSchema.parse(given);
	const device = await getDevice(studio, order.deviceId);
	const profile = profileOf(studio, device);
	const absent = profile ? notThere(profile, order.scope) : null;
	if (absent !== null)
		throw new Problem(
			'transfer.no-slot',
			`A ${profile!.model} has no “${absent}”.`,
			'Choose an area and slots that it has.'
		);
	const { source, ...facts } = order;
	const from =
		source ??
		(order.sourceVersionId
			? { from: 'version' as const, versionId: order.sourceVersionId, scope: order.scope }
			: null);
	const restoring = order.direction === 'restore';
	const written =
		restoring && profile && from ? await slotsOfSource(studio, device, profile, from, order.world) : null;
	const slots = written?.slots ?? [];
	const transfer = await studio.write(async (transaction) => {
		await mustBeFree(studio, device, order.world, transaction);
		const wanted =
			profile && written && slots.length > 0 ? await keepWanted(studio, profile, written, transaction) : null;
		const row = await insertTransfer(
			studio,
			{
				...facts,
				scope: wanted ? wantedScope(wanted) : order.scope,
				wanted,
				id: newId(),
				status: 'running',
				reason: null,
				outcome: null,
				startedAt: studio.now().toISOString(),
				endedAt: null,
				versionId: null,
				safetyVersionId: null,
				distrusted: false,
				resumed: false,
				bankId: from?.from === 'bank' ? from.bankId : null
			},
			transaction
		);
		// What cannot be read is overwritten without a safety copy: from here on nobody knows what it holds.
		const blind = !restoring
			? []
			: !profile
				? [RAW_SLOT]
				: slots.filter(({ area }) => !profile.capture.some((way) => way.area === area));
		if (blind.length > 0)
			await noteWriting(
				studio,
				device.id,
				order.world,
				{ kind: 'unknown', at: row.startedAt, by: row.id, slots: blind },
				transaction
			);
		// Before anybody else asks whether it runs.
		hear(studio, row.id);
		return row;
	});
	return transfer;
}

/** What a restore shall bring to its device, slot by slot; for a raw device, message by message. */
export async function wantedOf(
	studio: Studio,
	id: string
): Promise<{
	/** `over`: what the slot was thought to hold, where that was kept. */
	slots: { area: string; index: number; hex: string; over?: string; rewrite?: true }[];
	messages: string[];
}> {
	const transfer = await getTransfer(studio, id);
	if (transfer.wanted) {
		const records = await getRecords(
			studio,
			transfer.wanted.flatMap(({ record, over }) => (over === undefined ? [record] : [record, over]))
		);
		const hexOf = (record: string) => {
			const bytes = records.get(record);
			if (!bytes)
				throw new Problem(
					'restore.no-sound',
					'A sound that this restore wants is no longer kept.',
					'Begin the restore again from its source.'
				);
			return toHex(bytes);
		};
		return {
			messages: [],
			slots: transfer.wanted.map(({ area, index, record, over, rewrite }) => ({
				area,
				index,
				hex: hexOf(record),
				...(over === undefined ? {} : { over: hexOf(over) }),
				...(rewrite ? { rewrite } : {})
			}))
		};
	}
	if (!transfer.sourceVersionId) return { slots: [], messages: [] };
	const { messages } = await openVersion(studio, transfer.sourceVersionId);
	return { slots: [], messages: messages.map((bytes) => toHex(bytes)) };
}

/** @throws Problem `transfer.not-found` */
export async function getTransfer(studio: Studio, id: string): Promise<Transfer> {
	const row = await transferRow(studio, id);
	if (!row) throw notFound(id);
	return settle(studio, row);
}

/** Transfers, newest first. */
export async function listTransfers(
	studio: Studio,
	options: { deviceId?: string; limit?: number } = {}
): Promise<CountedTransfer[]> {
	const rows = await recentTransfers(studio, { limit: 100, ...options });
	return rows.map((row) => settle(studio, row));
}

/**
 * Stores received messages, durably, before it answers. Sending the same messages again is harmless.
 * @throws Problem `transfer.conflict` where another message stands at that position
 */
export async function appendMessages(
	studio: Studio,
	id: string,
	order: Omit<AppendOrder, 'distrusted'> & { distrusted?: boolean }
): Promise<number> {
	hear(studio, id);
	return studio.write(async (transaction) => {
		const transfer = await transferRow(studio, id, transaction);
		if (!transfer) throw notFound(id);
		const known = new Map(
			(await receivedRows(studio, id, transaction)).map(({ position, hash }) => [position, hash])
		);
		if (order.position > known.size)
			throw new Problem(
				'transfer.gap',
				`Message ${order.position} came before message ${known.size}.`,
				'Send the messages in order.'
			);
		const similar = await similarObjects(studio, transfer.deviceId, transaction);
		const receivedAt = studio.now().toISOString();
		const contents = order.messages.map((hex, i) => {
			const bytes = fromHex(hex);
			return { bytes, like: similar(order.position + i, bytes.length) };
		});
		const stored = await putObjects(studio, contents, transaction);
		const fresh = stored
			.map(({ id: object, hash }, i) => ({ object, hash, position: order.position + i, receivedAt }))
			.filter(({ hash, position }) => {
				if (known.has(position) && known.get(position) !== hash)
					throw new Problem(
						'transfer.conflict',
						`Another message stands at place ${position} of this transfer.`,
						'Resume the transfer: it goes on from what is stored.'
					);
				return !known.has(position);
			});
		// Told again it is harmless; anything new is none of it.
		if (fresh.length > 0 && isOver(transfer)) throw over(transfer);
		await insertReceived(studio, id, fresh, transaction);
		if (order.distrusted && !transfer.distrusted)
			await updateTransfer(studio, id, { distrusted: true }, transaction);
		return Math.max(known.size, order.position + order.messages.length);
	});
}

/** Adds a part to a transfer's log; an empty part only says that the transfer is alive. */
export async function appendTrace(
	studio: Studio,
	id: string,
	order: z.input<typeof traceSchema>
): Promise<void> {
	const { part, lines, distrusted } = traceSchema.parse(order);
	const transfer = await getTransfer(studio, id);
	if (isOver(transfer)) throw over(transfer);
	hear(studio, id);
	if (lines.length === 0 && !distrusted) return;
	await studio.write(async (transaction) => {
		if (lines.length > 0) await addTrace(studio, id, part, lines, transaction);
		if (distrusted) await updateTransfer(studio, id, { distrusted: true }, transaction);
	});
}

/** The messages received so far, in order. */
export async function receivedMessages(studio: Studio, id: string): Promise<Uint8Array[]> {
	const rows = await receivedRows(studio, id);
	return getObjects(
		studio,
		rows.map(({ hash }) => hash)
	);
}

/**
 * Stores the safety copy of a restore, once. From here on nobody knows what its slots hold, until the restore says
 * what it wrote and reads it back.
 */
export async function keepSafetyCopy(studio: Studio, id: string, order: SafetyOrder): Promise<string> {
	hear(studio, id);
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(studio, device);
	const world = liveWorld(transfer.world);
	return studio.write(async (transaction) => {
		const now = await transferRow(studio, id, transaction);
		// An answer that got lost: the copy is stored already.
		if (now?.safetyVersionId) return now.safetyVersionId;
		if (isOver(transfer)) throw over(transfer);
		const messages = order.messages.map(fromHex);
		const strange = profile && messages.findIndex((bytes) => !isMatch(matchAny(profile, bytes)));
		if (strange !== null && strange >= 0)
			throw new Problem(
				'transfer.safety-unreadable',
				`Message ${strange + 1} of this safety copy is none of a ${profile!.model}: nothing could be brought back from it.`,
				'Read the device again before it is written.'
			);
		const version = await keepVersionIn(
			studio,
			{
				device,
				profile,
				messages,
				kind: 'safety',
				world,
				proof: profile ? proofOf(profile) : 'none',
				firmware: order.firmware,
				label: { title: 'Before a restore' }
			},
			transaction
		);
		await updateTransfer(studio, id, { safetyVersionId: version.id }, transaction);
		const slots: SlotRef[] = profile ? (await inSteps(decoding(profile, messages))).slots : [RAW_SLOT];
		await noteWriting(
			studio,
			device.id,
			world,
			{ kind: 'unknown', at: studio.now().toISOString(), by: id, slots },
			transaction
		);
		if (profile?.surface) {
			const before = await readKnowledge(studio, device.id, world, transaction);
			const touched = (now?.wanted ?? slots).filter(
				(slot) => !('record' in slot) || seenOf(before, slot)?.record !== slot.record
			);
			await noteTemplatesSent(studio, { deviceId: device.id, profile, world, before, touched }, transaction);
		}
		return version.id;
	});
}

/** How each kind of transfer can end. */
const ENDS: Record<Transfer['direction'], Transfer['status'][]> = {
	capture: ['complete', 'incomplete', 'refused'],
	restore: ['verified', 'differs', 'sent', 'incomplete', 'refused']
};

/**
 * Ends a transfer and stores what it proved: a version for a complete capture, one for what was read back. Told again,
 * it changes nothing.
 * @throws Problem `transfer.status`, `transfer.not-whole`, `transfer.not-verified` where what is stored does not bear out what is said
 */
export async function finishTransfer(
	studio: Studio,
	id: string,
	given: z.input<typeof finishSchema>
): Promise<Transfer> {
	const order = finishSchema.parse(given);
	const transfer = await getTransfer(studio, id);
	const device = await getDevice(studio, transfer.deviceId);
	const profile = profileOf(studio, device);
	const world = liveWorld(transfer.world);
	if (!ENDS[transfer.direction].includes(order.status))
		throw new Problem(
			'transfer.status',
			`A ${transfer.direction} does not end as “${order.status}”.`,
			`It ends as ${ENDS[transfer.direction].join(', ')}.`
		);
	await studio.write(async (transaction) => {
		const now = await transferRow(studio, id, transaction);
		if (!now || isOver(now)) return;
		let versionId = now.versionId;
		if (now.direction === 'capture' && order.status === 'complete' && !versionId)
			versionId = await keepCaptured(studio, { transfer: now, device, profile, world, order }, transaction);
		if (now.direction === 'restore') {
			// Only a controller's memory is asked for twice.
			const before = profile?.surface ? await readKnowledge(studio, device.id, world, transaction) : null;
			versionId = await noteRestored(studio, { transfer: now, device, profile, world, order }, transaction);
			const touched = order.touched ?? now.wanted ?? [];
			if (profile && before)
				await noteTemplatesSent(
					studio,
					{ deviceId: device.id, profile, world, before, touched },
					transaction
				);
		}
		await updateTransfer(
			studio,
			id,
			{
				status: order.status,
				reason: order.reason as Reason | null,
				outcome: order.outcome,
				endedAt: studio.now().toISOString(),
				versionId
			},
			transaction
		);
		await packTrace(studio, id, transaction);
		await noteHeard(studio, { transfer: now, device, profile, world, order }, transaction);
		if (now.snapshotId && now.direction === 'capture')
			await noteSnapshotItem(
				studio,
				now.snapshotId,
				now.deviceId,
				{
					versionId,
					says: versionId ? '' : (order.reason?.says ?? 'It broke off.'),
					tookMs: studio.now().getTime() - Date.parse(now.startedAt)
				},
				transaction
			);
	});
	unhear(studio, id);
	return getTransfer(studio, id);
}
