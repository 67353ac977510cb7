import { Problem } from '../problem';
import { faultPath } from '../reading';
import { faultsOf } from './faults';
import {
	MOST_FIELDS,
	profileShape,
	type Profile,
	type ProfileParameter,
	type ProfileRecord,
	type ProfileReference,
	type ProfileText
} from './schema';
import { withDescribed } from './described';
import { withTold } from './told';

/** A field of a record that may stand for one in each of a row. */
interface Repeated {
	id: string;
	name: string;
	offset: number;
	each?: string | string[];
	when?: ProfileParameter['when'];
	then?: ProfileText['then'];
}

/** What a value depends on, in one of a row: on that one's own parameter, where there is one in each. */
const inRow = (when: NonNullable<Repeated['when']>, row: { id: string; name: string }, isEach: boolean) => ({
	parameter: isEach ? `${row.id}-${when.parameter}` : when.parameter,
	cases: when.cases.map((each) => ({ ...each, name: `${row.name} ${each.name}` }))
});

/**
 * A field once for each of its rows, inner rows first. A row that is not there is left for {@link faultsOf}.
 * @param decides rows that the parameter on which it depends stands in
 */
function once<T extends Repeated>(
	{ each, ...one }: T,
	rows: ProfileRecord['rows'],
	decides: readonly string[]
): T[] {
	const names = each === undefined ? [] : [each].flat();
	return names.reduceRight<T[]>(
		(fields, name) => {
			const row = rows?.[name];
			if (!row) return fields.map((field) => ({ ...field, each: name }));
			return row.of.flatMap((own, i) =>
				fields.map((field) => ({
					...field,
					id: `${own.id}-${field.id}`,
					name: `${own.name} ${field.name}`,
					offset: field.offset + i * row.stride,
					...(field.then
						? { then: field.then.map((part) => ({ ...part, offset: part.offset + i * row.stride })) }
						: {}),
					...(field.when ? { when: inRow(field.when, own, decides.includes(name)) } : {})
				}))
			);
		},
		[one as T]
	);
}

/** A reference once for each of its rows: what names the slot is that row's own, where there is one in each. */
function onceEach(
	{ each, ...one }: ProfileReference,
	rows: ProfileRecord['rows'],
	rowsOf: (id: string | undefined) => readonly string[]
): ProfileReference[] {
	const names = each === undefined ? [] : [each].flat();
	const inEach = (id: string, prefix: string, name: string, source: string | undefined) =>
		rowsOf(source).includes(name) ? `${prefix}-${id}` : id;
	return names.reduceRight<ProfileReference[]>(
		(references, name) => {
			const row = rows?.[name];
			if (!row) return references.map((reference) => ({ ...reference, each: name }));
			return row.of.flatMap((own) =>
				references.map((reference) => ({
					...reference,
					id: `${own.id}-${reference.id}`,
					name: `${own.name} ${reference.name}`,
					number: inEach(reference.number, own.id, name, one.number),
					...(reference.bank === undefined ? {} : { bank: inEach(reference.bank, own.id, name, one.bank) })
				}))
			);
		},
		[one]
	);
}

/** A record whose parameters and texts all stand for one value each; where these are too many, it is left as it is. */
function spelledOut({ rows, ...record }: ProfileRecord): ProfileRecord {
	const times = ({ each = [] }: { each?: string | string[] }) =>
		[each].flat().reduce((all, name) => all * (rows?.[name]?.of.length ?? 1), 1);
	const rowsOf = (id: string | undefined) =>
		[record.parameters.find((parameter) => parameter.id === id)?.each ?? []].flat();
	const all = [...record.parameters, ...record.texts].reduce((sum, field) => sum + times(field), 0);
	return all > MOST_FIELDS
		? record
		: {
				...record,
				parameters: record.parameters.flatMap((parameter) =>
					once(parameter, rows, rowsOf(parameter.when?.parameter))
				),
				texts: record.texts.flatMap((text) => once(text, rows, [])),
				...(record.references
					? { references: record.references.flatMap((each) => onceEach(each, rows, rowsOf)) }
					: {})
			};
}

const withParameters = (profile: Profile): Profile => ({
	...profile,
	records: Object.fromEntries(Object.entries(profile.records).map(([id, record]) => [id, spelledOut(record)]))
});

/** A profile in its shape, in which everything that is named is there and fits; parameters are spelled out. */
export const profileSchema = profileShape
	.transform(withTold)
	.transform(withDescribed)
	.transform(withParameters)
	.superRefine((profile, context) => {
		for (const fault of faultsOf(profile))
			context.addIssue({ code: 'custom', path: fault.path, message: fault.says });
	});

/**
 * A profile from parsed JSON.
 * @throws Problem `profile.invalid` with `detail.faults: { at, says }[]`, each naming the faulty part
 */
export function parseProfile(json: unknown): Profile {
	const result = profileSchema.safeParse(json);
	if (result.success) return result.data;
	const faults = result.error.issues.map((issue) => ({
		at: faultPath(issue.path) || '(the whole file)',
		says: issue.message
	}));
	throw new Problem(
		'profile.invalid',
		`The profile has ${faults.length === 1 ? 'a fault' : `${faults.length} faults`}: ${faults[0].at}: ${faults[0].says}.`,
		'Correct the part that is named and try again.',
		{ faults }
	);
}
