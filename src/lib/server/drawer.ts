import {
	byteLines,
	compareSlots,
	spansOf,
	versionLabelSchema,
	type ByteLine,
	type Comparison,
	type LiveWorld,
	type Proof,
	type Version,
	type VersionKind,
	type VersionLabel,
	type World
} from '../core/drawer';
import type { Transaction } from 'sequelize';
import type { Device } from '../core/gear';
import { sameBytes } from '../core/midi';
import { decoding, slotKey, type Dump, type Profile, type Slot } from '../core/profile';
import { Problem } from '../core/problem';
import type { Studio } from './db/connection';
import { hashOf } from './hash';
import { inSteps } from './in-steps';
import { localDay } from './local-time';
import { isLive, liveWorld, questionOf, rawRecord, takeIn, type NewReading } from './knowing';
import { newId } from './new-id';
import { keepRevision, profileRevision } from './profiles';
import { updateDeviceRow } from './store/devices';
import { readKnown } from './store/knowledge';
import { getObjects, putObjects, similarObjects, type StoredObject } from './store/objects';
import { keepRecords } from './store/records';
import { beginRuns, currentRuns, dropMoments, type SeenSlot } from './store/runs';
import { isAsSealed, sealVersion } from './store/seals';
import {
	insertVersion,
	messagesOfVersion,
	updateVersion,
	versionRow,
	versionsOfDevice,
	type VersionRow
} from './store/versions';

export interface NewVersion {
	/** Given only where a version comes from another studio. */
	id?: string;
	device: Device;
	/** Null for messages that no profile reads. */
	profile: Profile | null;
	messages: readonly Uint8Array[];
	kind: VersionKind;
	/** Where it comes from; what is known of a device is told by those of `bench` and `hardware` alone. */
	world: World;
	proof: Proof;
	/** Slots that are missing from what was asked for. */
	missing?: number;
	firmware?: string | null;
	/** When it was read; now, if left out. */
	takenAt?: string;
	/** When each message was read, where that was not at one time. */
	readAt?: readonly string[];
	label?: Partial<VersionLabel>;
	/** The messages as they are stored already, where they were read in this very transaction. */
	stored?: readonly StoredObject[];
	/** The messages as the profile decodes them, where that was done already. */
	dump?: Dump;
	/** Asks first whether this is what the device is meant to hold, where it looks wiped or like another one. */
	questioned?: boolean;
	/** The question that another studio asked of it and that nobody answered yet. */
	question?: string | null;
}

const notFound = (id: string) =>
	new Problem(
		'version.not-found',
		`There is no version “${id}”.`,
		'Open the device’s drawer to see what is kept in it.'
	);

/** Stores a version: whole, or not at all. */
export async function keepVersion(studio: Studio, version: NewVersion): Promise<Version> {
	return studio.write((transaction) => keepVersionIn(studio, version, transaction));
}

/**
 * The slots of messages, each with when the message that holds it was read, the last one counting; of one that came in several
 * messages, when the first of them was.
 */
function seenSlots(dump: Dump, readAt: (position: number) => string): SeenSlot[] {
	const at = new Map<string, string>();
	const sizes = new Map(dump.slots.map((slot) => [slotKey(slot.area, slot.index), slot.bytes.length]));
	dump.messages.forEach((message, position) => {
		if (!message.read) return;
		for (const { area, slot, bytes } of message.match.pieces) {
			const key = slotKey(area, slot);
			const [before, now] = [at.get(key), readAt(position)];
			const isWhole = bytes.length === sizes.get(key);
			at.set(key, isWhole || before === undefined || now < before ? now : before);
		}
	});
	return dump.slots.map((slot) => ({
		slot,
		record: hashOf(slot.bytes),
		at: at.get(slotKey(slot.area, slot.index))!
	}));
}

/** Stores messages of a device, each over the one that it is like. */
async function putMessages(
	studio: Studio,
	deviceId: string,
	messages: readonly Uint8Array[],
	transaction: Transaction
): Promise<StoredObject[]> {
	const similar = await similarObjects(studio, deviceId, transaction);
	return putObjects(
		studio,
		messages.map((bytes, i) => ({ bytes, like: similar(i, bytes.length) })),
		transaction
	);
}

/** A time as every other is written, so that they can be compared as texts. */
const asTime = (at: string) => new Date(at).toISOString();

/** As `keepVersion`, inside a transaction that stores more than that. */
export async function keepVersionIn(
	studio: Studio,
	version: NewVersion,
	transaction: Transaction
): Promise<Version> {
	const { device, profile, messages, world, proof } = version;
	if (messages.length === 0)
		throw new Problem('version.empty', 'There is no message to keep.', 'Capture again.');
	const revision = profile ? await keepRevision(studio, profile, transaction) : null;
	const [stored, known] = await Promise.all([
		version.stored ?? putMessages(studio, device.id, messages, transaction),
		isLive(world) ? readKnown(studio, device.id, world, transaction) : undefined
	]);
	const hashes = stored.map(({ hash }) => hash);
	const readAt = version.readAt?.map(asTime);
	const times = readAt?.toSorted();
	const takenAt = times?.at(-1) ?? asTime(version.takenAt ?? studio.now().toISOString());
	const since = times && times[0] !== takenAt ? times[0] : null;
	const id = version.id ?? newId();
	const seen = profile
		? seenSlots(version.dump ?? (await inSteps(decoding(profile, messages))), (i) => readAt?.[i] ?? takenAt)
		: [];
	const stays = known?.stays ?? (await currentRuns(studio, device.id, studio.world, transaction));
	const differing = seen.filter(
		({ slot, record }) => stays.get(slotKey(slot.area, slot.index))?.record !== record
	);
	const missing = version.missing ?? 0;
	const row: VersionRow = {
		...versionLabelSchema.parse(version.label ?? {}),
		id,
		deviceId: device.id,
		profileId: profile?.id ?? null,
		profileRevision: revision,
		kind: version.kind,
		firmware: version.firmware ?? null,
		takenAt,
		since,
		world,
		proof,
		coverage: spansOf(seen.map(({ slot }) => slot)),
		question:
			version.question ??
			(version.questioned && profile && known ? questionOf(profile, known.knowledge, seen) : null),
		verified: proof !== 'none' && missing === 0,
		missing,
		bytes: messages.reduce((sum, { length }) => sum + length, 0),
		slots: seen.length,
		changed: profile ? differing.length : messages.length
	};
	await insertVersion(
		studio,
		row,
		stored.map(({ id: object }, i) => ({
			object,
			readAt: readAt && readAt[i] !== takenAt ? readAt[i] : null
		})),
		transaction
	);
	await sealVersion(studio, id, transaction);
	if (profile)
		await keepRecords(
			studio,
			profile.id,
			differing.map(({ slot, record }) => ({
				slot,
				record,
				like: stays.get(slotKey(slot.area, slot.index))?.sound
			})),
			transaction
		);
	if (isLive(world) && row.question === null)
		await takeIn(studio, readingOf({ ...row, world }, seen, hashes), transaction, known);
	else if (profile)
		await beginRuns(
			studio,
			{ deviceId: device.id, versionId: id, world, profileId: profile.id, moment: true },
			differing,
			transaction
		);
	if (isLive(world) && version.firmware)
		await updateDeviceRow(studio, device.id, { firmware: version.firmware }, transaction);
	return { ...row, messages: hashes };
}

/** What a version of a live world read. */
export const readingOf = (
	{
		id,
		deviceId,
		world,
		proof,
		profileId,
		takenAt
	}: Omit<Version, 'messages' | 'world'> & { world: LiveWorld },
	seen: readonly SeenSlot[],
	hashes: readonly string[]
): NewReading => ({
	deviceId,
	versionId: id,
	world,
	profileId,
	proof,
	seen,
	raw: profileId === null ? { record: rawRecord(hashes), at: takenAt } : undefined
});

/**
 * Answers the question that a backup raised: yes, this is what the device holds and is meant to hold.
 * @throws Problem `version.no-question`
 */
export async function acceptVersion(studio: Studio, id: string): Promise<Version> {
	const opened = await openVersion(studio, id);
	await studio.write(async (transaction) => {
		const row = await versionRow(studio, id, transaction);
		if (!row?.question)
			throw new Problem(
				'version.no-question',
				'There is no open question about this version.',
				'Open the drawer to see how it stands.'
			);
		await updateVersion(studio, id, { question: null }, transaction);
		await dropMoments(studio, id, transaction);
		await takeIn(
			studio,
			readingOf({ ...row, world: liveWorld(row.world) }, opened.seen, opened.version.messages),
			transaction
		);
	});
	return getVersion(studio, id);
}

/** A device's versions without their messages, newest first. */
export const listVersions = versionsOfDevice;

/** @throws Problem `version.not-found` */
export async function getVersion(studio: Studio, id: string): Promise<Version> {
	const row = await versionRow(studio, id);
	if (!row) throw notFound(id);
	return { ...row, messages: (await messagesOfVersion(studio, id)).map(({ hash }) => hash) };
}

export interface OpenVersion {
	version: Version;
	profile: Profile | null;
	messages: Uint8Array[];
	slots: Slot[];
	/** The same slots, each with its content's hash and when it was read. */
	seen: SeenSlot[];
}

const notWhole = ({ id, takenAt }: Omit<Version, 'messages'>, says: string) =>
	new Problem(
		'version.not-whole',
		`The version of ${localDay(takenAt)} is not whole: ${says}.`,
		'It cannot be sent or exported as it is. Other versions are not touched; “check” names all that are damaged.',
		{ version: id }
	);

/**
 * A version with its messages, read by the profile revision that it was stored with.
 * @param as the profile to read it by instead
 * @throws Problem `version.not-whole`, `object.damaged`
 */
export async function openVersion(studio: Studio, id: string, as?: Profile): Promise<OpenVersion> {
	const row = await versionRow(studio, id);
	if (!row) throw notFound(id);
	const stored = await messagesOfVersion(studio, id);
	const gap = stored.findIndex(({ position }, i) => position !== i);
	if (stored.length === 0) throw notWhole(row, 'it has no messages');
	if (gap >= 0) throw notWhole(row, `message ${gap + 1} is missing`);
	if (!(await isAsSealed(studio, row, stored))) throw notWhole(row, 'its entry is not what was stored');
	const messages = await getObjects(
		studio,
		stored.map(({ hash }) => hash)
	);
	const bytes = messages.reduce((sum, { length }) => sum + length, 0);
	if (bytes !== row.bytes) throw notWhole(row, `it holds ${bytes} bytes instead of ${row.bytes}`);
	const profile =
		as ?? (row.profileId ? await profileRevision(studio, row.profileId, row.profileRevision!) : null);
	const seen = profile
		? seenSlots(await inSteps(decoding(profile, messages)), (i) => stored[i].readAt ?? row.takenAt)
		: [];
	return {
		version: { ...row, messages: stored.map(({ hash }) => hash) },
		profile,
		messages,
		slots: seen.map(({ slot }) => slot),
		seen
	};
}

/** Changes what is written on a version; its content never changes. */
export async function labelVersion(studio: Studio, id: string, label: VersionLabel): Promise<Version> {
	const parsed = versionLabelSchema.parse(label);
	await studio.write(async (transaction) => {
		if ((await updateVersion(studio, id, parsed, transaction)) === 0) throw notFound(id);
	});
	return getVersion(studio, id);
}

export type VersionComparison =
	| { by: 'slots'; profile: Profile; comparison: Comparison }
	| {
			by: 'bytes';
			messages: { position: number; before: number; after: number; lines: ByteLine[]; same: boolean }[];
	  };

/** Compares two versions of one device: by slots where both have a profile, by bytes otherwise. */
export async function compareVersions(
	studio: Studio,
	beforeId: string,
	afterId: string
): Promise<VersionComparison> {
	const [before, after] = [await openVersion(studio, beforeId), await openVersion(studio, afterId)];
	if (before.profile && after.profile && before.profile.id === after.profile.id)
		return {
			by: 'slots',
			profile: after.profile,
			comparison: compareSlots(after.profile, before.slots, after.slots)
		};
	const none = new Uint8Array();
	return {
		by: 'bytes',
		messages: Array.from(
			{ length: Math.max(before.messages.length, after.messages.length) },
			(_, position) => {
				const [a, b] = [before.messages[position] ?? none, after.messages[position] ?? none];
				const same = sameBytes(a, b);
				return {
					position,
					before: a.length,
					after: b.length,
					same,
					lines: same ? [] : byteLines(a, b).slice(0, 400)
				};
			}
		)
	};
}
