import type { TextField } from '../charset';
import { fieldSpan } from '../field';
import { MOST_FIELDS, type Profile, type ProfileRecord } from '../schema';
import type { Fault } from './fault';

/** A row that was left: it is not there, or all of them come to more than anybody can mean. */
const rowFault = (each: string | string[]): string =>
	`there is no row “${[each].flat().join(', ')}”, or the record has more than ${MOST_FIELDS.toLocaleString('en')} fields`;

export function recordFaults(profile: Profile): Fault[] {
	const faults: Fault[] = [];
	for (const [id, record] of Object.entries(profile.records)) {
		const { name } = record;
		const textFaults = (field: TextField, path: (string | number)[], what: string) => {
			const end = field.offset + field.length;
			if (end > record.size)
				faults.push({ path, says: `${what} ends at byte ${end}, the record at ${record.size}` });
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
			const [low, high] = parameter.range;
			if (high < low || high >= 2 ** parameter.bits)
				faults.push({
					path: [...path, 'range'],
					says: `${low} to ${high} does not fit in ${parameter.bits} bits`
				});
			if (parameter.values && parameter.values.length !== high - low + 1)
				faults.push({
					path: [...path, 'values'],
					says: `${parameter.values.length} names for ${high - low + 1} values`
				});
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
