import { readCsvTable, writeCsv } from '../csv';
import { uniqueId } from '../unique-id';
import {
	CONDITIONS,
	folded,
	PAIRING_RESULTS,
	pairingRecordSchema,
	type ConditionKind,
	type PairingRecord,
	type PairingResult,
	type PairingWay
} from './pairing';

/** Columns of pairings as a table, in their order. */
export const PAIRING_COLUMNS = [
	'From maker',
	'From model',
	'To maker',
	'To model',
	'Way',
	'Does',
	'Result',
	'Limit',
	'Known by',
	'On',
	'From firmware',
	'To firmware',
	'Conditions'
] as const;
type Column = (typeof PAIRING_COLUMNS)[number];

/** RFC 4180, UTF-8 with a byte-order mark. Conditions are `kind: words`, with semicolons between. */
export const pairingTable = (records: readonly PairingRecord[]): string =>
	writeCsv([
		[...PAIRING_COLUMNS],
		...records.map(({ from, to, way, does, result, limit, known, conditions }) => [
			from.maker,
			from.model,
			to.maker,
			to.model,
			way,
			does,
			result,
			limit,
			known.by,
			known.on,
			known.fromFirmware,
			known.toFirmware,
			conditions.map(({ what, is }) => `${what}: ${is.replace(/([\\;])/g, '\\$1')}`).join('; ')
		])
	]);

/** A cell that says what it cannot mean. */
export interface PairingFault {
	/** Line of the file, the header being line 1. */
	line: number;
	says: string;
}

/** Pieces between semicolons that no backslash stands before. */
function pieces(cell: string): string[] {
	const found = [''];
	for (let i = 0; i < cell.length; i++) {
		if (cell[i] === '\\' && i + 1 < cell.length) found[found.length - 1] += cell[++i];
		else if (cell[i] === ';') found.push('');
		else found[found.length - 1] += cell[i];
	}
	return found.map((piece) => piece.trim()).filter(Boolean);
}

/** Reads a table: all of it, or the cells that are wrong. @param taken ids that are given out already */
export function readPairingTable(
	text: string,
	taken: ReadonlySet<string> = new Set()
): { records: PairingRecord[]; faults: PairingFault[] } {
	const { rows, columns: fields } = readCsvTable(text);
	const columns = new Map(fields.map((field) => [folded(field), field]));
	const missing = (['From model', 'To model', 'Way', 'Does', 'Result'] as const).filter(
		(column) => !columns.has(folded(column))
	);
	if (missing.length > 0)
		return { records: [], faults: [{ line: 1, says: `There is no column ${missing.join(', ')}.` }] };
	const ids = new Set(taken);
	const faults: PairingFault[] = [];
	const records = rows.flatMap((row, r): PairingRecord[] => {
		const cell = (column: Column) => (row[columns.get(folded(column)) ?? ''] ?? '').trim();
		const resultWord = folded(cell('Result'));
		const result =
			(Object.keys(PAIRING_RESULTS) as PairingResult[]).find(
				(key) => key === resultWord || PAIRING_RESULTS[key] === resultWord
			) ?? resultWord;
		const parts = pieces(row[columns.get('conditions') ?? ''] ?? '');
		const read = pairingRecordSchema.safeParse({
			id: uniqueId(`${cell('From model')} ${cell('To model')} ${cell('Does')}`, ids, 'pairing'),
			from: { maker: cell('From maker'), model: cell('From model') },
			to: { maker: cell('To maker'), model: cell('To model') },
			way: folded(cell('Way')) as PairingWay,
			does: cell('Does'),
			result,
			limit: cell('Limit'),
			known: {
				by: folded(cell('Known by')) || 'manual',
				on: cell('On'),
				fromFirmware: cell('From firmware'),
				toFirmware: cell('To firmware')
			},
			conditions: parts.map((part) => {
				const colon = part.indexOf(':');
				const what = folded(part.slice(0, Math.max(0, colon)));
				return Object.hasOwn(CONDITIONS, what)
					? { what: what as ConditionKind, is: part.slice(colon + 1).trim() }
					: { what: 'other' as const, is: part };
			})
		});
		if (read.success) return [read.data];
		const [issue] = read.error.issues;
		faults.push({ line: r + 2, says: `${issue.path.join(' ')}: ${issue.message}` });
		return [];
	});
	return { records, faults };
}
