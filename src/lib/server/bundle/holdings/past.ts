import { z } from 'zod';
import {
	liveWorldSchema,
	settingsSchema,
	touched,
	traceSchema,
	worldSchema,
	wrote,
	type Knowledge,
	type Transfer
} from '../../../core/drawer';
import { slotKey } from '../../../core/profile';
import { scopeSchema } from '../../../core/transfer';
import { readKnowledge, writeKnowledge } from '../../store/knowledge';
import { readRows, type RowTable } from '../../store/rows';
import {
	insertItem,
	insertSnapshot,
	itemRows,
	snapshotRow,
	snapshotRows,
	endWaiting,
	updateItem
} from '../../store/snapshots';
import { carriedTrace, putCarriedTrace } from '../../store/traces';
import {
	endedTransfers,
	handReceivedOver,
	insertTransfer,
	knownTransfers,
	openCaptures,
	updateTransfer
} from '../../store/transfers';
import type { Holding } from '../holding';
import { whole } from '../whole';

const id = z.string().min(1).max(120);
const when = z.iso.datetime();
const ms = z.number().min(0).nullable();
const hash = z.string().regex(/^[0-9a-f]{64}$/);

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

const transferSchema = z.strictObject({
	id,
	deviceId: id,
	direction: z.enum(['capture', 'restore']),
	scope: scopeSchema,
	status: z.enum(['complete', 'incomplete', 'refused', 'verified', 'differs', 'sent']),
	reason: z.object({ code: z.string(), says: z.string(), remedy: z.string() }).nullable(),
	outcome: z.record(z.string(), z.unknown()).nullable(),
	startedAt: when,
	endedAt: when,
	kind: z.string().max(60),
	title: z.string().max(200),
	versionId: id.nullable(),
	safetyVersionId: id.nullable(),
	sourceVersionId: id.nullable(),
	wanted: z
		.array(
			z.strictObject({
				area: z.string(),
				index: z.number().int().min(0),
				record: hash,
				over: hash.optional(),
				rewrite: z.literal(true).optional()
			})
		)
		.nullable(),
	snapshotId: id.nullable(),
	predictedMs: ms,
	world: z.union([liveWorldSchema, z.literal('unrecorded')]),
	distrusted: z.boolean(),
	resumed: z.boolean(),
	bankId: id.nullable(),
	received: z.number().int().min(0),
	log: z.array(traceSchema.shape.lines.element.extend({ message: z.string().max(64).optional() }))
});
const listedSchema = z.strictObject({ id, file: z.string().regex(/^transfers\/[\w.-]+\.json$/) });

/** What of a transfer names a version. */
const VERSIONS = ['versionId', 'safetyVersionId', 'sourceVersionId'] as const;

export const transfers: Holding<z.output<typeof listedSchema>> = {
	name: 'transfers',
	title: 'Transfers with their outcomes and logs',
	tables: ['transfers', 'transfer_trace'],
	schema: listedSchema,
	async rows({ studio, add, left }) {
		const rows = [];
		// Captures of which something came and that are no version yet: what came lies with them alone.
		const open = (await openCaptures(studio)).filter(({ received }) => received > 0);
		for (const { startedAt } of open)
			left(
				`Capture of ${startedAt}`,
				'It broke off, or goes on. Keep what came as a version, and the next bundle has it.'
			);
		const isOpen = new Set(open.map(({ id }) => id));
		for await (const transfer of endedTransfers(studio)) {
			if (isOpen.has(transfer.id)) continue;
			const row = await whole(
				async () => transferSchema.parse({ ...transfer, log: await carriedTrace(studio, transfer.id) }),
				(says) => left(`Transfer of ${transfer.startedAt}`, says)
			);
			if (!row) continue;
			const file = `transfers/${row.id}.json`;
			await add(file, Buffer.from(JSON.stringify(row)), row.startedAt);
			rows.push({ id: row.id, file });
		}
		return rows;
	},
	async take({ studio, transaction, devices, versions, read, lost }, rows) {
		const here = await knownTransfers(studio, transaction);
		let taken = 0;
		for (const { id, file } of rows) {
			const known = here.get(id);
			if (known && VERSIONS.every((name) => known[name] !== null)) continue;
			const row = await whole(
				async () => {
					const json: unknown = JSON.parse(Buffer.from(await read(file)).toString('utf8'));
					return transferSchema
						.refine((each) => each.id === id, 'It is another one than the list says.')
						.parse(json);
				},
				(says) => lost('A transfer', `“${file}”: ${says}`)
			);
			if (!row) continue;
			if (!devices.has(row.deviceId)) continue;
			const { log, received, ...transfer } = row;
			if (known) {
				// A version that was damaged in an earlier bundle may be here now.
				const found = VERSIONS.filter((name) => known[name] === null && versions.has(row[name] ?? ''));
				if (found.length === 0) continue;
				await updateTransfer(
					studio,
					id,
					Object.fromEntries(found.map((name) => [name, row[name]])),
					transaction
				);
				if (found.includes('versionId')) await handReceivedOver(studio, id, received, transaction);
				taken++;
				continue;
			}
			await insertTransfer(studio, transfer as Transfer, transaction);
			const isThere = row.versionId !== null && versions.has(row.versionId);
			await handReceivedOver(studio, id, row.versionId === null || isThere ? received : 0, transaction);
			await putCarriedTrace(studio, id, log, transaction);
			taken++;
		}
		return taken;
	}
};

const slotRef = z.strictObject({ area: z.string(), index: z.number().int().min(0) });
const knownSchema = z.strictObject({
	deviceId: id,
	world: liveWorldSchema,
	touchedAt: when.nullable(),
	/** What was written and not read since, a transfer at a time. */
	unread: z.array(
		z.strictObject({
			kind: z.enum(['sent', 'unknown']),
			at: when,
			by: z.string().max(120),
			slots: z.array(slotRef)
		})
	)
});

/** What is known of each device; the rows themselves are packed. */
const KNOWN: RowTable<{ deviceId: string; world: 'bench' | 'hardware' }> = {
	table: 'knowledge',
	columns: ['deviceId', 'world'],
	key: ['deviceId', 'world'],
	jsons: [],
	schema: z.object({ deviceId: id, world: liveWorldSchema })
};

function unreadOf(knowledge: Knowledge): z.output<typeof knownSchema>['unread'] {
	const writings = new Map<string, z.output<typeof knownSchema>['unread'][number]>();
	for (const { area, index, unread } of knowledge.slots.values())
		for (const { kind, at, by } of unread) {
			const key = JSON.stringify([kind, at, by]);
			let writing = writings.get(key);
			if (!writing) writings.set(key, (writing = { kind, at, by, slots: [] }));
			writing.slots.push({ area, index });
		}
	return [...writings.values()];
}

/** What no version tells: which slots were written and not read, and when somebody changed sounds by hand. */
export const knowledge: Holding<z.output<typeof knownSchema>> = {
	name: 'known',
	title: 'What was written and not read back, or changed by hand',
	tables: ['knowledge'],
	schema: knownSchema,
	async rows({ studio }) {
		const rows = [];
		for (const { deviceId, world } of (await readRows(studio, KNOWN)).rows) {
			const known = await readKnowledge(studio, deviceId, world);
			const unread = unreadOf(known);
			if (known.touchedAt !== null || unread.length > 0)
				rows.push({ deviceId, world, touchedAt: known.touchedAt, unread });
		}
		return rows;
	},
	async take({ studio, transaction, devices }, rows) {
		let taken = 0;
		for (const { deviceId, world, touchedAt, unread } of rows) {
			if (!devices.has(deviceId)) continue;
			const here = await readKnowledge(studio, deviceId, world, transaction);
			const written = unread.reduce(
				(now, { slots, ...write }) =>
					wrote(now, {
						...write,
						// What was read later says what is there.
						slots: slots.filter(
							({ area, index }) => (now.slots.get(slotKey(area, index))?.seen?.at ?? '') < write.at
						)
					}),
				here
			);
			const after = touchedAt === null ? written : touched(written, touchedAt);
			if (
				JSON.stringify([unreadOf(after), after.touchedAt]) ===
				JSON.stringify([unreadOf(here), here.touchedAt])
			)
				continue;
			await writeKnowledge(studio, deviceId, world, after, transaction);
			taken++;
		}
		return taken;
	}
};
