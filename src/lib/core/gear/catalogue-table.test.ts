import { expect, it } from 'vitest';
import { deviceSchema, readCatalogue, writeCatalogue, type Device } from '.';

const read = (headers: string[], rows: string[][], known: string[] = []) =>
	readCatalogue(headers, rows, new Set(known), new Set(['vellbrook-orrery']));

it('reads its own table back', () => {
	const facts = deviceSchema.parse({
		name: 'Orrery, old',
		maker: 'Vellbrook',
		channel: 3,
		deviceId: 0,
		profileId: 'vellbrook-orrery',
		batteryFitted: '2020-02-01',
		batteryYears: 7.5
	});
	const [header, ...rows] = writeCatalogue([
		{ ...facts, id: 'x', benchUnit: null, archivedAt: null } as Device
	]);
	const preview = read(header, rows);
	expect(preview.faults).toEqual([]);
	expect(preview.rows[0].device).toEqual({ ...facts, ports: [] });
});

it('understands other headers, and says which it leaves out', () => {
	const preview = read(['Device', 'brand', 'Location', 'Colour'], [['A', 'B', 'Desk', 'red']]);
	expect(preview.columns.map(({ field }) => field)).toEqual(['name', 'maker', 'place', null]);
	expect(preview.rows[0].device).toMatchObject({ name: 'A', maker: 'B', place: 'Desk' });
});

it('tells row by row what is wrong', () => {
	const preview = read(
		['Name', 'Channel', 'Profile'],
		[
			['', '1', ''],
			['B', 'seven', ''],
			['C', '1', 'nothing'],
			['D', '1', ''],
			['d', '2', ''],
			['E', '1', '', 'extra']
		],
		['d']
	);
	expect(preview.rows.map(({ line, faults }) => [line, faults.map(({ column }) => column)])).toEqual([
		[2, ['Name']],
		[3, ['Channel']],
		[4, ['Profile']],
		[5, []],
		[6, ['Name']],
		[7, ['']]
	]);
	expect(preview.rows[3].known).toBe(true);
});

it('needs a name column, each column once, and a row', () => {
	expect(read(['Maker'], [['x']]).faults[0]).toContain('no column “Name”');
	expect(read(['Name', 'Device'], [['x', 'y']]).faults[0]).toContain('Several columns');
	expect(read(['Name'], []).faults[0]).toContain('no row');
});
