import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readCsv, readCsvTable, writeCsv } from './csv';

/** What spreadsheets begin a formula with. */
const BEGINS = ['=', '+', '-', '@', '\t', '\r', "'"];
const cell = fc.oneof(
	fc.string(),
	fc
		.tuple(fc.constantFrom('', "'", "''"), fc.constantFrom(...BEGINS), fc.string())
		.map((parts) => parts.join(''))
);

it('gives no spreadsheet a formula, and every text back as itself', () => {
	fc.assert(
		fc.property(
			fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 6 }),
			(rows) => {
				// A row of nothing is passed over.
				const told = rows.map((cells) => ['x', ...cells]);
				const text = writeCsv(told);
				expect(readCsv(text).rows).toEqual(told);
				const table = readCsvTable(writeCsv([['a', 'b', 'c', 'd'], ...told]));
				expect(table.rows.map(({ b, c, d }) => [b, c, d])).toEqual(rows);
			}
		),
		{ numRuns: 400 }
	);
	const written = writeCsv([['=1+1', '-5', '+49 30', '@cmd', "'=x", '−5', -5]]);
	expect(written).toBe("\uFEFF'=1+1,-5,'+49 30,'@cmd,''=x,−5,-5\r\n");
});

it('knows columns by their names, whatever these are, and of two with one name the first', () => {
	const { rows, columns } = readCsvTable(' a ,b,a,__proto__\r\n1,2,3,4,5\r\n\r\n6\r\n');
	expect(columns).toEqual(['a', 'b', '__proto__']);
	expect(rows.map((row) => Object.entries(row).sort())).toEqual([
		[
			['__proto__', '4'],
			['a', '1'],
			['b', '2']
		],
		[['a', '6']]
	]);
	expect(readCsvTable('')).toEqual({ rows: [], columns: [] });
});
