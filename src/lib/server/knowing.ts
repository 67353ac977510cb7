import type { Transaction } from 'sequelize';
import {
	learn,
	standingOf,
	suspicionOf,
	suspicionSays,
	touched,
	wrote,
	type Knowledge,
	type LiveWorld,
	type Proof,
	type Reading,
	type SlotRef,
	type World,
	type Writing
} from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import { areaOf, makeSlot, slotKey, type Profile, type Slot } from '../core/profile';
import { slotsInScope } from '../core/transfer';
import type { Studio } from './db/connection';
import { hashOf } from './hash';
import { localDay } from './local-time';
import { getRecords } from './store/records';
import { beginRuns, endRuns, type SeenSlot } from './store/runs';
import { readKnowledge, readKnown, updateKnowledge, writeKnowledge } from './store/knowledge';

/** The one slot that stands for the whole memory of a device without a profile. */
export const RAW_SLOT: SlotRef = { area: '', index: 0 };

/** The content of raw messages, as that of the one slot. */
export const rawRecord = (hashes: readonly string[]): string => hashOf(Buffer.from(hashes.join(' ')));

/** The slots that a device can send: of these its standing is told. */
export function readableSlots(profile: Profile | null): readonly SlotRef[] {
	if (!profile) return RAW_SLOTS;
	let slots = readable.get(profile);
	if (!slots) {
		slots = [...slotsInScope(profile, { kind: 'all' })]
			.filter(([area]) => profile.capture.some((way) => way.area === area))
			.flatMap(([area, indexes]) => indexes.map((index) => ({ area, index })));
		readable.set(profile, slots);
	}
	return slots;
}

const RAW_SLOTS: readonly SlotRef[] = [RAW_SLOT];
/** Listed once for each profile. */
const readable = new WeakMap<Profile, readonly SlotRef[]>();

/** A reading to be taken in. */
export interface NewReading {
	deviceId: string;
	versionId: string;
	world: LiveWorld;
	/** Null where no profile reads its messages: then no slots were seen. */
	profileId: string | null;
	proof: Proof;
	seen: readonly SeenSlot[];
	/** For raw messages: their content as one, and when it was read. */
	raw?: { record: string; at: string };
}

/** What is learnt from it. */
export const asReading = ({
	versionId,
	proof,
	seen,
	raw
}: Pick<NewReading, 'versionId' | 'proof' | 'seen' | 'raw'>): Reading => ({
	versionId,
	proof,
	slots: raw
		? [{ ...RAW_SLOT, ...raw }]
		: seen.map(({ slot: { area, index }, record, at }) => ({ area, index, record, at }))
});

/**
 * Takes in what a version read: knowledge, and the stays of contents in slots. What was read before something newer
 * is known is noted as seen at its time and changes nothing of the present.
 */
export async function takeIn(
	studio: Studio,
	reading: NewReading,
	transaction: Transaction,
	known?: Awaited<ReturnType<typeof readKnown>>
): Promise<void> {
	const { deviceId, versionId, world, profileId, seen } = reading;
	const { knowledge, stays } = known ?? (await readKnown(studio, deviceId, world, transaction));
	const isNew = ({ slot, at }: SeenSlot) => {
		const known = knowledge.slots.get(slotKey(slot.area, slot.index))?.seen;
		return !known || known.at <= at;
	};
	const newer = seen.filter(isNew);
	const fresh = newer.filter(
		({ slot, record }) => stays.get(slotKey(slot.area, slot.index))?.record !== record
	);
	const past = seen.filter((entry) => {
		if (isNew(entry)) return false;
		const stay = stays.get(slotKey(entry.slot.area, entry.slot.index));
		return !(stay && stay.record === entry.record && stay.fromAt <= entry.at);
	});
	await endRuns(
		studio,
		fresh.flatMap(({ slot, at }) => {
			const stay = stays.get(slotKey(slot.area, slot.index));
			return stay ? [{ id: stay.id, at }] : [];
		}),
		transaction
	);
	if (profileId !== null) {
		const of = { deviceId, versionId, world, profileId };
		await beginRuns(studio, { ...of, moment: false }, fresh, transaction);
		await beginRuns(studio, { ...of, moment: true }, past, transaction);
	}
	await writeKnowledge(studio, deviceId, world, learn(knowledge, asReading(reading)), transaction);
}

/** Notes that a transfer writes to slots, before it is known what becomes of them. */
export const noteWriting = (
	studio: Studio,
	deviceId: string,
	world: LiveWorld,
	writing: Writing,
	transaction: Transaction
): Promise<void> =>
	updateKnowledge(studio, deviceId, world, (knowledge) => wrote(knowledge, writing), transaction);

/** Notes that somebody changed a device's sounds by hand. */
export const noteTouched = (
	studio: Studio,
	deviceId: string,
	world: LiveWorld,
	transaction: Transaction
): Promise<void> =>
	updateKnowledge(
		studio,
		deviceId,
		world,
		(knowledge) => touched(knowledge, studio.now().toISOString()),
		transaction
	);

/** The question that a backup raises before it counts as the device's state, or null. */
export function questionOf(profile: Profile, knowledge: Knowledge, seen: readonly SeenSlot[]): string | null {
	const suspicion = suspicionOf(
		seen.map(({ slot: { area, index, bytes }, record }) => ({
			area,
			index,
			now: record,
			before: knowledge.slots.get(slotKey(area, index))?.seen?.record ?? null,
			blank: bytes.every((byte) => byte === bytes[0])
		}))
	);
	if (!suspicion) return null;
	const { proved } = standingOf(knowledge, readableSlots(profile));
	return suspicionSays(suspicion, proved.length > 0 ? localDay(proved.at(-1)!.at) : null);
}

/** What a device was last seen to hold in one world: the content of every slot that nothing was written to since. */
export const lastSeenSlots = async (
	studio: Studio,
	profile: Profile,
	device: Device,
	world: LiveWorld
): Promise<SeenAt[]> => slotsSeen(studio, profile, await readKnowledge(studio, device.id, world));

/** As `lastSeenSlots`, without those that somebody may have changed at the panel since: what they hold is not known. */
export const unchangedSlots = (studio: Studio, profile: Profile, knowledge: Knowledge): Promise<SeenAt[]> =>
	slotsSeen(studio, profile, knowledge, knowledge.touchedAt);

/** A slot as it was last seen, and when. */
type SeenAt = { slot: Slot; at: string };

async function slotsSeen(
	studio: Studio,
	profile: Profile,
	knowledge: Knowledge,
	after: string | null = null
): Promise<SeenAt[]> {
	const wanted = [...knowledge.slots.values()].filter(
		({ area, index, seen, unread }) =>
			seen &&
			unread.length === 0 &&
			(after === null || seen.at > after) &&
			profile.areas.some(({ id, slots }) => id === area && index < slots)
	);
	const records = await getRecords(
		studio,
		wanted.map(({ seen }) => seen!.record)
	);
	return wanted.flatMap(({ area, index, seen }) => {
		const bytes = records.get(seen!.record);
		return bytes?.length === profile.records[areaOf(profile, area).record].size
			? [{ slot: makeSlot(profile, area, index, bytes), at: seen!.at }]
			: [];
	});
}

/** Whether it is a world in which a device is read. */
export const isLive = (world: World): world is LiveWorld => world === 'bench' || world === 'hardware';

/** The live world of a version or transfer. @throws Problem `world.unrecorded` where that was never noted */
export function liveWorld(world: World): LiveWorld {
	if (isLive(world)) return world;
	throw new Problem(
		'world.unrecorded',
		'This was not noted as taken from the bench or from a real device.',
		'Begin anew: then the app knows which.'
	);
}
