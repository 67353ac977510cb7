import { z } from 'zod';
import { liveWorldSchema, traceSchema, type Transfer } from '../../../core/drawer';
import { scopeSchema } from '../../../core/transfer';
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
import { hash, id, ms, when } from '../pieces';
import { whole } from '../whole';

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
