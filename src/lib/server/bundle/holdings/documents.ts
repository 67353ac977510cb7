import { z } from 'zod';
import { procedureRunSchema, procedureSchema, switchingSchema } from '../../../core/care';
import { mapSchema, type ControlMap } from '../../../core/control';
import { bankDocumentSchema, liveWorldSchema, type Bank, type BankDocument } from '../../../core/drawer';
import { FLOOR } from '../../floor';
import { PAIRINGS } from '../../pairings';
import { POWER } from '../../power';
import { BOOK } from '../../service-book';
import { SET } from '../../set';
import { POWER_ON } from '../../switching';
import type { RowTable } from '../../store/rows';
import { id, quantity, when } from '../pieces';
import { tableHolding } from '../tables';

const revision = z.number().int().min(0);

/** What a bank and its device had in common last. */
const base = z.array(z.string().nullable()).nullable();
const sounds = ({ entries }: BankDocument) => entries.filter((entry) => entry !== null).length;

export const BANKS: RowTable<Bank> = {
	table: 'banks',
	columns: ['id', 'deviceId', 'baseVersionId', 'document', 'revision', 'createdAt', 'updatedAt', 'base'],
	key: ['id'],
	jsons: ['document', 'base'],
	schema: z.strictObject({
		id,
		deviceId: id,
		baseVersionId: id.nullable(),
		document: bankDocumentSchema,
		revision,
		createdAt: when,
		updatedAt: when,
		base
	})
};

export const banks = tableHolding(BANKS, {
	name: 'banks',
	title: 'Banks',
	content: ({ document }) => document,
	rule: {
		by: 'choice',
		what: ({ document }) => `Bank “${document.title}”`,
		says: ({ document }) => `“${document.title}”, ${quantity(sounds(document), 'sound')}`,
		at: ({ updatedAt }) => updatedAt
	},
	fit: (row, { devices, versions }) =>
		!devices.has(row.deviceId)
			? null
			: {
					...row,
					baseVersionId: row.baseVersionId && versions.has(row.baseVersionId) ? row.baseVersionId : null
				}
});

const sentPage = z.object({ page: z.string(), world: z.string(), at: z.string() });
const pages = ({ name, pages: all }: ControlMap) => `“${name}”, ${quantity(all.length, 'page')}`;

export const maps = tableHolding(
	{
		table: 'maps',
		columns: ['id', 'document', 'revision', 'createdAt', 'updatedAt', 'removedAt', 'sent'],
		key: ['id'],
		jsons: ['document', 'sent'],
		schema: z.strictObject({
			id,
			document: mapSchema,
			revision,
			createdAt: when,
			updatedAt: when,
			removedAt: when.nullable(),
			sent: z.array(sentPage)
		})
	},
	{
		name: 'maps',
		title: 'Controller maps',
		content: ({ document, removedAt }) => [document, removedAt !== null],
		rule: {
			by: 'choice',
			what: ({ document }) => `Map “${document.name}”`,
			says: ({ document, removedAt }) => `${pages(document)}${removedAt === null ? '' : ', taken away'}`,
			at: ({ updatedAt }) => updatedAt,
			owner: (row) => row.id
		}
	}
);

/** What a studio has one of, by kind, with what it is called. */
const PAPERS = [
	{ ...FLOOR, title: 'The floor' },
	{ ...POWER, title: 'Power' },
	{ ...POWER_ON, title: 'What is switched on in which order' },
	{ ...BOOK, title: 'The service book' },
	{ ...SET, title: 'The set' },
	{ ...PAIRINGS, title: 'Pairings' }
];
const paperTitle = (kind: string) => PAPERS.find((paper) => paper.kind === kind)!.title;

/** How many entries the lists of a document have, in the order of the lists. */
const entries = (document: object) =>
	Object.entries(document)
		.flatMap(([key, value]) => (Array.isArray(value) && value.length > 0 ? [`${key} ${value.length}`] : []))
		.join(', ') || 'nothing in it';

export const papers = tableHolding(
	{
		table: 'papers',
		columns: ['kind', 'document', 'revision', 'updatedAt'],
		key: ['kind'],
		jsons: ['document'],
		// What instruments were sent last is known by the studio that sent it alone.
		where: `kind NOT LIKE 'held-%'`,
		schema: z
			.strictObject({
				kind: z.enum(PAPERS.map(({ kind }) => kind)),
				document: z.record(z.string(), z.unknown()),
				revision,
				updatedAt: when
			})
			.transform((row, context) => {
				const read = PAPERS.find(({ kind }) => kind === row.kind)!.schema.safeParse(row.document);
				if (read.success) return { ...row, document: read.data as Record<string, unknown> };
				for (const { path, message } of read.error.issues)
					context.addIssue({ code: 'custom', path: ['document', ...path], message });
				return z.NEVER;
			})
	},
	{
		name: 'papers',
		title: 'Floor, power, set, service book, pairings',
		content: ({ document }) => document,
		rule: {
			by: 'choice',
			what: ({ kind }) => paperTitle(kind),
			says: ({ document }) => entries(document),
			at: ({ updatedAt }) => updatedAt,
			owner: ({ kind }) => kind
		}
	}
);

export const procedures = tableHolding(
	{
		table: 'procedures',
		columns: ['id', 'document', 'updatedAt', 'removedAt'],
		key: ['id'],
		jsons: ['document'],
		schema: z.strictObject({ id, document: procedureSchema, updatedAt: when, removedAt: when.nullable() })
	},
	{
		name: 'procedures',
		title: 'Procedures of your own',
		content: ({ document, removedAt }) => [document, removedAt !== null],
		rule: {
			by: 'choice',
			what: ({ document }) => `Procedure “${document.title}”`,
			says: ({ document, removedAt }) =>
				`${quantity(document.steps.length, 'step')}${removedAt === null ? '' : ', taken away'}`,
			at: ({ updatedAt }) => updatedAt
		}
	}
);

export const careRuns = tableHolding(
	{
		table: 'care_runs',
		columns: [
			'id',
			'kind',
			'title',
			'deviceId',
			'world',
			'begunAt',
			'endedAt',
			'over',
			'revision',
			'document'
		],
		key: ['id'],
		jsons: ['document'],
		// What is being carried out goes on where it was begun.
		where: 'endedAt IS NOT NULL',
		schema: z.strictObject({
			id,
			kind: z.enum(['procedure', 'on', 'off']),
			title: z.string().max(300),
			deviceId: id.nullable(),
			world: liveWorldSchema,
			begunAt: when,
			endedAt: when,
			over: z.enum(['done', 'abandoned']),
			revision,
			document: z.union([procedureRunSchema, switchingSchema])
		})
	},
	{
		name: 'care-runs',
		title: 'Procedures carried out, and the studio switched on and off',
		rule: { by: 'later', at: (row) => row.revision }
	}
);
