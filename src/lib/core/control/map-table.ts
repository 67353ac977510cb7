import { readCsvTable, writeCsv } from '../csv';
import { applyEdits, type Edit } from '../edit';
import { linkSchema, MOST_LINKS, REACHES, type Assignment, type ControlMap, type Link } from './map';
import { GESTURES, type Gesture } from './surface';
import { meantBy, targetWords } from './target-words';
import { listEdits } from './written';

/** Columns of a map as a table, in their order: a row for each target of a line. */
export const TABLE_COLUMNS = [
	'Page',
	'Control',
	'Gesture',
	'Target',
	'Channel',
	'From',
	'To',
	'Inverted',
	'Curve',
	'Kept',
	'Sends',
	'Steps',
	'Value',
	'Quickest notch',
	'Name',
	'Colour'
] as const;
export type TableColumn = (typeof TABLE_COLUMNS)[number];
export type TableRow = Record<TableColumn, string>;

const EVERY = 'every';
const NOTHING = '—';
const WAYS: readonly Assignment['way'][] = ['absolute', 'relative', 'momentary', 'toggle', 'value', 'rest'];
const STEPS: readonly NonNullable<Assignment['encoding']>[] = ['twos-complement', 'sign-bit', 'offset-64'];
const CURVES: readonly Link['curve'][] = ['even', 'slow-start', 'slow-end'];

/** Controls by the word that stands for them in a table: their name where it is theirs alone. */
function controlWords({ surface }: ControlMap): Map<string, string> {
	const times = new Map<string, number>();
	for (const { name } of surface.controls) times.set(name, (times.get(name) ?? 0) + 1);
	return new Map(surface.controls.map(({ id, name }) => [id, times.get(name) === 1 ? name : id]));
}

/** A map as rows: what is the same on every page, then each page in its order. */
export function tableOf(map: ControlMap): TableRow[] {
	const names = controlWords(map);
	const rows = (page: string, assignments: readonly Assignment[]): TableRow[] =>
		assignments.flatMap((assignment) => {
			const { control, gesture, empty, way, encoding, value, acceleration, name, colour } = assignment;
			const line = {
				Page: page,
				Control: names.get(control) ?? control,
				Gesture: gesture,
				Sends: way,
				Steps: encoding ?? '',
				Value: value === undefined ? '' : String(value),
				'Quickest notch': acceleration === undefined ? '' : String(acceleration),
				Name: name,
				Colour: colour
			};
			const none = { Channel: '', From: '', To: '', Inverted: '', Curve: '', Kept: '' };
			if (assignment.links.length === 0) return [{ ...none, ...line, Target: empty ? NOTHING : '' }];
			return assignment.links.map((link) => ({
				...line,
				Target: targetWords(map, link),
				Channel: String(link.channel),
				From: link.from === undefined ? '' : String(link.from),
				To: link.to === undefined ? '' : String(link.to),
				Inverted: link.inverted ? 'yes' : '',
				Curve: link.curve,
				Kept: link.reach
			}));
		});
	return [
		...rows(EVERY, map.globals),
		...map.pages.flatMap(({ number, assignments }) => rows(String(number), assignments))
	];
}

/** A map as CSV (RFC 4180, with a byte-order mark). */
export const tableCsv = (map: ControlMap): string =>
	writeCsv([[...TABLE_COLUMNS], ...tableOf(map).map((row) => TABLE_COLUMNS.map((column) => row[column]))]);

/** What is wrong with a table: the line of the file, from 1, and the column. */
export interface TableFault {
	line: number;
	column: TableColumn;
	says: string;
}

/**
 * The edits that make a map say what a table does, or everything that is wrong with it. Columns that are left out say
 * nothing of a line. Pages that the table does not name are empty afterwards, and keep their names.
 */
export function readTable(map: ControlMap, text: string): { edits: Edit[] } | { faults: TableFault[] } {
	const { rows, columns } = readCsvTable<Partial<TableRow>>(text);
	const missing = (['Page', 'Control', 'Target'] as const).filter((column) => !columns.includes(column));
	if (missing.length > 0)
		return {
			faults: missing.map((column) => ({ line: 1, column, says: `There is no column “${column}”.` }))
		};
	const reader = new TableReader(map);
	rows.forEach((row, i) => reader.read(row, i + 2));
	if (reader.faults.length > 0) return { faults: reader.faults };
	const on = (page: string) => [...(reader.pages.get(page)?.values() ?? [])];
	const known = new Set(map.pages.map(({ number }) => String(number)));
	const anew = [...reader.pages.keys()]
		.filter((page) => page !== EVERY && !known.has(page))
		.map((page) => ({ number: Number(page), name: '', programs: [], assignments: on(page) }));
	return {
		edits: [
			...reader.edits,
			{ path: ['globals'], value: on(EVERY) },
			{
				path: ['pages'],
				value: [
					...map.pages.map((page) => ({ ...page, assignments: on(String(page.number)) })),
					...anew
				].sort((a, b) => a.number - b.number)
			}
		]
	};
}

/** A cell without the mark that keeps a spreadsheet from working it out. */
const plain = (text: string | undefined): string => (text?.trim() ?? '').replace(/^'(?=[=+\-@])/, '');

/** Reads row after row; rows of one line go together. */
class TableReader {
	readonly faults: TableFault[] = [];
	readonly edits: Edit[] = [];
	readonly pages = new Map<string, Map<string, Assignment>>();
	#map: ControlMap;
	readonly #controls: ReadonlyMap<string, string>;

	constructor(map: ControlMap) {
		this.#map = map;
		const words = controlWords(map);
		this.#controls = new Map([
			...[...words].map(([id, word]) => [word.toLowerCase(), id] as const),
			...[...words.keys()].map((id) => [id, id] as const)
		]);
	}

	read(row: Partial<TableRow>, line: number): void {
		const cell = (column: TableColumn) => plain(row[column]);
		const before = this.faults.length;
		const fault = (column: TableColumn, says: string) => void this.faults.push({ line, column, says });
		const one = <T extends string>(column: TableColumn, of: readonly T[], otherwise: T): T => {
			const text = cell(column).toLowerCase();
			if (text === '') return otherwise;
			const found = of.find((each) => each === text);
			if (!found) fault(column, `“${cell(column)}” is none of ${of.join(', ')}.`);
			return found ?? otherwise;
		};
		const number = (column: TableColumn, least = -Infinity, most = Infinity): number | undefined => {
			const text = cell(column);
			if (text === '') return undefined;
			const value = Number(text.replace(',', '.'));
			if (Number.isFinite(value) && value >= least && value <= most) return value;
			fault(
				column,
				least === -Infinity ? `“${text}” is no number.` : `“${text}” is no number from ${least} to ${most}.`
			);
			return undefined;
		};
		const { pages: told, controls } = this.#map.surface;
		const page = cell('Page').toLowerCase() === EVERY ? EVERY : String(number('Page', 1, told.count) ?? '');
		if (page === '' && cell('Page') === '')
			fault('Page', `It is a number from 1 to ${told.count}, or “${EVERY}”.`);
		if (page !== '' && page !== EVERY && !Number.isInteger(Number(page)))
			fault('Page', `“${page}” is no whole number.`);
		const id = this.#controls.get(cell('Control').toLowerCase()) ?? this.#controls.get(cell('Control'));
		const control = controls.find((each) => each.id === id);
		if (!control) return fault('Control', `There is no control “${cell('Control')}”.`);
		const gesture = one<Gesture>('Gesture', GESTURES, control.gestures[0]);
		if (!control.gestures.includes(gesture))
			fault('Gesture', `${control.name} has no “${gesture}”: it has ${control.gestures.join(', ')}.`);
		const encoding = cell('Steps') === '' ? undefined : one('Steps', STEPS, 'twos-complement');
		const [value, acceleration] = [number('Value'), number('Quickest notch', 1, 100)];
		const line_: Omit<Assignment, 'links'> = {
			control: control.id,
			gesture,
			empty: cell('Target') === NOTHING || cell('Target') === '-',
			way: one('Sends', WAYS, 'absolute'),
			...(encoding ? { encoding } : {}),
			...(value === undefined ? {} : { value }),
			...(acceleration === undefined ? {} : { acceleration }),
			name: cell('Name').slice(0, 60),
			colour: cell('Colour').slice(0, 30)
		};
		const links = line_.empty || cell('Target') === '' ? [] : this.#links(row, { fault, one, number });
		if (this.faults.length > before) return;
		const key = `${control.id} ${gesture}`;
		const on = this.pages.get(page) ?? new Map<string, Assignment>();
		this.pages.set(page, on);
		const there = on.get(key);
		if (there && (there.links.length === 0 || links.length === 0))
			return fault('Target', `${control.name} has a row before that says otherwise.`);
		if (there && there.links.length >= MOST_LINKS)
			return fault('Target', `${control.name} tells ${MOST_LINKS} targets at most.`);
		on.set(key, there ? { ...there, links: [...there.links, ...links] } : { ...line_, links });
	}

	#links(
		row: Partial<TableRow>,
		{
			fault,
			one,
			number
		}: {
			fault: (column: TableColumn, says: string) => void;
			one: <T extends string>(column: TableColumn, of: readonly T[], otherwise: T) => T;
			number: (column: TableColumn, least?: number, most?: number) => number | undefined;
		}
	): Link[] {
		const meant = meantBy(this.#map, plain(row.Target));
		if (meant.is !== 'target' || meant.also) {
			fault('Target', meant.is === 'unknown' ? meant.says : 'One target a row.');
			return [];
		}
		const added = listEdits(this.#map, meant.list, meant.adds);
		this.edits.push(...added);
		this.#map = applyEdits(this.#map, added);
		const told = number('Channel', 1, 16);
		const channel = told ?? meant.channel ?? 0;
		const said = plain(row.Channel) !== '' && told === undefined;
		if (!said && (channel < 1 || !Number.isInteger(channel)))
			fault('Channel', 'It is a whole number from 1 to 16.');
		const [from, to] = [number('From'), number('To')];
		return [
			linkSchema.parse({
				list: meant.list,
				target: meant.target,
				channel: Number.isInteger(channel) && channel > 0 ? channel : 1,
				...(from === undefined ? {} : { from }),
				...(to === undefined ? {} : { to }),
				inverted: one('Inverted', ['yes', 'no'], 'no') === 'yes',
				curve: one('Curve', CURVES, 'even'),
				reach: one('Kept', Object.keys(REACHES) as Link['reach'][], 'template')
			})
		];
	}
}
