import { readCsvTable } from '../csv';
import { Problem } from '../problem';
import { readDocument } from '../reading';
import { uniqueId } from '../unique-id';
import type { Edit } from '../edit';
import { linksOf, type ControlMap } from './map';
import { targetsOfNameDocument } from './targets-midnam';
import { targetListSchema, type TargetList } from '../profile';

/** What a file of targets holds. */
export interface ReadTargets {
	lists: TargetList[];
	/** What was left out, in words. */
	left: string[];
}

/** A cell as a number; nothing where it is blank. @throws Problem `targets.invalid` */
function numberIn(row: Record<string, string>, column: string, line: number): number | undefined {
	const text = row[column]?.trim() ?? '';
	if (text === '') return undefined;
	const value = Number(text.replace(',', '.'));
	if (Number.isFinite(value)) return value;
	throw new Problem(
		'targets.invalid',
		`Line ${line}: ${column} is “${text}”, which is no number.`,
		'Correct it.'
	);
}
const yes = (text: string | undefined) => /^(yes|y|1|true|x)$/i.test(text?.trim() ?? '');

/** A CSV with a header: `name`, `kind`, `number`, and where wanted `low`, `high`, `unit`, `from`, `to`, `switch`, `held`, `level`. */
function targetsOfCsv(text: string, name: string): ReadTargets {
	const { rows, columns } = readCsvTable(text, (header) => header.trim().toLowerCase());
	const missing = ['name', 'kind'].filter((column) => !columns.includes(column));
	if (missing.length > 0)
		throw new Problem(
			'targets.no-header',
			`The first line names no column ${missing.join(' and no ')}.`,
			'Name the columns: name, kind, number, low, high, unit, from, to, switch, held, level.'
		);
	const used = new Set<string>();
	const targets = rows.map((row, i) => {
		const line = i + 2;
		const id = uniqueId(row.name ?? '', used, 'target');
		const [from, to] = [numberIn(row, 'from', line), numberIn(row, 'to', line)];
		const kind = row.kind?.trim().toLowerCase() ?? '';
		const read = targetListSchema.shape.targets.element.safeParse({
			id,
			name: row.name?.trim() ?? '',
			address: { kind, number: numberIn(row, 'number', line) },
			low: numberIn(row, 'low', line),
			high: numberIn(row, 'high', line) ?? (/^(cc-14|rpn|nrpn|pitch-bend)$/.test(kind) ? 16383 : undefined),
			unit: row.unit?.trim(),
			...(from !== undefined && to !== undefined ? { scale: { kind: 'even', from, to } } : {}),
			switch: yes(row.switch),
			held: yes(row.held),
			level: yes(row.level)
		});
		if (read.success) return read.data;
		const [{ path, message }] = read.error.issues;
		throw new Problem(
			'targets.invalid',
			`Line ${line}: ${path.join(' ') || 'the line'}: ${message}.`,
			'Correct it; nothing was taken over.'
		);
	});
	if (targets.length === 0)
		throw new Problem('targets.empty', 'The file has a header and no target.', 'Add a line for each target.');
	const list = {
		format: 'silent-drawer.targets',
		version: 1,
		id: uniqueId(name, new Set(), 'targets'),
		name,
		targets
	};
	return { lists: [targetListSchema.parse(list)], left: [] };
}

/**
 * Reads what can be told, from a `silent-drawer.targets` file, a MIDI name document or a CSV, told apart by what they are.
 * @param file its name, by which a CSV's list is called
 * @throws Problem `targets.…`
 */
export function readTargets(text: string, file: string): ReadTargets {
	const begins = text.replace(/^\uFEFF/, '').trimStart();
	if (begins.startsWith('<')) return targetsOfNameDocument(text);
	if (begins.startsWith('{')) {
		const { value, ignored } = readDocument(targetListSchema, text, 'targets');
		return { lists: [value], left: ignored.map((field) => `The format does not know ${field}.`) };
	}
	return targetsOfCsv(text, file.replace(/\.[^.]*$/, '').slice(0, 60) || 'Targets');
}

/** A list in the place of one of its name: what a control still tells and the new one does not know stays. */
function withStillTold(map: ControlMap, old: TargetList, list: TargetList): TargetList {
	const told = new Set(
		[...linksOf(map), ...map.songs.flatMap(({ touches }) => touches)]
			.filter((link) => link.list === old.id)
			.map(({ target }) => target)
	);
	const known = new Set(list.targets.map(({ id }) => id));
	return {
		...list,
		targets: [...list.targets, ...old.targets.filter(({ id }) => told.has(id) && !known.has(id))]
	};
}

/** Brings lists into a map. One of an id that is there takes its place if it is called the same, else it gets another id. */
export function bringLists(map: ControlMap, lists: readonly TargetList[]): Edit[] {
	const ids = map.lists.map(({ id, name }) => ({ id, name }));
	return lists.map((list) => {
		const same = ids.findIndex(({ id, name }) => id === list.id && name === list.name);
		if (same >= 0) return { path: ['lists', same], value: withStillTold(map, map.lists[same], list) };
		let { id } = list;
		for (let n = 2; ids.some((each) => each.id === id); n++) id = `${list.id.slice(0, 56)}-${n}`;
		ids.push({ id, name: list.name });
		return { path: ['lists', ids.length - 1], value: { ...list, id } };
	});
}
