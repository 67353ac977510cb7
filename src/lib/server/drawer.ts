import { QueryTypes, type Transaction } from 'sequelize';
import {
	byteLines,
	compareSlots,
	foldName,
	versionLabelSchema,
	type ByteLine,
	type Comparison,
	type Version,
	type VersionKind,
	type VersionLabel
} from '../core/drawer';
import type { Device } from '../core/gear';
import { sameBytes } from '../core/midi';
import { decodeDump, type Profile, type Slot } from '../core/profile';
import { Problem } from '../core/problem';
import { slotsInScope, countSlots } from '../core/transfer';
import type { Studio } from './db/connection';
import { plain, type VersionRow } from './db/models';
import { getObjects, putObjects, similarObjects } from './db/objects';
import { hashOf } from './hash';
import { insertRows } from './insert-rows';
import { newId } from './new-id';
import { keepRevision, profileRevision } from './profiles';
import { keepRecords } from './records';

export interface NewVersion {
	/** Given only where a version comes from another studio. */
	id?: string;
	device: Device;
	/** Null for messages that no profile reads. */
	profile: Profile | null;
	messages: readonly Uint8Array[];
	kind: VersionKind;
	verified: boolean;
	missing?: number;
	firmware?: string | null;
	/** When the device held this; now, if left out. */
	takenAt?: string;
	label?: Partial<VersionLabel>;
	transferId?: string | null;
	/** Read from the device itself, so that it tells what the device holds now. */
	fromDevice: boolean;
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

/** As `keepVersion`, inside a transaction that stores more than that. */
export async function keepVersionIn(
	studio: Studio,
	version: NewVersion,
	transaction: Transaction
): Promise<Version> {
	const { device, profile, messages } = version;
	if (messages.length === 0)
		throw new Problem('version.empty', 'There is no message to keep.', 'Capture again.');
	if (profile) await keepRevision(studio, profile, transaction);
	const similar = await similarObjects(studio, device.id, transaction);
	const hashes = await putObjects(
		studio,
		messages.map((bytes, i) => ({ bytes, like: similar(i, bytes.length) })),
		transaction
	);
	const slots = profile ? decodeDump(profile, messages).slots : [];
	const takenAt = version.takenAt ?? studio.now().toISOString();
	const id = version.id ?? newId();
	const current = await currentRuns(studio, device.id, transaction);
	const fresh = slots
		.map((slot) => ({ slot, record: hashOf(slot.bytes) }))
		.filter(({ slot, record }) => current.get(`${slot.area}:${slot.index}`)?.record !== record);
	const row: VersionRow = {
		...versionLabelSchema.parse(version.label ?? {}),
		id,
		deviceId: device.id,
		profileId: profile?.id ?? null,
		profileRevision: profile?.revision ?? null,
		kind: version.kind,
		firmware: version.firmware ?? null,
		takenAt,
		verified: version.verified,
		missing: version.missing ?? 0,
		bytes: messages.reduce((sum, { length }) => sum + length, 0),
		slots: slots.length,
		changed: profile ? fresh.length : messages.length,
		transferId: version.transferId ?? null
	};
	await studio.models.versions.create(row, { transaction });
	await insertRows(
		studio,
		'version_messages (versionId, position, hash)',
		hashes.map((hash, position) => [id, position, hash]),
		transaction
	);
	if (profile) await keepRecords(studio, profile.id, fresh, transaction);
	await noteRuns(studio, device.id, id, takenAt, version.fromDevice, fresh, current, transaction);
	if (
		version.fromDevice &&
		version.missing === undefined &&
		version.verified &&
		profile &&
		slots.length === countSlots(slotsInScope(profile, { kind: 'all' }))
	)
		await studio.models.devices.update({ touchedAt: null }, { where: { id: device.id }, transaction });
	if (version.fromDevice && version.firmware)
		await studio.models.devices.update(
			{ firmware: version.firmware },
			{ where: { id: device.id }, transaction }
		);
	return { ...row, messages: hashes };
}

interface Run {
	id: number;
	area: string;
	slot: number;
	record: string;
}

async function currentRuns(
	studio: Studio,
	deviceId: string,
	transaction: Transaction
): Promise<Map<string, Run>> {
	const rows = await studio.sequelize.query<Run>(
		'SELECT id, area, slot, record FROM slot_runs WHERE deviceId = :deviceId AND current = 1',
		{
			replacements: { deviceId },
			type: QueryTypes.SELECT,
			transaction
		}
	);
	return new Map(rows.map((run) => [`${run.area}:${run.slot}`, run]));
}

/** Closes the runs of slots that changed and opens new ones; what was imported is noted as past. */
async function noteRuns(
	studio: Studio,
	deviceId: string,
	versionId: string,
	at: string,
	fromDevice: boolean,
	fresh: { slot: Slot; record: string }[],
	current: Map<string, Run>,
	transaction: Transaction
): Promise<void> {
	if (fresh.length === 0) return;
	const ended = fresh
		.map(({ slot }) => current.get(`${slot.area}:${slot.index}`)?.id)
		.filter((id) => id !== undefined);
	if (fromDevice && ended.length > 0)
		await studio.sequelize.query('UPDATE slot_runs SET toAt = :at, current = 0 WHERE id IN (:ended)', {
			replacements: { at, ended },
			transaction
		});
	await insertRows(
		studio,
		'slot_runs (deviceId, area, slot, label, name, folded, record, fromVersion, fromAt, toAt, current)',
		fresh.map(({ slot, record }) => [
			deviceId,
			slot.area,
			slot.index,
			slot.label,
			slot.name,
			foldName(slot.name ?? ''),
			record,
			versionId,
			at,
			fromDevice ? null : at,
			fromDevice ? 1 : 0
		]),
		transaction
	);
}

async function messageHashes(studio: Studio, versionId: string): Promise<string[]> {
	const rows = await studio.sequelize.query<{ hash: string }>(
		'SELECT hash FROM version_messages WHERE versionId = :versionId ORDER BY position',
		{
			replacements: { versionId },
			type: QueryTypes.SELECT
		}
	);
	return rows.map(({ hash }) => hash);
}

type RawVersion = Omit<Version, 'messages' | 'verified' | 'pinned' | 'tags'> & {
	verified: number;
	pinned: number;
	tags: string;
};

/** A device's versions without their messages, newest first. Plain rows: a drawer may hold thousands. */
export async function listVersions(studio: Studio, deviceId: string): Promise<Omit<Version, 'messages'>[]> {
	const rows = await studio.sequelize.query<RawVersion>(
		`SELECT id, deviceId, profileId, profileRevision, kind, firmware, takenAt, verified, missing, bytes, slots, changed, title, note, tags, pinned
		 FROM versions WHERE deviceId = :deviceId ORDER BY takenAt DESC, seq DESC`,
		{ replacements: { deviceId }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({
		...row,
		verified: row.verified === 1,
		pinned: row.pinned === 1,
		tags: row.tags === '[]' ? [] : (JSON.parse(row.tags) as string[])
	}));
}

/** @throws Problem `version.not-found` */
export async function getVersion(studio: Studio, id: string): Promise<Version> {
	const row = await studio.models.versions.findOne({ where: { id } });
	if (!row) throw notFound(id);
	return { ...plain(row), messages: await messageHashes(studio, id) };
}

export interface OpenVersion {
	version: Version;
	profile: Profile | null;
	messages: Uint8Array[];
	slots: Slot[];
}

/** A version with its messages, read by the profile revision that it was stored with. */
export async function openVersion(studio: Studio, id: string): Promise<OpenVersion> {
	const version = await getVersion(studio, id);
	const messages = await getObjects(studio, version.messages);
	const profile = version.profileId
		? await profileRevision(studio, version.profileId, version.profileRevision!)
		: null;
	return { version, profile, messages, slots: profile ? decodeDump(profile, messages).slots : [] };
}

/** Changes what is written on a version; its content never changes. */
export async function labelVersion(studio: Studio, id: string, label: VersionLabel): Promise<Version> {
	const parsed = versionLabelSchema.parse(label);
	await studio.write(async (transaction) => {
		const row = await studio.models.versions.findOne({ where: { id }, transaction });
		if (!row) throw notFound(id);
		await row.update(parsed, { transaction });
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
