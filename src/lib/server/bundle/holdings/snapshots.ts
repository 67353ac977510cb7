import { z } from 'zod';
import { settingsSchema, worldSchema } from '../../../core/drawer';
import {
	endWaiting,
	insertItem,
	insertSnapshot,
	itemRows,
	snapshotRow,
	snapshotRows,
	updateItem
} from '../../store/snapshots';
import type { Holding } from '../holding';
import { id, ms, when } from '../pieces';
import { whole } from '../whole';

const itemSchema = z.strictObject({
	deviceId: id,
	versionId: id.nullable(),
	status: z.enum(['kept', 'failed', 'last known', 'left out']),
	says: z.string().max(2000),
	settings: settingsSchema,
	predictedMs: ms,
	tookMs: ms
});
const snapshotSchema = z.strictObject({
	id,
	title: z.string().max(200),
	note: z.string().max(4000),
	takenAt: when,
	world: worldSchema,
	predictedMs: z.number().min(0),
	tookMs: ms,
	items: z.array(itemSchema)
});

const NOT_HERE = 'Its version was not whole in the bundle, and is not here.';

export const snapshots: Holding<z.output<typeof snapshotSchema>> = {
	name: 'snapshots',
	title: 'Snapshots',
	tables: ['snapshots', 'snapshot_items'],
	schema: snapshotSchema,
	async rows({ studio, left }) {
		const rows = [];
		for (const { id, title, note, takenAt, status, world, predictedMs, tookMs } of await snapshotRows(
			studio
		)) {
			if (status !== 'ended') continue;
			const row = await whole(
				async () => {
					const items = (await itemRows(studio, id)).map(
						({ snapshotId: _, device: _name, place: _place, ...item }) => item
					);
					return snapshotSchema.parse({ id, title, note, takenAt, world, predictedMs, tookMs, items });
				},
				(says) => left(`Snapshot “${title}”`, says)
			);
			if (row) rows.push(row);
		}
		return rows;
	},
	async take({ studio, transaction, devices, versions }, rows) {
		let taken = 0;
		for (const { items, ...snapshot } of rows) {
			const here = (await snapshotRow(studio, snapshot.id, transaction)) !== undefined;
			if (here) {
				// What was damaged in an earlier bundle may be whole in this one.
				const mine = await itemRows(studio, snapshot.id, transaction);
				for (const item of items) {
					const now = mine.find(({ deviceId }) => deviceId === item.deviceId);
					if (now?.says === NOT_HERE && item.versionId && versions.has(item.versionId)) {
						await updateItem(studio, snapshot.id, item.deviceId, item, transaction);
						taken++;
					}
				}
				continue;
			}
			await insertSnapshot(studio, snapshot, transaction);
			for (const [position, item] of items.filter(({ deviceId }) => devices.has(deviceId)).entries()) {
				const lost = item.versionId !== null && !versions.has(item.versionId);
				const kept = lost ? { ...item, versionId: null, status: 'failed' as const, says: NOT_HERE } : item;
				await insertItem(studio, snapshot.id, { ...kept, position }, transaction);
				await updateItem(studio, snapshot.id, item.deviceId, kept, transaction);
			}
			await endWaiting(studio, snapshot.id, '', snapshot.tookMs ?? 0, transaction);
			taken++;
		}
		return taken;
	}
};
