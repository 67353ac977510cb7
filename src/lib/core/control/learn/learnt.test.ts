import { readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { applyEdits, type Edit } from '../../edit';
import { mapSchema, type ControlMap } from '../map';
import { shippedSurface } from '../map.fixture';
import type { Touch } from '../../bench';
import { SurfaceUnit } from '../surface-unit';
import { emptyMap } from '../written';
import { heardWords, keepSweep, lostWalks, toWalk, unheard, walkedWords, walksOf, wantedOf } from './learnt';
import { answerSweep, beginSweep, hearBurst, type Sweep } from './sweep';
import { beginWalk, endOf, walkBurst } from './walk';

const SURFACES = readdirSync(new URL('../../../../../surfaces', import.meta.url)).map((file) =>
	file.replace('.json', '')
);

/** A hand at a simulated surface: what comes of a touch, as a burst. */
function hand(unit: SurfaceUnit) {
	let atMs = 0;
	return (control: string, how?: Touch) => {
		atMs += 1000;
		return unit
			.touch(control, how)
			.map(({ afterMs, bytes }) => ({ atMs: atMs + afterMs, bytes: Uint8Array.from(bytes) }));
	};
}

const swept = (map: ControlMap, page: number): ControlMap => {
	const unit = new SurfaceUnit(map.surface);
	unit.page = page;
	const touch = hand(unit);
	const wanted = wantedOf(map.surface);
	const sweep = wanted.reduce<Sweep>(
		(now, { control }) => hearBurst(now, touch(control)),
		beginSweep(wanted)
	);
	expect(sweep.question).toBeNull();
	expect(sweep.next).toBe(wanted.length);
	return mapSchema.parse(applyEdits(map, keepSweep(map, page, sweep, 'bench')));
};
const fresh = (id: string) => mapSchema.parse(emptyMap(shippedSurface(id), 'Dome'));

describe('what a sweep leaves in a map', () => {
	it.each(SURFACES)('is what each control of %s says, each by itself', (id) => {
		const map = swept(fresh(id), 1);
		expect(map.learnt).toHaveLength(wantedOf(map.surface).length);
		const kinds = new Map(map.learnt.map(({ control, kind, doubt }) => [control, { kind, doubt }]));
		for (const { control, series } of wantedOf(map.surface))
			if (series === 'pads') expect(kinds.get(control)).toMatchObject({ kind: 'note' });
		const turns = map.surface.controls.filter(({ sends }) => sends[0] === 'relative');
		for (const { id: control } of turns) expect(kinds.get(control)!.kind).toBe('relative');
	});

	it('counts pads from the lowest row', () => {
		const pads = wantedOf(shippedSurface('quillon-sluice-16'), ['pads-1', 'pads-2', 'pads-3', 'pads-4']);
		expect(pads.slice(0, 5).map(({ control }) => control)).toEqual([
			'pad-1',
			'pad-2',
			'pad-3',
			'pad-4',
			'pad-5'
		]);
		const map = swept(fresh('quillon-sluice-16'), 1);
		expect(map.learnt.filter(({ kind }) => kind === 'note').map(({ number }) => number)).toEqual(
			Array.from({ length: 16 }, (_, i) => 36 + i)
		);
	});

	it('stands one hit twice and one missed', () => {
		const map = fresh('quillon-gantry-49');
		const touch = hand(new SurfaceUnit(map.surface));
		const wanted = wantedOf(map.surface, ['pads-1', 'pads-2']);
		let sweep = beginSweep(wanted);
		for (const control of ['pad-1', 'pad-2', 'pad-2', 'pad-4']) sweep = hearBurst(sweep, touch(control));
		expect(sweep.question?.says).toContain('Pad 3 would be note 38');
		sweep = answerSweep(sweep, 'not-this');
		for (const control of ['pad-3', 'pad-4']) sweep = hearBurst(sweep, touch(control));
		const kept = applyEdits(map, keepSweep(map, 1, sweep, 'bench'));
		expect(kept.learnt.map(({ control, number }) => [control, number])).toEqual([
			['pad-1', 36],
			['pad-2', 37],
			['pad-3', 38],
			['pad-4', 39]
		]);
	});

	it('is told in words, with where it was heard and what is not decided', () => {
		const map = swept(fresh('osier-weir-9'), 1);
		expect(heardWords(map, 1, 'push-1')).toBe(
			'Heard on the bench: controller 14 on channel 1 (relative, twos complement).'
		);
		expect(heardWords(map, 2, 'push-1')).toBe('');
		const once = applyEdits(map, [
			{ path: ['learnt', 0, 'doubt'], value: 'Turn it back once.' },
			{ path: ['learnt', 0, 'world'], value: 'hardware' }
		]);
		expect(heardWords(once, 1, map.learnt[0].control)).toMatch(
			/^Heard on real ports: .* Not decided: Turn it back once\.$/
		);
	});

	it('takes the place of what was known of that page, and of no other', () => {
		const twice = swept(swept(fresh('osier-weir-9'), 1), 2);
		const again = swept(twice, 1);
		expect(again.learnt).toHaveLength(twice.learnt.length);
		expect(toWalk(again, 1)).toHaveLength(27);
		expect(again.learnt.filter(({ page }) => page === 2)).toEqual(
			twice.learnt.filter(({ page }) => page === 2)
		);
	});
});

describe('a walk over what was learnt', () => {
	const walkAll = (map: ControlMap, order: (ids: string[]) => string[]) => {
		const touch = hand(new SurfaceUnit(map.surface));
		const ids = order(toWalk(map, 1).map(({ control }) => control));
		return ids.reduce((walk, id) => walkBurst(walk, touch(id)), beginWalk(toWalk(map, 1)));
	};

	it.each(SURFACES)('of %s ends well in any order, when each spoke for itself', (id) => {
		const map = swept(fresh(id), 1);
		expect(endOf(walkAll(map, (ids) => ids.reverse()))).toEqual({ walked: true, faults: [] });
	});

	it('names who never spoke', () => {
		const map = swept(fresh('osier-tarn'), 1);
		const end = endOf(walkAll(map, (ids) => ids.slice(1)));
		expect(end.walked).toBe(false);
		expect(end.faults).toEqual([expect.stringContaining('A1 was never heard')]);
	});

	it('tells of controls that do something and were never heard', () => {
		const map = fresh('osier-weir-9');
		const used = applyEdits(map, [
			{
				path: ['pages', 0, 'assignments'],
				value: [{ control: 'fader-1', gesture: 'move', links: [{ list: 'x', target: 'y', channel: 1 }] }]
			}
		]);
		expect(unheard(used, 1)).toEqual(['Fader 1']);
		expect(unheard(swept(used as ControlMap, 1), 1)).toEqual([]);
	});
});

describe('a page that was walked', () => {
	const walked = { page: 1, at: '2026-10-01T20:00:00Z', world: 'bench' as const };
	const map = { ...swept(fresh('osier-weir-9'), 1), walked: [walked] };
	const after = (...edits: Edit[]) => {
		const edited = applyEdits(map, edits);
		return applyEdits(edited, lostWalks(map, edited)).walked;
	};

	it('stays walked when only names change', () => {
		expect(after({ path: ['name'], value: 'Night' })).toEqual([walked]);
		expect(after({ path: ['pages', 0, 'name'], value: 'Filter' })).toEqual([walked]);
	});

	it('is so no more when what a hand would find has changed', () => {
		expect(after({ path: ['learnt', 0, 'number'], value: 99 })).toEqual([]);
		expect(after({ path: ['surface', 'controls', 0, 'port'], value: 'din' })).toEqual([]);
	});

	it('keeps the walk that the edit itself notes', () => {
		const now = { page: 1, at: '2026-11-01T20:00:00Z', world: 'bench' };
		expect(after({ path: ['learnt', 0, 'number'], value: 99 }, { path: ['walked'], value: [now] })).toEqual([
			now
		]);
	});
});

describe('how far a map is walked, in words', () => {
	const pages = [1, 2, 3].map((number) => ({ number, name: '', programs: [], assignments: [], windows: [] }));
	const on = (page: number, world: 'bench' | 'hardware') => ({ page, at: `2026-10-0${page}`, world });
	const said = (...walked: ReturnType<typeof on>[]) => walkedWords(walksOf({ pages, walked }));

	it('never calls walked what only the bench was', () => {
		expect(said()).toBe('never walked');
		expect(said(on(1, 'hardware'), on(2, 'hardware'))).toBe('2 of 3 walked');
		expect(said(on(1, 'bench'))).toBe('1 of 3 walked on the bench');
		expect(said(on(1, 'bench'), on(2, 'hardware'))).toBe('2 of 3 walked, 1 of them on the bench');
	});

	it('leaves out pages that are gone, and tells the oldest walk', () => {
		expect(walksOf({ pages, walked: [on(3, 'hardware'), on(2, 'bench'), on(9, 'hardware')] })).toEqual({
			pages: 3,
			walked: 2,
			bench: 1,
			since: '2026-10-02'
		});
	});
});
