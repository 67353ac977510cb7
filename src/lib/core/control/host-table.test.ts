import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { hostRows, mapMark, noteButton, stepState } from './host-table';
import { mapSchema, type ControlMap } from './map';
import { assigned, mapOf } from './map.fixture';

const host = { name: 'Dome computer', version: '12.1' };
const tarn = mapOf('osier-tarn', { host, pages: [{ number: 1, assignments: [] }] });
const made = (map: ControlMap, edits: ReturnType<typeof noteButton>) =>
	mapSchema.parse(applyEdits(map, edits));
const at = '2026-11-28T05:00:00Z';
const a1 = { control: 'button-1', gesture: 'push' } as const;

describe('what buttons do in a host', () => {
	it('has a row for each way to press one, and none for what is turned', () => {
		const rows = hostRows(tarn);
		expect(rows).toHaveLength(36);
		expect(rows.slice(0, 2).map(({ control, gesture }) => `${control.name} ${gesture}`)).toEqual([
			'A1 push',
			'A1 long'
		]);
		expect(new Set(rows.map(({ state }) => state))).toEqual(new Set(['untried']));
	});

	it('is tried with a version, and again when that or what it does changes', () => {
		let map = made(tarn, noteButton(tarn, a1, { does: 'starts', tried: { at, version: '12.1' } }));
		const state = () => hostRows(map)[0].state;
		expect(state()).toBe('tried');
		map = made(map, noteButton(map, a1, { remark: 'twice for the start' }));
		expect([state(), hostRows(map)[0].noted]).toEqual([
			'tried',
			{ ...a1, does: 'starts', remark: 'twice for the start', tried: { at, version: '12.1' } }
		]);
		map = { ...map, host: { ...map.host, version: '12.2' } };
		expect(state()).toBe('other version');
		map = made(map, noteButton(map, a1, { does: 'starts and stops' }));
		expect(state()).toBe('untried');
		map = made(map, noteButton(map, { ...a1, gesture: 'long' }, { does: 'goes back' }));
		expect(map.host.buttons).toHaveLength(2);
	});
});

describe('a step of the recipe', () => {
	it('is done for the map and the version that it was ticked for, and asked again when either moves', () => {
		const step = { says: 'Remote on for Tarn', ticked: { at, version: '12.1', of: mapMark(tarn) } };
		expect(stepState(tarn, { ...step, ticked: null })).toBe('open');
		expect(stepState(tarn, step)).toBe('done');
		expect(stepState({ ...tarn, host: { ...tarn.host, version: '12.2' } }, step)).toBe('other version');
		const moved = mapSchema.parse({
			...tarn,
			pages: [{ number: 1, assignments: [assigned('button-1', 'cutoff', { gesture: 'push' })] }]
		});
		expect(stepState(moved, step)).toBe('map changed');
		// What a page is called, a walk and the recipe itself change nothing in the host.
		const named = { ...tarn, name: 'Other', walked: [], pages: [{ ...tarn.pages[0], name: 'Dusk' }] };
		expect(stepState({ ...named, host: { ...tarn.host, recipe: [step] } }, step)).toBe('done');
		expect(stepState({ ...tarn, hosted: 'computer' }, step)).toBe('map changed');
	});
});
