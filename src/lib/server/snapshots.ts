import type { Transaction } from 'sequelize';
import { z } from 'zod';
import {
	changedSettings,
	changedSlots,
	covers,
	liveWorldSchema,
	settingsSchema,
	spansOf,
	tornBy,
	type DeviceDifference,
	type LiveWorld,
	type Setting,
	type Snapshot
} from '../core/drawer';
import { Problem } from '../core/problem';
import { hostWays, type Candidate } from '../core/rig';
import type { Studio } from './db/connection';
import { compareVersions } from './drawer';
import { getDevice, listDevices } from './gear';
import { readableSlots } from './knowing';
import { newId } from './new-id';
import { profileOrNull } from './profiles';
import { readStudioRig } from './rig';
import { devicesInOrder, updateDeviceRow } from './store/devices';
import { readStandings } from './store/knowledge';
import {
	endWaiting,
	insertItem,
	insertSnapshot,
	itemRows,
	snapshotRow,
	snapshotRows,
	updateItem
} from './store/snapshots';
import { pastCaptures } from './store/transfers';
import { newestVersions } from './store/versions';

export const beginSnapshotSchema = z.object({
	title: z.string().trim().max(80).default(''),
	note: z.string().trim().max(2000).default(''),
	/** Where its devices are read; the studio's own world, when left out. */
	world: liveWorldSchema.optional(),
	predictedMs: z.number().min(0),
	devices: z.array(z.object({ id: z.string(), predictedMs: z.number().min(0) })),
	left: z.array(z.object({ id: z.string(), why: z.string().max(400) }))
});

export const endSnapshotSchema = z.object({ tookMs: z.number().min(0) });

const notFound = (id: string) =>
	new Problem('snapshot.not-found', `There is no snapshot “${id}”.`, 'Look at the list of snapshots.');

/** Every device that is not archived, with its ways to the computer and how long its captures in this world took. */
export async function backupCandidates(
	studio: Studio,
	world: LiveWorld = studio.world
): Promise<{ candidates: Candidate[]; places: string[] }> {
	const [devices, { rig }, past, standings] = await Promise.all([
		listDevices(studio),
		readStudioRig(studio),
		pastCaptures(studio, world),
		readStandings(studio, world)
	]);
	const ways = new Map(hostWays(rig).map((way) => [way.device, way]));
	return {
		places: [...new Set(devices.map(({ place }) => place))],
		candidates: devices.map((device) => ({
			device,
			profile: profileOrNull(studio, device.profileId),
			out: ways.get(device.id)?.out ?? null,
			in: ways.get(device.id)?.in ?? null,
			torn: tornBy(standings.get(device.id) ?? { slots: new Map(), touchedAt: null }).size > 0,
			past: past.flatMap(({ deviceId, ...one }) => (deviceId === device.id ? [one] : []))
		}))
	};
}

/** The newest version of each device that holds all that it can send; for one that sends nothing, all that was kept. */
async function lastWhole(studio: Studio, world: LiveWorld): Promise<Map<string, string>> {
	const needed = new Map(
		(await listDevices(studio)).map((device) => [
			device.id,
			spansOf(readableSlots(profileOrNull(studio, device.profileId)))
		])
	);
	const last = new Map<string, string>();
	for (const { id, deviceId, coverage } of await newestVersions(studio, world)) {
		const whole = needed.get(deviceId);
		if (!whole || last.has(deviceId)) continue;
		if (coverage.length === 0 || covers(coverage, whole)) last.set(deviceId, id);
	}
	return last;
}

/**
 * Begins a snapshot of the studio: what waits to be captured, what is left out and why, and for the others the newest
 * version that holds all of them, as last known.
 */
export async function beginSnapshot(
	studio: Studio,
	order: z.infer<typeof beginSnapshotSchema>
): Promise<Snapshot> {
	const id = newId();
	const now = studio.now().toISOString();
	const left = new Map(order.left.map(({ id: device, why }) => [device, why]));
	const chosen = new Map(order.devices.map((entry) => [entry.id, entry.predictedMs]));
	const world = order.world ?? studio.world;
	const whole = await lastWhole(studio, world);
	await studio.write(async (transaction) => {
		const { title, note, predictedMs } = order;
		await insertSnapshot(studio, { id, title, note, takenAt: now, world, predictedMs }, transaction);
		const devices = await devicesInOrder(studio, false, transaction);
		for (const [position, { id: deviceId, settings }] of devices.entries()) {
			const last = whole.get(deviceId) ?? null;
			const waits = chosen.has(deviceId);
			const noted = settings ?? [];
			if (!waits && !last && noted.length === 0 && !left.has(deviceId)) continue;
			await insertItem(
				studio,
				id,
				{
					deviceId,
					position,
					versionId: waits ? null : last,
					status: waits ? 'waiting' : last ? 'last known' : 'left out',
					says: waits ? '' : (left.get(deviceId) ?? ''),
					settings: noted,
					predictedMs: chosen.get(deviceId) ?? null
				},
				transaction
			);
		}
	});
	return getSnapshot(studio, id);
}

export const listSnapshots = snapshotRows;

/** @throws Problem `snapshot.not-found` */
export async function getSnapshot(studio: Studio, id: string): Promise<Snapshot> {
	const row = await snapshotRow(studio, id);
	if (!row) throw notFound(id);
	return row;
}

export const snapshotItems = itemRows;

/** Notes how the capture of one device went. */
export const noteSnapshotItem = (
	studio: Studio,
	snapshotId: string,
	deviceId: string,
	result: { versionId: string | null; says: string; tookMs: number | null },
	transaction: Transaction
): Promise<void> =>
	updateItem(
		studio,
		snapshotId,
		deviceId,
		{ ...result, status: result.versionId ? 'kept' : 'failed' },
		transaction
	);

/** Ends a snapshot; what still waits has failed. */
export async function endSnapshot(studio: Studio, id: string, tookMs: number): Promise<Snapshot> {
	await getSnapshot(studio, id);
	await studio.write((transaction) =>
		endWaiting(studio, id, 'It was not reached before the end.', Math.round(tookMs), transaction)
	);
	return getSnapshot(studio, id);
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
	await studio.write((transaction) => updateDeviceRow(studio, deviceId, { settings: parsed }, transaction));
	return parsed;
}
