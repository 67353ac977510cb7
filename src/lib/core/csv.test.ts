import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { csvText } from './csv';

describe('the text of a CSV', () => {
	const cell = fc.string({ maxLength: 8 }).map((text) => `${text}x`);
	it('has all its rows, however each of them ends, and its cells as they were', () => {
		fc.assert(
			fc.property(
				fc.array(
					fc.tuple(fc.array(cell, { minLength: 2, maxLength: 4 }), fc.constantFrom('\n', '\r\n', '\r')),
					{
						minLength: 1,
						maxLength: 6
					}
				),
				(rows) => {
					const text = rows.map(([cells, end]) => Papa.unparse([cells], { quotes: true }) + end).join('');
					expect(
						Papa.parse(csvText(`\uFEFF${text}`), { delimiter: ',', skipEmptyLines: 'greedy' }).data
					).toEqual(rows.map(([cells]) => cells));
				}
			)
		);
	});
	it('keeps line ends between quotes', () => {
		expect(csvText('a,"one\r\ntwo ""x"""\r\nb,c\r')).toBe('a,"one\r\ntwo ""x"""\nb,c\n');
	});
});
