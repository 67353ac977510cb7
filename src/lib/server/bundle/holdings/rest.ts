import { z } from 'zod';
import { riskSettingsSchema } from '../../../core/care';
import { retentionSchema } from '../../../core/drawer';
import { planSchema, type KeptPlan } from '../../../core/plan';
import { rigSchema } from '../../../core/rig';
import { hashOf } from '../../hash';
import { insertKeptFile, keptFileFacts, keptFileIds, keptFileRow } from '../../store/kept-files';
import { describeRecords, keepRecords } from '../../store/records';
import { addPlan, keptPlans } from '../../store/plans';
import { insertRow, readRows, replaceRow, type RowTable } from '../../store/rows';
import type { Holding } from '../holding';
import { tableHolding, wholeRows } from '../tables';
import { whole } from '../whole';

const when = z.iso.datetime();
const hash = z.string().regex(/^[0-9a-f]{64}$/);

export const soundMarks = tableHolding(
	{
		table: 'sound_marks',
		columns: ['hash', 'favourite', 'category', 'at'],
		key: ['hash'],
		jsons: [],
		schema: z.strictObject({
			hash,
			favourite: z.number().int().min(0).max(1),
			category: z.string().max(30),
			at: when
		})
	},
	{ name: 'sound-marks', title: 'Favourites and categories', rule: { by: 'later', at: (row) => row.at } }
);

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

const planRowSchema = z.strictObject({
	at: when,
	title: z.string().max(300),
	rig: rigSchema,
	plan: planSchema,
	tookMs: z.number().min(0),
	supposed: z.array(z.string().max(200)).max(50)
});

export const plans: Holding<Omit<KeptPlan, 'id'>> = {
	name: 'plans',
	title: 'Plans of the wiring',
	tables: ['plans'],
	schema: planRowSchema,
	rows: async ({ studio, left }) =>
		(await keptPlans(studio)).flatMap(({ id: _, ...plan }) => {
			const read = planRowSchema.safeParse(plan);
			if (read.success) return [read.data];
			left(`Plan “${plan.title}”`, read.error.issues[0].message);
			return [];
		}),
	/** The newest plan is the one that a phone shows: of the bundle's, only later ones come in. */
	async take({ studio, transaction }, rows) {
		const newest =
			(await keptPlans(studio, transaction))
				.map(({ at }) => at)
				.sort()
				.at(-1) ?? '';
		const later = rows.filter(({ at }) => at > newest).sort((a, b) => a.at.localeCompare(b.at));
		for (const plan of later) await addPlan(studio, plan, transaction);
		return later.length;
	}
};

const fileSchema = z.strictObject({
	id: z.string().regex(/^[\w-]{1,120}$/),
	owner: z.string().min(1).max(160),
	name: z.string().min(1).max(200),
	at: when,
	note: z.string().max(200),
	size: z.number().int().min(0),
	hash
});
const fileOf = (file: string) => `files/${file}`;

export const keptFiles: Holding<z.output<typeof fileSchema>> = {
	name: 'kept-files',
	title: 'Files kept with maps and devices',
	tables: ['kept_files'],
	schema: fileSchema,
	async rows({ studio, add, left }) {
		const rows = [];
		for (const facts of await keptFileFacts(studio)) {
			const stored = await keptFileRow(studio, facts.id);
			const read = fileSchema.safeParse(facts);
			if (!read.success || !stored || hashOf(stored.bytes) !== facts.hash) {
				left(`File “${facts.name}”`, 'It does not hold what was kept.');
				continue;
			}
			await add(fileOf(facts.id), stored.bytes, facts.at);
			rows.push(read.data);
		}
		return rows;
	},
	async take({ studio, transaction, read, lost }, rows) {
		const here = new Set(await keptFileIds(studio, transaction));
		let taken = 0;
		for (const row of rows) {
			if (here.has(row.id)) continue;
			const bytes = await whole(
				() => read(fileOf(row.id)),
				(says) => lost(`File “${row.name}”`, says)
			);
			if (!bytes) continue;
			if (hashOf(bytes) !== row.hash) {
				lost(`File “${row.name}”`, 'It does not hold what the list says.');
				continue;
			}
			await insertKeptFile(studio, { ...row, bytes }, transaction);
			taken++;
		}
		return taken;
	}
};

const BANKS: RowTable<{ document: { entries: ({ record: string } | null)[] } }> = {
	table: 'banks',
	columns: ['document'],
	key: ['document'],
	jsons: ['document'],
	schema: z.object({ document: z.object({ entries: z.array(z.object({ record: hash }).nullable()) }) })
};
const soundSchema = z.strictObject({
	profileId: z.string().max(120),
	area: z.string().max(120),
	record: hash,
	name: z.string().max(120).nullable(),
	bytes: z.string().regex(/^([0-9a-f]{2})*$/)
});

/** The sounds of banks by themselves: the versions that they were taken from may have been let go. */
export const bankSounds: Holding<z.output<typeof soundSchema>> = {
	name: 'bank-sounds',
	title: 'Sounds of banks',
	tables: [],
	schema: soundSchema,
	async rows({ studio }) {
		const { rows } = await readRows(studio, BANKS);
		const wanted = new Set(
			rows.flatMap(({ document }) => document.entries.flatMap((entry) => entry?.record ?? []))
		);
		const found = await describeRecords(studio, [...wanted]);
		return [...found.values()].map(({ profileId, area, hash: record, name, bytes }) => ({
			profileId,
			area,
			record,
			name,
			bytes: Buffer.from(bytes).toString('hex')
		}));
	},
	async take({ studio, transaction, lost }, rows) {
		for (const { profileId, area, record, name, bytes: hex } of rows) {
			const bytes = new Uint8Array(Buffer.from(hex, 'hex'));
			if (hashOf(bytes) !== record) {
				lost(`Sound “${name ?? record.slice(0, 8)}”`, 'It does not hold what the list says.');
				continue;
			}
			await keepRecords(
				studio,
				profileId,
				[{ slot: { area, index: 0, label: '', name, bytes }, record }],
				transaction
			);
		}
		return 0;
	}
};
