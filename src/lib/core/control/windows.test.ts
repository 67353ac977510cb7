import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { checkMap } from './checks';
import { assigned, mapOf } from './map.fixture';
import { mapSchema, type ControlMap } from './map';
import { setPlan, planEdits } from './set-plan';
import { stripsOf } from './strips';
import { inWindow, laterViews, movesWindow, viewsOf } from './window-views';
import { beginWindow, windowWords, type WrittenWindow } from './windows';

const empty = () => mapOf('osier-weir-9', { pickUp: 'wait', pages: [{ number: 1, assignments: [] }] });
const wish = (more: Partial<WrittenWindow> = {}): WrittenWindow => ({
	name: 'Levels',
	controls: 'Fader 1–3',
	over: 'Volume ch 1–8',
	step: null,
	next: 'key-1',
	back: 'key-2',
	...more
});
/** The map with the window, read again as the server does. */
function begun(map: ControlMap, more: Partial<WrittenWindow> = {}): ControlMap {
	const made = beginWindow(map, 1, wish(more));
	if ('fault' in made) throw new Error(made.fault.says);
	return mapSchema.parse(applyEdits(map, made.edits));
}
const lines = ({ pages }: ControlMap) =>
	pages[0].assignments.map(
		({ control, links }) => `${control} ${links.map(({ target, channel }) => `${target} ${channel}`).join()}`
	);

describe('a window over a longer list', () => {
	it('has its controls tell the first of it, and says the rest on paper', () => {
		const map = begun(empty());
		expect(lines(map)).toEqual(['fader-1 volume 1', 'fader-2 volume 2', 'fader-3 volume 3']);
		expect(checkMap(map)).toEqual([]);
		const [page] = map.pages;
		expect(viewsOf(page.windows[0]).map((view) => view.map((each) => each?.channel ?? null))).toEqual([
			[1, 2, 3],
			[4, 5, 6],
			[7, 8, null]
		]);
		expect(laterViews(map, page, 'fader-1', 'move')).toBe('then ch 4, ch 7');
		expect(laterViews(map, page, 'fader-3', 'move')).toBe('then ch 6');
		expect(laterViews(map, page, 'fader-4', 'move')).toBe('');
		expect(movesWindow(page, 'key-1', 'push')).toBe('moves Levels on');
		expect(movesWindow(page, 'key-2', 'push')).toBe('moves Levels back');
		expect(windowWords(map, page.windows[0])).toBe(
			'Fader 1 to Fader 3 over 8, 3 further at a press: Key 1 on, Key 2 back'
		);
		const cells = stripsOf(map).flatMap((strip) => strip.cells);
		expect(cells.find(({ control }) => control === 'fader-2')).toMatchObject({
			name: 'Volume',
			also: ['then ch 5, ch 8']
		});
		expect(cells.find(({ control }) => control === 'key-1')!.also).toEqual(['moves Levels on']);
	});

	it('keeps what a line said that it tells already, and comes to the same when it is written again', () => {
		const before = mapOf('osier-weir-9', {
			pickUp: 'wait',
			pages: [
				{
					number: 1,
					assignments: [assigned('fader-1', 'volume', { name: 'Dome' }, { channel: 1, from: -30, to: 0 })]
				}
			]
		});
		const map = begun(before);
		expect(map.pages[0].assignments[0]).toEqual(before.pages[0].assignments[0]);
		// Somebody writes on one of them: it is told, and put right.
		const written = applyEdits(map, [
			{ path: ['pages', 0, 'assignments', 1, 'links', 0, 'channel'], value: 9 }
		]);
		const [trouble] = checkMap(written);
		expect(trouble).toMatchObject({
			rule: 'window-apart',
			says: 'The window “Levels” of layer 1 begins otherwise than the lines of Fader 2 say.'
		});
		expect(lines(applyEdits(written, trouble.cure.edits))).toEqual(lines(map));
	});

	it('goes over what is written by number, too, and by as many as is said', () => {
		const map = begun(empty(), { over: 'CC 22; CC 23 ch 3; Volume ch 2–4', step: 1, name: '' });
		const [window] = map.pages[0].windows;
		expect(window.name).toBe('Fader 1');
		expect(window.over.map(({ target, channel }) => `${target} ${channel}`)).toEqual([
			...['cc-22 1', 'cc-23 3', 'volume 2', 'volume 3', 'volume 4']
		]);
		expect(viewsOf(window)).toHaveLength(3);
		expect(laterViews(map, map.pages[0], 'fader-1', 'move')).toBe('then CC 23 ch 3, Volume ch 2');
	});

	it.each([
		[{ controls: 'Fader 99' }, 'controls', 'There is no control “Fader 99”.'],
		[{ controls: 'Fader 3–1' }, 'controls', '“Fader 3–1” runs backwards.'],
		[{ controls: 'Fader 1–2, Fader 2' }, 'controls', '“Fader 2” is named twice.'],
		[{ controls: ' , ' }, 'controls', 'Name the controls, as in Fader 1–6.'],
		[
			{ over: 'Nonsense' },
			'over',
			'Nothing that this map can tell is called “Nonsense”. A number does, too: CC 74, note 36, NRPN 300.'
		],
		[{ over: 'Volume ch 9–17' }, 'over', 'There is no channel 17: they go from 1 to 16.'],
		[{ over: 'Volume ch 9–8' }, 'over', '“Volume ch 9–8” runs backwards.'],
		[{ over: '—; CC 20' }, 'over', 'A dash is nothing to tell.'],
		[{ over: 'Volume ch 1–3' }, 'over', '3 controls tell 3 without a window.'],
		[{ next: '' }, 'buttons', 'Choose a button that is none of its controls, and another one for back.'],
		[
			{ next: 'fader-1' },
			'buttons',
			'Choose a button that is none of its controls, and another one for back.'
		],
		[{ back: 'key-1' }, 'buttons', 'Choose a button that is none of its controls, and another one for back.']
	] as const)('is not begun with %o', (more, field, says) => {
		expect(beginWindow(empty(), 1, wish(more))).toEqual({ fault: { field, says } });
	});

	it('is at the end of its list after as many presses as it has views, whatever its size, and leaves nothing out where it steps no further than it is wide', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 9 }),
				fc.integer({ min: 1, max: 40 }),
				fc.integer({ min: 1, max: 12 }),
				(wide, long, step) => {
					const over = Array.from({ length: long }, (_, i) => ({ list: 'l', target: `${i}`, channel: 1 }));
					const views = viewsOf({ controls: Array.from({ length: wide }, (_, i) => `c${i}`), over, step });
					// Pressed until nothing new comes: the oracle moves a window along by hand.
					let at = 0;
					while (at + wide < long) at += step;
					expect(views).toHaveLength(at / step + 1);
					const seen = new Set(views.flat().flatMap((each) => each?.target ?? []));
					for (let i = 0; i < long; i++)
						expect(seen.has(`${i}`)).toBe(
							[...views.keys()].some((view) => i >= view * step && i < view * step + wide)
						);
					if (step <= wide) expect(seen.size).toBe(long);
				}
			)
		);
	});

	it('stays where it is when pages are planned, and what it goes over is placed nowhere else', () => {
		const map = begun({
			...empty(),
			songs: [
				{
					name: 'Dusk',
					touches: [
						{ list: 'umbra', target: 'volume', channel: 7 },
						{ list: 'umbra', target: 'cutoff', channel: 2 }
					]
				}
			]
		});
		const plan = setPlan(map, ['faders']);
		expect(plan.units.map(({ name }) => name)).toEqual(['Cutoff']);
		expect(plan.task.locked.map(({ control }) => control)).toEqual(['Fader 1', 'Fader 2', 'Fader 3']);
		const after = applyEdits(
			map,
			planEdits(map, plan, { places: [{ target: 'Cutoff', page: 1, control: 'Fader 4' }] })
		);
		expect(lines(after)).toEqual([...lines(map), 'fader-4 cutoff 2']);
		expect(after.pages[0].windows).toEqual(map.pages[0].windows);
		expect(inWindow(after.pages[0], 'fader-4', 'move')).toBe(false);
	});
});
