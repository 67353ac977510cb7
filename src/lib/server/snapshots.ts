import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import {
	changedSettings,
	changedSlots,
	settingsSchema,
	type Setting,
	type SettingChange,
	type SlotState
} from '../core/drawer';
import type { Device } from '../core/gear';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { hostWays, type WayEnd } from '../core/rig';
import type { Past } from '../core/transfer';
import type { Studio } from './db/connection';
import { compareVersions } from './drawer';
import { getDevice, listDevices } from './gear';
import { newId } from './new-id';
import { profileOrNull } from './profiles';
import { readStudioRig } from './rig';

export interface Snapshot {
	id: string;
	title: string;
	note: string;
	takenAt: string;
	status: 'running' | 'ended';
	predictedMs: number;
	tookMs: number | null;
}

export type SnapshotStatus = 'waiting' | 'kept' | 'failed' | 'last known' | 'left out';

export interface SnapshotItem {
	snapshotId: string;
	deviceId: string;
	device: string;
	place: string;
	versionId: string | null;
	status: SnapshotStatus;
	/** Why it failed or was left out. */
	says: string;
	settings: Setting[];
	predictedMs: number | null;
	tookMs: number | null;
}

/** What is known of a device before a backup of the whole studio. */
export interface Candidate {
	device: Device;
	profile: Profile | null;
	out: WayEnd | null;
	in: WayEnd | null;
	past: Past[];
}

export const beginSnapshotSchema = z.object({
	title: z.string().trim().max(80).default(''),
	note: z.string().trim().max(2000).default(''),
	predictedMs: z.number().min(0),
	devices: z.array(z.object({ id: z.string(), predictedMs: z.number().min(0) })),
	left: z.array(z.object({ id: z.string(), why: z.string().max(400) }))
});

export const endSnapshotSchema = z.object({ tookMs: z.number().min(0) });

const notFound = (id: string) =>
	new Problem('snapshot.not-found', `There is no snapshot “${id}”.`, 'Look at the list of snapshots.');

/** Every device that is not archived, with its ways to the computer and how long its captures took. */
export async function backupCandidates(
	studio: Studio
): Promise<{ candidates: Candidate[]; places: string[] }> {
	const [devices, { rig }, past] = await Promise.all([
		listDevices(studio),
		readStudioRig(studio),
		studio.sequelize.query<{ deviceId: string; predictedMs: number; startedAt: string; endedAt: string }>(
			`SELECT deviceId, predictedMs, startedAt, endedAt FROM transfers
			 WHERE direction = 'capture' AND status = 'complete' AND predictedMs > 0 AND endedAt IS NOT NULL ORDER BY startedAt`,
			{ type: QueryTypes.SELECT }
		)
	]);
	const ways = new Map(hostWays(rig).map((way) => [way.device, way]));
	return {
		places: [...new Set(devices.map(({ place }) => place))],
		candidates: devices.map((device) => ({
			device,
			profile: profileOrNull(studio, device.profileId),
			out: ways.get(device.id)?.out ?? null,
			in: ways.get(device.id)?.in ?? null,
			past: past
				.filter(({ deviceId }) => deviceId === device.id)
				.map(({ predictedMs, startedAt, endedAt }) => ({
					predictedMs,
					tookMs: Date.parse(endedAt) - Date.parse(startedAt)
				}))
		}))
	};
}

/**
 * Begins a snapshot of the studio: what waits to be captured, what is left out and why, and for devices that cannot be
 * read the version that they were last sent.
 */
export async function beginSnapshot(
	studio: Studio,
	order: z.infer<typeof beginSnapshotSchema>
): Promise<Snapshot> {
	const id = newId();
	const now = studio.now().toISOString();
	const left = new Map(order.left.map(({ id: device, why }) => [device, why]));
	const chosen = new Map(order.devices.map((entry) => [entry.id, entry.predictedMs]));
	await studio.write(async (transaction) => {
		await studio.sequelize.query(
			`INSERT INTO snapshots (id, title, note, takenAt, status, predictedMs) VALUES (?, ?, ?, ?, 'running', ?)`,
			{ replacements: [id, order.title, order.note, now, order.predictedMs], transaction }
		);
		const rows = await studio.sequelize.query<{ id: string; settings: string | null; last: string | null }>(
			`SELECT d.id, d.settings, (SELECT v.id FROM versions v WHERE v.deviceId = d.id AND v.kind != 'imported' ORDER BY v.takenAt DESC, v.seq DESC LIMIT 1) AS last
			 FROM devices d WHERE d.archivedAt IS NULL ORDER BY d.place, d.name`,
			{ type: QueryTypes.SELECT, transaction }
		);
		for (const [position, { id: deviceId, settings, last }] of rows.entries()) {
			const waits = chosen.has(deviceId);
			const noted = settings ?? '[]';
			if (!waits && !last && noted === '[]' && !left.has(deviceId)) continue;
			const status: SnapshotStatus = waits ? 'waiting' : last ? 'last known' : 'left out';
			await studio.sequelize.query(
				`INSERT INTO snapshot_items (snapshotId, deviceId, position, versionId, status, says, settings, predictedMs) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
				{
					replacements: [
						id,
						deviceId,
						position,
						waits ? null : last,
						status,
						waits ? '' : (left.get(deviceId) ?? ''),
						noted,
						chosen.get(deviceId) ?? null
					],
					transaction
				}
			);
		}
	});
	return getSnapshot(studio, id);
}

export async function listSnapshots(
	studio: Studio
): Promise<(Snapshot & { kept: number; failed: number; devices: number })[]> {
	return studio.sequelize.query(
		`SELECT s.*, SUM(i.status = 'kept') AS kept, SUM(i.status IN ('failed', 'waiting')) AS failed, COUNT(i.deviceId) AS devices
		 FROM snapshots s LEFT JOIN snapshot_items i ON i.snapshotId = s.id GROUP BY s.id ORDER BY s.takenAt DESC`,
		{ type: QueryTypes.SELECT }
	);
}

/** @throws Problem `snapshot.not-found` */
export async function getSnapshot(studio: Studio, id: string): Promise<Snapshot> {
	const [row] = await studio.sequelize.query<Snapshot>('SELECT * FROM snapshots WHERE id = :id', {
		replacements: { id },
		type: QueryTypes.SELECT
	});
	if (!row) throw notFound(id);
	return row;
}

export async function snapshotItems(studio: Studio, id: string): Promise<SnapshotItem[]> {
	const rows = await studio.sequelize.query<Omit<SnapshotItem, 'settings'> & { settings: string }>(
		`SELECT i.snapshotId, i.deviceId, d.name AS device, d.place, i.versionId, i.status, i.says, i.settings, i.predictedMs, i.tookMs
		 FROM snapshot_items i JOIN devices d ON d.id = i.deviceId WHERE i.snapshotId = :id ORDER BY i.position`,
		{ replacements: { id }, type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({ ...row, settings: settingsSchema.parse(JSON.parse(row.settings)) }));
}

/** Notes how the capture of one device went. */
export async function noteSnapshotItem(
	studio: Studio,
	snapshotId: string,
	deviceId: string,
	result: { versionId: string | null; says: string; tookMs: number | null }
): Promise<void> {
	await studio.sequelize.query(
		'UPDATE snapshot_items SET status = ?, versionId = ?, says = ?, tookMs = ? WHERE snapshotId = ? AND deviceId = ?',
		{
			replacements: [
				result.versionId ? 'kept' : 'failed',
				result.versionId,
				result.says,
				result.tookMs,
				snapshotId,
				deviceId
			]
		}
	);
}

/** Ends a snapshot; what still waits has failed. */
export async function endSnapshot(studio: Studio, id: string, tookMs: number): Promise<Snapshot> {
	await getSnapshot(studio, id);
	await studio.write(async (transaction) => {
		await studio.sequelize.query(
			`UPDATE snapshot_items SET status = 'failed', says = 'It was not reached before the end.' WHERE snapshotId = ? AND status = 'waiting'`,
			{ replacements: [id], transaction }
		);
		await studio.sequelize.query(
			`UPDATE snapshots SET status = 'ended', tookMs = COALESCE(tookMs, 0) + ? WHERE id = ?`,
			{ replacements: [Math.round(tookMs), id], transaction }
		);
	});
	return getSnapshot(studio, id);
}

export interface DeviceDifference {
	deviceId: string;
	device: string;
	before: string | null;
	after: string | null;
	/** Slots by what happened to them; null where the two cannot be compared by slots. */
	states: Partial<Record<SlotState | 'gone', number>> | null;
	/** Whether anything differs at all; null where one side has nothing. */
	same: boolean | null;
	names: string[];
	settings: SettingChange[];
}

/** What changed in the whole studio between two snapshots. */
export async function compareSnapshots(
	studio: Studio,
	beforeId: string,
	afterId: string
): Promise<DeviceDifference[]> {
	const [before, after] = [await snapshotItems(studio, beforeId), await snapshotItems(studio, afterId)];
	const old = new Map(before.map((item) => [item.deviceId, item]));
	const differences: DeviceDifference[] = [];
	for (const item of [
		...after,
		...before.filter(({ deviceId }) => !after.some((a) => a.deviceId === deviceId))
	]) {
		const was = old.get(item.deviceId);
		const now = after.find(({ deviceId }) => deviceId === item.deviceId);
		const base: DeviceDifference = {
			deviceId: item.deviceId,
			device: item.device,
			before: was?.versionId ?? null,
			after: now?.versionId ?? null,
			states: null,
			same: null,
			names: [],
			settings: changedSettings(was?.settings ?? [], now?.settings ?? [])
		};
		if (!base.before || !base.after) {
			differences.push(base);
			continue;
		}
		if (base.before === base.after) {
			differences.push({ ...base, same: true, states: {} });
			continue;
		}
		const comparison = await compareVersions(studio, base.before, base.after);
		if (comparison.by === 'bytes') {
			differences.push({ ...base, same: comparison.messages.every(({ same }) => same) });
			continue;
		}
		const changed = changedSlots(comparison.comparison);
		const states: DeviceDifference['states'] = {};
		for (const { state } of changed) states[state] = (states[state] ?? 0) + 1;
		if (comparison.comparison.gone.length > 0) states.gone = comparison.comparison.gone.length;
		differences.push({
			...base,
			same: changed.length === 0,
			states,
			names: changed.slice(0, 8).map(({ label, nameAfter }) => `${label} ${nameAfter ?? ''}`.trim())
		});
	}
	return differences;
}

/** Writes down what no dump of a device holds. */
export async function noteSettings(
	studio: Studio,
	deviceId: string,
	settings: Setting[]
): Promise<Setting[]> {
	const parsed = settingsSchema.parse(settings);
	await getDevice(studio, deviceId);
	await studio.models.devices.update({ settings: parsed }, { where: { id: deviceId } });
	return parsed;
}
