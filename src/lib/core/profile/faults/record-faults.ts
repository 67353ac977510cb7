import { largestCode, textBits, type TextField } from '../text-codes';
import { fieldSpan } from '../field';
import { MOST_FIELDS, type Profile, type ProfileParameter, type ProfileRecord } from '../schema';
import { valueLimits } from '../value';
import type { Fault } from './fault';

/** A row that was left: it is not there, or all of them come to more than anybody can mean. */
const rowFault = (each: string | string[]): string =>
	`there is no row “${[each].flat().join(', ')}”, or the record has more than ${MOST_FIELDS.toLocaleString('en')} fields`;

export function recordFaults(profile: Profile): Fault[] {
	const faults: Fault[] = [];
	for (const [id, record] of Object.entries(profile.records)) {
		const { name } = record;
		const textFaults = (field: TextField, path: (string | number)[], what: string) => {
			const elsewhere = (field.then ?? []).reduce((sum, { length }) => sum + length, 0);
			if (elsewhere >= field.length)
				return void faults.push({
					path: [...path, 'then'],
					says: `${what} has no characters left before it`
				});
			const end = Math.max(...textBits(field).map(({ at }) => at)) + 1;
			if (end > record.size)
				faults.push({ path, says: `${what} ends at byte ${end}, the record at ${record.size}` });
			const set = profile.charsets[field.charset];
			const tables = set ? [set, ...(set.shifts ?? [])] : [];
			const large = tables.find(
				({ first, characters }) => first + characters.length - 1 > largestCode(field)
			);
			if (large)
				faults.push({
					path: [...path, 'charset'],
					says: `its codes go to ${large.first + large.characters.length - 1}, and ${largestCode(field)} is the largest that fits`
				});
			if (field.charset !== 'ascii' && !profile.charsets[field.charset])
				faults.push({ path: [...path, 'charset'], says: `there is no charset “${field.charset}”` });
		};
		faults.push(...sectionFaults(id, record));
		if (name) textFaults(name, ['records', id, 'name'], 'the name');
		record.texts.forEach((text, i) => {
			const path = ['records', id, 'texts', i];
			textFaults(text, path, `“${text.name}”`);
			if (text.each !== undefined) faults.push({ path: [...path, 'each'], says: rowFault(text.each) });
			if (record.texts.findIndex((other) => other.id === text.id) !== i)
				faults.push({ path: [...path, 'id'], says: `“${text.id}” is used twice` });
		});
		if (record.category && !record.parameters.find(({ id: own }) => own === record.category)?.values)
			faults.push({
				path: ['records', id, 'category'],
				says: `there is no parameter “${record.category}” with named values`
			});
		record.parameters.forEach((parameter, i) => {
			const path = ['records', id, 'parameters', i];
			if (parameter.each !== undefined)
				faults.push({
					path: [...path, 'each'],
					says: rowFault(parameter.each)
				});
			if (parameter.offset + fieldSpan(parameter) > record.size)
				faults.push({
					path: [...path, 'offset'],
					says: `“${parameter.name}” reaches past the record's ${record.size} bytes`
				});
			faults.push(...meaningFaults(parameter, parameter, path), ...dependenceFaults(record, parameter, path));
			if (record.parameters.findIndex((other) => other.id === parameter.id) !== i)
				faults.push({ path: [...path, 'id'], says: `“${parameter.id}” is used twice` });
		});
	}
	return faults;
}

/** Sections lie end to end and make up the record. */
function sectionFaults(id: string, { sections, size }: ProfileRecord): Fault[] {
	if (!sections) return [];
	const path = ['records', id, 'sections'];
	const sum = sections.reduce((all, each) => all + each.size * (each.times ?? 1), 0);
	return [
		...(sum === size ? [] : [{ path, says: `they come to ${sum} bytes, the record has ${size}` }]),
		...sections.flatMap((section, i): Fault[] => [
			...(sections.findIndex((other) => other.id === section.id) === i
				? []
				: [{ path: [...path, i, 'id'], says: `“${section.id}” is used twice` }]),
			...(section.every !== undefined && section.times === undefined
				? [{ path: [...path, i, 'every'], says: `“${section.name}” is there once` }]
				: [])
		])
	];
}

type Path = (string | number)[];
type Meaning = Omit<NonNullable<ProfileParameter['when']>['cases'][number], 'is'>;

/** What a value means fits what can be written: its range in its bits, a name for each value, a curve that can be drawn. */
function meaningFaults(parameter: ProfileParameter, meaning: Meaning, path: Path): Fault[] {
	const faults: Fault[] = [];
	const { range, values, shows, curve, points } = meaning;
	const [low, high] = range;
	const [least, most] = valueLimits({ ...parameter, range });
	if (high < low || low < least || high > most)
		faults.push({
			path: [...path, 'range'],
			says: `${low} to ${high} does not fit in ${parameter.bits} bits`
		});
	if (values && values.length !== high - low + 1)
		faults.push({
			path: [...path, 'values'],
			says: `${values.length} names for ${high - low + 1} values`
		});
	if (curve && !shows)
		faults.push({ path: [...path, 'curve'], says: 'a curve needs the two ends that it shows' });
	if (curve === 'exponential' && shows && shows[0] * shows[1] <= 0)
		faults.push({
			path: [...path, 'shows'],
			says: 'what multiplies step by step neither begins at nought nor passes it'
		});
	if (curve === 'logarithmic' && low <= 0)
		faults.push({ path: [...path, 'range'], says: 'a logarithmic one begins above nought' });
	if (points?.some(([at], i) => i > 0 && at <= points[i - 1][0]))
		faults.push({ path: [...path, 'points'], says: 'they go upwards' });
	return faults;
}

/** A parameter whose meaning depends on another: that one is there and depends on nothing itself. */
function dependenceFaults(record: ProfileRecord, parameter: ProfileParameter, path: Path): Fault[] {
	const { when } = parameter;
	if (!when) return [];
	const decides = record.parameters.find(({ id }) => id === when.parameter);
	if (!decides || decides.when || decides === parameter)
		return [
			{
				path: [...path, 'when', 'parameter'],
				says: decides
					? `what “${when.parameter}” means depends itself on another`
					: `there is no parameter “${when.parameter}”`
			}
		];
	return when.cases.flatMap((each, i) => meaningFaults(parameter, each, [...path, 'when', 'cases', i]));
}
