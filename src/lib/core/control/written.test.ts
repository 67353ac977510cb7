import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkMap } from './checks';
import { applyEdits, inverseEdits, type Edit } from '../edit';
import { mapSchema, type ControlMap } from './map';
import { mapOf, shippedSurface } from './map.fixture';
import { readTable, tableCsv } from './map-table';
import { candidates, meantBy } from './target-words';
import { emptyMap, lineText, restOn, spread, standing, writeLine, type Line } from './written';

const weir = () => mapOf('osier-weir-9');
const on = (control: string, more: Partial<Line> = {}): Line => ({
	page: 1,
	control,
	gesture: 'move',
	...more
});
const list = (name: string) => ({
	format: 'silent-drawer.targets',
	version: 1,
	id: 'own',
	name: 'Own',
	targets: [{ id: 'one', name, address: { kind: 'cc', number: 20 } }]
});
const write = (map: ControlMap, line: Line, text: string) =>
	mapSchema.parse(applyEdits(map, writeLine(map, line, meantBy(map, text))));

describe('what is written on a strip', () => {
	it.each([
		['Resonance', 'umbra', 'resonance', null],
		['reso', 'umbra', 'resonance', null],
		['Resonance ch 5', 'umbra', 'resonance', 5],
		['CC 71', 'umbra', 'resonance', null],
		['cc 74 ch 16', 'umbra', 'cutoff', 16],
		['Breath controller', 'midi', 'cc-2', null],
		['note 36', 'umbra', 'kick', null],
		['NRPN 300', 'umbra', 'morph', null],
		['cc 119', 'by-number', 'cc-119', null]
	])('reads %s', (text, list, target, channel) => {
		expect(meantBy(weir(), text)).toMatchObject({ is: 'target', list, target, channel });
	});

	it.each([
		['cc 128', 'There is no CC 128'],
		['Cutoff ch 17', 'There is no channel 17'],
		['Cutoff ch 0', 'There is no channel 0'],
		['Portamento', 'begins'],
		['Warp core', 'Nothing that this map can tell']
	])('says what is wrong with %s, and changes nothing', (text, says) => {
		const meant = meantBy(weir(), text);
		expect(meant).toMatchObject({ is: 'unknown', says: expect.stringContaining(says) });
		expect(writeLine(weir(), on('fader-2'), meant)).toEqual([]);
	});

	it('stands where it was written, and a blank takes it away', () => {
		const now = write(weir(), on('fader-3'), 'Resonance ch 7');
		expect(lineText(now, on('fader-3'))).toBe('Resonance');
		expect(standing(now, on('fader-3'))!.assignment.links[0].channel).toBe(7);
		expect(lineText(write(now, on('fader-3'), ''), on('fader-3'))).toBe('');
		expect(lineText(write(now, on('fader-3'), '-'), on('fader-3'))).toBe('—');
	});

	it('keeps the channel when another target takes the place, and follows what was used last elsewhere', () => {
		const first = write(weir(), on('fader-3'), 'Resonance ch 7');
		expect(standing(write(first, on('fader-3'), 'Volume'), on('fader-3'))!.assignment.links[0].channel).toBe(
			7
		);
		expect(standing(write(first, on('fader-4'), 'Volume'), on('fader-4'))!.assignment.links[0].channel).toBe(
			7
		);
	});

	it('reads the same on every page where it is global, and a page may say otherwise', () => {
		const all = write(weir(), on('push-1', { page: null }), 'cc 20');
		expect(standing(all, on('push-1', { page: 4 }))).toMatchObject({ everywhere: true });
		const other = write(all, on('push-1', { page: 2 }), 'Cutoff');
		expect(lineText(other, on('push-1', { page: 2 }))).toBe('Cutoff');
		expect(lineText(other, on('push-1'))).not.toBe('Cutoff');
	});

	it('becomes the same on every page and this page’s alone again', () => {
		const line = on('push-1');
		const own = write(weir(), line, 'Resonance ch 7');
		const all = mapSchema.parse(applyEdits(own, spread(own, line, true)));
		expect(standing(all, { ...line, page: 3 })).toMatchObject({ everywhere: true });
		expect(all.pages[0].assignments.map(({ control }) => control)).toEqual(['fader-1']);
		const back = mapSchema.parse(applyEdits(all, spread(all, line, false)));
		expect(back).toEqual(own);
		expect(spread(own, on('fader-9'), true)).toEqual([]);
	});

	it('is a rest where the surface can be silenced, reads as one, and is kept by a table', () => {
		const key: Line = { page: 1, control: 'key-9', gesture: 'push' };
		const map = write(weir(), key, 'Rest');
		expect(standing(map, key)!.assignment).toMatchObject({ way: 'rest', links: [], empty: false });
		expect(lineText(map, key)).toBe('Rest');
		expect(restOn(map, 1)?.control).toBe('key-9');
		expect(restOn(map, 2)).toBeNull();
		expect(write(map, key, lineText(map, key))).toEqual(map);
		const table = readTable(weir(), tableCsv(map)) as { edits: Edit[] };
		expect(restOn(mapSchema.parse(applyEdits(weir(), table.edits)), 1)).toMatchObject({ way: 'rest' });
		// A target of that name is still told apart, and a panel that nothing silences says so.
		const named = mapOf('osier-weir-9', { lists: [list('Rest')] });
		expect(meantBy(named, 'rest')).toEqual({ is: 'rest' });
		expect(candidates(named)[0].says).toBe('Rest (own/one)');
		expect(meantBy(mapOf('osier-tarn'), 'rest')).toEqual({
			is: 'unknown',
			says: 'Nothing on a Tarn Panel silences it.'
		});
	});

	it('brings the specification’s names and numbers into the map once', () => {
		let now = write(weir(), on('fader-2'), 'cc 117');
		now = write(now, on('fader-3'), 'cc 118');
		now = write(now, on('fader-4'), 'Pan');
		now = write(now, on('fader-5'), 'Balance');
		expect(now.lists.map(({ id }) => id)).toEqual(['umbra', 'host', 'by-number', 'midi']);
		expect(now.lists[2].targets).toHaveLength(2);
	});

	it('makes of a button what its target is for', () => {
		const key = on('key-1', { gesture: 'push' });
		expect(standing(write(weir(), key, 'Sustain'), key)!.assignment.way).toBe('momentary');
		expect(standing(write(weir(), key, 'cc 65'), key)!.assignment.way).toBe('toggle');
		expect(standing(write(weir(), key, 'Resonance'), key)!.assignment).toMatchObject({
			way: 'value',
			value: 0
		});
	});

	it('leaves an empty map with nothing wrong but that it was not walked', () => {
		const map = mapSchema.parse(emptyMap(shippedSurface('fallow-larch-16'), 'Dome'));
		expect(checkMap(map).map(({ rule }) => rule)).toEqual(['never-walked']);
	});
});

describe('edits taken back', () => {
	it('bring back what was there, whatever was done', () => {
		const key = fc.constantFrom('a', 'b', 'c');
		const leaf = fc.oneof(fc.integer(), fc.string(), fc.array(fc.integer(), { maxLength: 4 }));
		const tree = fc.record({
			a: fc.array(leaf, { maxLength: 4 }),
			b: fc.record({ a: leaf, b: leaf }),
			c: leaf
		});
		const edit: fc.Arbitrary<Edit> = fc.oneof(
			fc.record({ path: key.map((k) => [k]), value: leaf }),
			fc.record({ path: fc.nat(5).map((i) => ['a', i]), value: leaf }),
			fc.record({ path: fc.nat(5).map((i) => ['a', i]) }),
			fc.record({ path: key.map((k) => ['b', k]), value: leaf }),
			fc.record({ path: key.map((k) => ['b', k]) })
		);
		fc.assert(
			fc.property(tree, fc.array(edit, { maxLength: 5 }), (data, edits) => {
				// Only paths that the data has at that moment.
				const fit = edits.filter(({ path: [first] }, i) => {
					const before = applyEdits(data, edits.slice(0, i)) as Record<string, unknown>;
					return first === 'a'
						? Array.isArray(before.a)
						: typeof before.b === 'object' && !Array.isArray(before.b);
				});
				const usable = fit.length === edits.length ? edits : fit.slice(0, 1);
				const after = applyEdits(data, usable);
				expect(applyEdits(after, inverseEdits(data, usable))).toEqual(data);
			})
		);
	});
});
