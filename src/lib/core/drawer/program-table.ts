import {
	areaOf,
	decidersFirst,
	formatValue,
	meaningOf,
	makeSlot,
	readValue,
	shownNumber,
	writeName,
	writeParameter,
	type Profile,
	type ProfileParameter,
	type ProfileRecord,
	type Slot
} from '../profile';
import { Problem } from '../problem';

const SLOT = 'Slot';
const NAME = 'Name';
const plain = (text: string) =>
	text
		.replace(/\u00a0/g, ' ')
		.replace(/\u2212/g, '-')
		.trim();
/** A value whose meaning depends on another has its unit in its cells. */
const header = ({ name, unit, when }: ProfileParameter) => (unit && !when ? `${name} (${unit})` : name);

/** A value as its cell shows it: without its unit, where that stands in the header. */
function cell(record: ProfileRecord, parameter: ProfileParameter, bytes: Uint8Array): string {
	const meaning = meaningOf(record, parameter, bytes);
	return cellOf(meaning, readValue(parameter, bytes), parameter.when !== undefined);
}

function cellOf(parameter: ProfileParameter, value: number, withUnit: boolean): string {
	const shown = plain(formatValue(parameter, value));
	return !withUnit && parameter.unit && shown.endsWith(` ${parameter.unit}`)
		? shown.slice(0, -parameter.unit.length - 1)
		: shown;
}

/** The programs of an area as a table: slot, name, and every parameter as the panel shows it. */
export function programTable(profile: Profile, areaId: string, slots: readonly Slot[]): string[][] {
	const record = profile.records[areaOf(profile, areaId).record];
	return [
		[SLOT, ...(record.name ? [NAME] : []), ...record.parameters.map(header)],
		...slots
			.filter(({ area }) => area === areaId)
			.map((slot) => [
				slot.label,
				...(record.name ? [slot.name ?? ''] : []),
				...record.parameters.map((parameter) => cell(record, parameter, slot.bytes))
			])
	];
}

export interface TableFault {
	/** Row of the table, counted from 1 with the header. */
	row: number;
	column: string;
	says: string;
}

/**
 * Reads a table that was changed in a spreadsheet back into the slots it was made from. A cell that shows what the
 * slot holds leaves it as it is, so that nothing is rounded; unknown columns are ignored.
 * @throws Problem `table.header` where there is no column of slots
 */
export function readProgramTable(
	profile: Profile,
	areaId: string,
	slots: readonly Slot[],
	rows: readonly (readonly string[])[]
): { slots: Slot[]; changed: number; faults: TableFault[] } {
	const record = profile.records[areaOf(profile, areaId).record];
	const [head = [], ...body] = rows;
	const columns = head.map(plain);
	const slotAt = columns.indexOf(SLOT);
	if (slotAt < 0)
		throw new Problem(
			'table.header',
			`The table has no column “${SLOT}”.`,
			'Export it once and change that file.'
		);
	const nameAt = columns.indexOf(NAME);
	const parameters = decidersFirst(record).map((parameter) => ({
		parameter,
		column: columns.indexOf(header(parameter))
	}));
	const faults: TableFault[] = [];
	const byLabel = new Map(slots.filter(({ area }) => area === areaId).map((slot) => [slot.label, slot]));
	const result = new Map(byLabel);
	body.forEach((cells, i) => {
		const row = i + 2;
		if (cells.every((text) => text.trim() === '')) return;
		const label = plain(cells[slotAt] ?? '');
		const slot = byLabel.get(label);
		if (!slot) {
			faults.push({ row, column: SLOT, says: `There is no slot “${label}”.` });
			return;
		}
		let bytes = slot.bytes;
		for (const { parameter, column } of parameters) {
			const text = plain(cells[column] ?? '');
			if (column < 0 || text === '' || text === cell(record, parameter, slot.bytes)) continue;
			const meaning = meaningOf(record, parameter, bytes);
			const value = valueShown(meaning, text);
			if (value === null)
				faults.push({ row, column: header(parameter), says: `“${text}” is no value of ${meaning.name}.` });
			else bytes = writeParameter(meaning, bytes, value);
		}
		if (record.name && nameAt >= 0 && (cells[nameAt] ?? '').trimEnd() !== (slot.name ?? ''))
			try {
				bytes = writeName(profile, record, bytes, (cells[nameAt] ?? '').trimEnd());
			} catch (error) {
				if (!(error instanceof Problem)) throw error;
				faults.push({ row, column: NAME, says: error.message });
			}
		if (bytes !== slot.bytes) result.set(label, makeSlot(profile, areaId, slot.index, bytes));
	});
	const changed = [...result].filter(([label, slot]) => byLabel.get(label) !== slot).length;
	return { slots: [...result.values()], changed, faults };
}

/** The value that the panel shows as `text`; the nearest one for numbers between its ends, or null. */
function valueShown(parameter: ProfileParameter, text: string): number | null {
	const [low, high] = parameter.range;
	for (let value = low; value <= high; value++)
		if (cellOf(parameter, value, false) === text || cellOf(parameter, value, true) === text) return value;
	const wanted = Number(text.replace(',', '.'));
	if (parameter.values || parameter.flags || !Number.isFinite(wanted)) return null;
	const [from, to] = [low, high].map((value) => shownNumber(parameter, value));
	if (wanted < Math.min(from, to) || wanted > Math.max(from, to) || from === to) return null;
	let nearest = low;
	for (let value = low; value <= high; value++)
		if (Math.abs(shownNumber(parameter, value) - wanted) < Math.abs(shownNumber(parameter, nearest) - wanted))
			nearest = value;
	return nearest;
}
