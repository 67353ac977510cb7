import Papa from 'papaparse';

/**
 * The text of a CSV as a parser should get it: without its byte-order mark, its rows ending in one way. A parser takes the
 * first ending for that of all rows, and rows that end otherwise would run into each other. What stands between quotes
 * stays as it is.
 */
export const csvText = (text: string): string =>
	text.replace(/^\uFEFF/, '').replace(/"[^"]*"|\r\n?/g, (found) => (found[0] === '"' ? found : '\n'));

const FORMULA = /^'*[=+\-@\t\r]/;
const NUMBER = /^[-+]?\d+(?:[.,]\d+)?$/;

/** A cell that a spreadsheet would take for a formula, kept from that by an apostrophe. */
const guarded = (cell: unknown): unknown =>
	typeof cell === 'string' && FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell;

/** A cell as it was before it was written: names that begin with a minus come back as themselves. */
const unguarded = (cell: string): string =>
	cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell;

/** Cells as CSV (RFC 4180), with a byte-order mark so that spreadsheets read the accents, and no formula in any of them. */
export const writeCsv = (rows: readonly (readonly unknown[])[]): string =>
	`\uFEFF${Papa.unparse(
		rows.map((cells) => cells.map(guarded)),
		{ newline: '\r\n' }
	)}\r\n`;

/** The rows of a CSV, as the cells were before they were written. Empty rows are passed over. */
export const readCsv = (text: string): { rows: string[][]; errors: Papa.ParseError[] } => {
	const { data, errors } = Papa.parse<string[]>(csvText(text), {
		skipEmptyLines: 'greedy',
		transform: unguarded
	});
	return { rows: data, errors };
};

/** The same with a header: each row by the names of its columns, of two with one name by the first. */
export const readCsvTable = <Row extends object = Record<string, string>>(
	text: string,
	nameOf: (header: string) => string = (header) => header.trim()
): { rows: Row[]; columns: string[] } => {
	const [header = [], ...rows] = readCsv(text).rows;
	const names = header.map(nameOf);
	const columns = [...new Set(names)];
	const places = columns.map((name) => [name, names.indexOf(name)] as const);
	return {
		rows: rows.map(
			(cells) =>
				Object.fromEntries(
					places.flatMap(([name, at]) => (at < cells.length ? [[name, cells[at]]] : []))
				) as Row
		),
		columns
	};
};
