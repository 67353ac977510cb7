import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { mapSchema, type ControlMap } from './map';
import { assigned, LISTS, mapOf } from './map.fixture';
import { readTable, tableCsv, TABLE_COLUMNS } from './map-table';
import { GESTURES } from './surface';

const read = (map: ControlMap, text: string): ControlMap => {
	const found = readTable(map, text);
	if ('faults' in found) throw new Error(JSON.stringify(found.faults));
	return mapSchema.parse(applyEdits(map, found.edits));
};
/** Names that are hard to tell apart: as numbers, dashes, channels, twice in a list, with signs of the table itself. */
const HARD = {
	...LISTS[1],
	id: 'hard',
	name: 'Hard; "names"',
	targets: ['CC 20', '—', 'Level ch 5', 'Level', 'level', 'a; b', '=SUM(1)', 'Cutoff', 'Zwei, drei'].map(
		(name, i) => ({
			id: `t${i}`,
			name,
			address: { kind: 'cc', number: 40 + i },
			scale: { kind: 'even', from: -3.7, to: 1 / 3 }
		})
	)
};
const base = mapOf('osier-weir-9', { lists: [...LISTS, HARD] });
const anyLink = fc
	.record({
		of: fc.constantFrom(
			...base.lists.flatMap((list) => list.targets.map((target) => [list.id, target.id] as const))
		),
		channel: fc.integer({ min: 1, max: 16 }),
		from: fc.option(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e6, max: 1e6 }), {
			nil: undefined
		}),
		inverted: fc.boolean(),
		curve: fc.constantFrom('even', 'slow-start', 'slow-end'),
		reach: fc.constantFrom('template', 'song', 'instance')
	})
	.map(({ of: [list, target], from, ...rest }) => ({
		list,
		target,
		...rest,
		...(from === undefined ? {} : { from: from + 0 })
	}));
const anyPage = fc.uniqueArray(
	fc.record({
		at: fc.constantFrom(
			...base.surface.controls.flatMap(({ id, gestures }) =>
				gestures.map((gesture) => [id, gesture] as const)
			)
		),
		links: fc.array(anyLink, { maxLength: 3 }),
		way: fc.constantFrom('absolute', 'relative', 'momentary', 'toggle', 'value'),
		name: fc.constantFrom('', 'Cut', 'a,b', 'say "x"', 'Größe'),
		acceleration: fc.option(fc.constantFrom(1, 2.5), { nil: undefined }),
		value: fc.option(fc.constantFrom(0, -0.25, 7), { nil: undefined })
	}),
	{ selector: ({ at }) => at.join(), maxLength: 12 }
);
const assignments = (page: { at: readonly [string, string]; links: unknown[] }[]) =>
	page.map(({ at: [control, gesture], links, ...rest }) => ({
		control,
		gesture,
		links,
		empty: links.length === 0,
		...rest
	}));

describe('a map as a table', () => {
	it('is read back as it was, whatever its names are', () => {
		fc.assert(
			fc.property(anyPage, anyPage, anyPage, (one, two, all) => {
				const map = mapSchema.parse({
					...base,
					globals: assignments(all),
					pages: [
						{ number: 1, name: 'Dusk', assignments: assignments(one) },
						{ number: 3, assignments: assignments(two) }
					]
				});
				expect(read(map, tableCsv(map))).toEqual(map);
				// And into a map that has nothing yet but its lists.
				const anew = read({ ...map, globals: [], pages: [map.pages[0]] }, tableCsv(map));
				expect(anew.globals).toEqual(map.globals);
				expect(anew.pages[0]).toEqual(map.pages[0]);
				expect(anew.pages[1]?.assignments ?? []).toEqual(map.pages[1].assignments);
			}),
			{ numRuns: 60 }
		);
	});

	it('is what a spreadsheet shows: a row for each target', () => {
		const map = mapOf('osier-weir-9', {
			pages: [
				{
					number: 2,
					assignments: [
						{
							...assigned('fader-1', 'cutoff', { name: 'Cut' }, { from: 100 }),
							links: [
								{ list: 'umbra', target: 'cutoff', channel: 2, from: 100 },
								{ list: 'host', target: 'pan', channel: 9 }
							]
						},
						{ control: 'key-1', gesture: 'push', empty: true }
					]
				}
			]
		});
		const rows = Papa.parse<string[]>(tableCsv(map).replace('\uFEFF', ''), { skipEmptyLines: true }).data;
		expect(rows[0]).toEqual([...TABLE_COLUMNS]);
		expect(rows.slice(1).map((row) => row.slice(0, 6))).toEqual([
			['2', 'Fader 1', 'move', 'Cutoff', '2', '100'],
			['2', 'Fader 1', 'move', 'Track pan', '9', ''],
			['2', 'Key 1', 'push', '—', '', '']
		]);
	});

	it('takes what somebody wrote with few columns', () => {
		const map = read(
			base,
			'Page,Control,Target\n1,fader 2,CC 99 ch 3\nevery,Fader 3,Resonance ch 2\n4,key-1,note 40 ch 10\n'
		);
		expect(map.globals).toMatchObject([{ control: 'fader-3', links: [{ target: 'resonance', channel: 2 }] }]);
		expect(
			map.pages.map(({ number, assignments: all }) => [
				number,
				all.map(({ control, gesture }) => `${control} ${gesture}`)
			])
		).toEqual([
			[1, ['fader-2 move']],
			[4, ['key-1 push']]
		]);
	});

	it('that is wrong is told cell by cell, and none of it is made', () => {
		const faulty = [
			'Page,Control,Gesture,Target,Channel,From,Curve,Sends',
			'9,Fader 1,,Cutoff,1,,,',
			'1,Slider,,Cutoff,1,,,',
			'1,Fader 1,push,Cutoff,1,,,',
			'1,Fader 1,,Nonsense,1,,,',
			'1,Fader 1,,Cutoff,,,,',
			'1,Fader 1,,Cutoff,17,,,',
			'1,Fader 1,,Cutoff,1,low,round,often',
			'1,Fader 2,,—,,,,',
			'1,Fader 2,,Cutoff,1,,,',
			',Fader 2,,Cutoff,1,,,'
		].join('\n');
		const found = readTable(mapOf('osier-weir-9'), faulty);
		expect('faults' in found && found.faults.map(({ line, column }) => `${line} ${column}`)).toEqual([
			'2 Page',
			'3 Control',
			'4 Gesture',
			'5 Target',
			'6 Channel',
			'7 Channel',
			'8 Sends',
			'8 From',
			'8 Curve',
			'10 Target',
			'11 Page'
		]);
		expect(readTable(base, 'Seite;Regler\n1;2')).toEqual({
			faults: ['Page', 'Control', 'Target'].map((column) => ({ line: 1, column, says: expect.any(String) }))
		});
	});

	it('whatever it holds, is read or refused, and starts no formula', () => {
		const cells = fc.array(
			fc.array(fc.oneof(fc.string(), fc.constantFrom('1', 'every', 'Fader 1', 'Cutoff', '—')), {
				maxLength: 6
			}),
			{ maxLength: 6 }
		);
		fc.assert(
			fc.property(
				fc.oneof(
					fc.string(),
					cells.map((rows) => Papa.unparse([['Page', 'Control', 'Target', 'Channel', 'From'], ...rows]))
				),
				(text) => {
					const found = readTable(base, text);
					if ('edits' in found) mapSchema.parse(applyEdits(base, found.edits));
					else expect(found.faults.length).toBeGreaterThan(0);
				}
			)
		);
		const formula = mapOf('osier-weir-9', {
			lists: [...LISTS, HARD],
			pages: [{ number: 1, assignments: [assigned('fader-1', 'cutoff', { name: '=1+1' })] }]
		});
		expect(tableCsv(formula)).not.toMatch(/(^|,)"?[=+@]/m);
	});

	it('has every gesture that a surface can have', () => {
		for (const gesture of GESTURES) {
			const body = {
				...base.surface,
				controls: base.surface.controls.map((each) => ({ ...each, gestures: [gesture] }))
			};
			const map = mapSchema.parse({
				...base,
				surface: body,
				pages: [{ number: 1, assignments: [assigned('fader-1', 'cutoff', { gesture })] }]
			});
			expect(read(map, tableCsv(map))).toEqual(map);
		}
	});
});
