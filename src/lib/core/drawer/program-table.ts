import {
	areaOf,
	formatValue,
	makeSlot,
	readParameter,
	writeName,
	writeParameter,
	type Profile,
	type ProfileParameter,
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
const header = ({ name, unit }: ProfileParameter) => (unit ? `${name} (${unit})` : name);

/** A value without its unit, which stands in the header. */
function cell(parameter: ProfileParameter, raw: number): string {
	const shown = plain(formatValue(parameter, raw));
	return parameter.unit && shown.endsWith(` ${parameter.unit}`)
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
				...record.parameters.map((parameter) => cell(parameter, readParameter(parameter, slot.bytes)))
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
	const at = record.parameters.map((parameter) => columns.indexOf(header(parameter)));
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
		record.parameters.forEach((parameter, p) => {
			const text = plain(cells[at[p]] ?? '');
			if (at[p] < 0 || text === '' || text === cell(parameter, readParameter(parameter, bytes))) return;
			const raw = rawOf(parameter, text);
			if (raw === null)
				faults.push({ row, column: header(parameter), says: `“${text}” is no value of ${parameter.name}.` });
			else bytes = writeParameter(parameter, bytes, raw);
		});
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

/** The raw value that the panel shows as `text`; the nearest one for numbers in range, or null. */
function rawOf(parameter: ProfileParameter, text: string): number | null {
	const [low, high] = parameter.range;
	for (let raw = low; raw <= high; raw++)
		if (cell(parameter, raw) === text || plain(formatValue(parameter, raw)) === text) return raw;
	const value = Number(text.replace(',', '.'));
	if (parameter.values || text === '' || !Number.isFinite(value)) return null;
	const [from, to] = parameter.shows ?? [low, high];
	if (value < Math.min(from, to) || value > Math.max(from, to) || from === to) return null;
	return Math.round(low + ((value - from) / (to - from)) * (high - low));
}
