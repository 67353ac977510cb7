import { z } from 'zod';
import { liveWorldSchema, touched, wrote, type Knowledge } from '../../../core/drawer';
import { slotKey } from '../../../core/profile';
import { readKnowledge, writeKnowledge } from '../../store/knowledge';
import { readRows, type RowTable } from '../../store/rows';
import type { Holding } from '../holding';
import { id, when } from '../pieces';

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
