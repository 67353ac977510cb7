import { describe, expect, it } from 'vitest';
import { checkMap } from './checks';
import { applyEdits } from '../edit';
import { mapSchema, type ControlMap } from './map';
import { assigned, LISTS, mapOf } from './map.fixture';
import { fitPage, listsOf, retargetPage } from './page-edits';
import { bringLists, readTargets } from './targets-file';

const page = (...assignments: object[]) => [{ number: 1, assignments }];
const made = (map: ControlMap, edits: Parameters<typeof applyEdits>[1]) =>
	mapSchema.parse(applyEdits(map, edits));

describe('names of a page fitted to the display', () => {
	const map = mapOf('osier-weir-9', {
		pages: page(
			assigned('fader-1', 'cutoff', { name: 'Filter cutoff 1' }),
			assigned('fader-2', 'resonance', { name: 'Filter cutoff 2' }),
			assigned('fader-3', 'volume'),
			assigned('fader-4', 'data', { name: 'DATA' }),
			{ control: 'fader-5', empty: true }
		)
	});

	it('are distinct, fit, keep the digits that tell them apart, and what was typed and fits', () => {
		const { edits, proved, changed } = fitPage(map, 1);
		const names = made(map, edits).pages[0].assignments.map(({ name }) => name);
		expect(proved).toBe(true);
		expect(names[0]).toMatch(/1$/);
		expect(names[1]).toMatch(/2$/);
		expect(names.slice(2)).toEqual(['VOLUME', 'DATA', '']);
		expect(changed).toBe(3);
		expect(new Set(names.slice(0, 4)).size).toBe(4);
		for (const name of names) expect(name.length).toBeLessThanOrEqual(6);
		const rules = checkMap(made(map, edits)).map(({ rule }) => rule);
		expect(rules).not.toContain('name-too-long');
		expect(rules).not.toContain('name-not-distinct');
	});

	it('are left alone where the surface shows none', () => {
		expect(fitPage(mapOf('osier-tarn', { pages: page() }), 1).edits).toEqual([]);
	});
});

describe('a page led to another device', () => {
	const twin = {
		...LISTS[0],
		id: 'twin',
		name: 'Twin',
		targets: [
			{ id: 'filter', name: 'Brightness', address: { kind: 'cc', number: 19 }, function: 'cutoff' },
			{ id: 'volume', name: 'Volume', address: { kind: 'cc', number: 7 } }
		]
	};
	const map = mapOf('osier-weir-9', {
		lists: [...LISTS, twin],
		pages: page(
			assigned('fader-1', 'cutoff'),
			assigned('fader-2', 'resonance'),
			assigned('fader-3', 'volume'),
			{
				control: 'fader-4',
				links: [{ list: 'host', target: 'pan', channel: 9 }]
			}
		)
	});

	it('keeps what that one has, says what it lacks, and leaves the rest', () => {
		const { edits, lacks, kept } = retargetPage(map, 1, 'umbra', 'twin', 5);
		const links = made(map, edits).pages[0].assignments.map(({ links: [link] }) => link);
		expect(links.map((link) => link && [link.list, link.target, link.channel])).toEqual([
			['twin', 'filter', 5],
			undefined,
			['twin', 'volume', 5],
			['host', 'pan', 9]
		]);
		expect(lacks).toEqual(['Twin has no Resonance.']);
		expect(kept).toHaveLength(2);
		expect(listsOf(map, 1)).toEqual(['umbra', 'host']);
	});

	it('changes nothing where there is no such list', () => {
		expect(retargetPage(map, 1, 'umbra', 'nobody')).toEqual({ edits: [], lacks: [], kept: [] });
	});
});

describe('targets from a file', () => {
	const csv =
		'\uFEFFName;Kind;Number;Low;High;Unit;From;To;Switch\nFold;cc;22;;;%;0;100;\nGate;cc;80;;;;;;yes\n';

	it('are read from CSV, whatever the separator', () => {
		const { lists } = readTargets(csv, 'Folder.csv');
		expect(lists[0]).toMatchObject({ id: 'folder', name: 'Folder' });
		expect(lists[0].targets).toMatchObject([
			{ id: 'fold', address: { kind: 'cc', number: 22 }, unit: '%', scale: { from: 0, to: 100 }, high: 127 },
			{ id: 'gate', switch: true }
		]);
		expect(readTargets(csv.replaceAll(';', ','), 'Folder.csv').lists).toEqual(lists);
		expect(readTargets('name,kind,number\nDeep,nrpn,300', 'x.csv').lists[0].targets[0].high).toBe(16383);
	});

	it.each([
		['name,number\nA,1', 'targets.no-header'],
		['name,kind,number\n', 'targets.empty'],
		['name,kind,number\nA,cc,200', 'targets.invalid'],
		['name,kind,number\nA,knob,1', 'targets.invalid'],
		['name,kind,number\nA,cc,seven', 'targets.invalid'],
		['{"format":"silent-drawer.targets"}', 'targets.invalid'],
		['{', 'targets.json'],
		['<x', 'targets.not-xml']
	])('%j is refused', (text, code) => {
		expect(() => readTargets(text, 'x.csv')).toThrow(expect.objectContaining({ code }));
	});

	it('comes back from its own format', () => {
		const [list] = readTargets(csv, 'Folder.csv').lists;
		expect(readTargets(JSON.stringify(list), 'any.json')).toEqual({ lists: [list], left: [] });
	});

	it('takes the place of the list of its name, and gets an id of its own beside another one', () => {
		const [list] = readTargets(csv, 'Folder.csv').lists;
		const one = made(mapOf('osier-weir-9'), bringLists(mapOf('osier-weir-9'), [list]));
		expect(one.lists.map(({ id }) => id)).toEqual(['umbra', 'host', 'folder']);
		expect(
			made(one, bringLists(one, [{ ...list, targets: list.targets.slice(1) }])).lists[2].targets
		).toHaveLength(1);
		const two = made(one, bringLists(one, [{ ...list, name: 'Other' }]));
		expect(two.lists.map(({ id }) => id)).toEqual(['umbra', 'host', 'folder', 'folder-2']);
	});
});
