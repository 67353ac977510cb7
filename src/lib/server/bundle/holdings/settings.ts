import { z } from 'zod';
import { riskSettingsSchema } from '../../../core/care';
import { retentionSchema } from '../../../core/drawer';
import { insertRow, readRows, replaceRow, type RowTable } from '../../store/rows';
import type { Holding } from '../holding';
import { wholeRows } from '../tables';

/** Settings by their key. The world of a studio is its own. */
const SETTINGS = {
	retention: { title: 'How long versions are kept', schema: retentionSchema },
	risk: { title: 'What counts as a risk', schema: riskSettingsSchema }
};
interface SettingRow {
	key: keyof typeof SETTINGS;
	value: Record<string, unknown>;
}
const FACTS: RowTable<SettingRow> = {
	table: 'studio_facts',
	columns: ['key', 'value'],
	key: ['key'],
	jsons: ['value'],
	where: `key IN ('${Object.keys(SETTINGS).join("', '")}')`,
	schema: z
		.strictObject({ key: z.enum(['retention', 'risk']), value: z.record(z.string(), z.unknown()) })
		.transform((row, context) => {
			const read = SETTINGS[row.key].schema.safeParse(row.value);
			if (read.success) return { ...row, value: read.data as Record<string, unknown> };
			context.addIssue({ code: 'custom', message: read.error.issues[0].message });
			return z.NEVER;
		})
};
const flat = (value: unknown, path: string[] = []): string[] =>
	typeof value === 'object' && value !== null
		? Object.entries(value).flatMap(([key, inner]) => flat(inner, [...path, key]))
		: [`${path.join(' ')} ${String(value)}`];

/** Where nothing was ever set here, what is taken for granted counts as set: nothing is let go by another studio's rules. */
export const settings: Holding<SettingRow> = {
	name: 'settings',
	title: 'Settings',
	tables: ['studio_facts'],
	schema: FACTS.schema,
	rows: (making) => wholeRows(making, 'Settings', FACTS),
	async take(taking, rows) {
		const { studio, transaction } = taking;
		const here = new Map(
			(await readRows(studio, FACTS, transaction)).rows.map(({ key, value }) => [key, value])
		);
		let taken = 0;
		for (const row of rows) {
			const { title, schema } = SETTINGS[row.key];
			const mine = here.get(row.key) ?? (schema.parse({}) as Record<string, unknown>);
			const [a, b] = [flat(mine), flat(row.value)];
			if (JSON.stringify(a) === JSON.stringify(b)) continue;
			const difference = {
				what: title,
				here: a.filter((each) => !b.includes(each)).join(', '),
				there: b.filter((each) => !a.includes(each)).join(', ')
			};
			const free = taking.fresh && !here.has(row.key);
			if (!free && !taking.takes(difference, { here: mine, there: row.value })) continue;
			if (!(await insertRow(studio, FACTS, row, transaction)))
				await replaceRow(studio, FACTS, row, transaction);
			taken++;
		}
		return taken;
	}
};
