import fc from 'fast-check';
import loadHighs, { type Highs } from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { checkMap } from './checks';
import { applyEdits } from '../edit';
import { mapSchema, type ControlMap } from './map';
import { assigned, mapOf } from './map.fixture';
import { countPages, faultsOfLayout, pageTaskSchema, planPages, stoppedPlan, type PageLayout } from './pages';
import { plannableRows, planEdits, setPlan } from './set-plan';
import { songsMeant, songsText } from './songs';

let highs: Highs;
beforeAll(async () => {
	highs = await loadHighs();
});
const withSongs = (map: ControlMap, text: string): ControlMap => {
	const meant = songsMeant(map, text);
	if ('faults' in meant) throw new Error(meant.faults.join());
	return mapSchema.parse(applyEdits(map, meant.edits));
};
const planned = (map: ControlMap, rows: string[]) => {
	const set = setPlan(map, rows);
	const plan = planPages(highs, set.task, { seconds: 10, now: () => performance.now(), today: set.today });
	return { set, plan, map: mapSchema.parse(applyEdits(map, planEdits(map, set, plan))) };
};
/** Where each target is told, read off a map without the planner's words. */
const placesOf = (map: ControlMap) =>
	map.pages.flatMap(({ number, assignments }) =>
		assignments.flatMap(({ control, links }) =>
			links.map((l) => `${number} ${control} ${l.target} ${l.channel}`)
		)
	);
const layoutOf = (places: readonly { target: string; page: number | null; control: string }[]): PageLayout =>
	new Map(places.map(({ target, page, control }) => [target, { page, control }]));

describe('songs are written a line each', () => {
	const map = mapOf('osier-weir-9');

	it('and read back as they were written, targets of the specification and bare numbers too', () => {
		const text = 'Dusk: Cutoff; Resonance ch 5\nComet: CC 20 ch 3; Brightness; Cutoff\n\n: note 40';
		const noted = withSongs(map, text);
		expect(noted.songs.map(({ name, touches }) => [name, touches.length])).toEqual([
			['Dusk', 2],
			['Comet', 3],
			['', 1]
		]);
		expect(noted.songs[0].touches[0]).toEqual({ list: 'umbra', target: 'cutoff', channel: 2 });
		expect(noted.songs[0].touches[1].channel).toBe(5);
		const again = withSongs(noted, songsText(noted));
		expect(again.songs).toEqual(noted.songs);
		expect(again.lists).toEqual(noted.lists);
	});

	it('with every word that is not understood named by its line, and nothing noted', () => {
		expect(songsMeant(map, 'Dusk: Cutoff\nComet: Nonsense; —; CC 200')).toEqual({
			faults: [
				expect.stringMatching(/^Line 2: Nothing .* “Nonsense”/),
				'Line 2: A dash is nothing to touch.',
				'Line 2: There is no CC 200: the last is 127.'
			]
		});
	});
});

it('songs of any text are read or refused', () => {
	const map = mapOf('osier-weir-9');
	fc.assert(
		fc.property(
			fc.oneof(
				fc.string(),
				fc
					.array(fc.constantFrom('Cutoff', ';', ':', '\n', 'CC 20', '-', ' ch 99', 'note 5 ch 3'))
					.map((all) => all.join(''))
			),
			(text) => {
				const meant = songsMeant(map, text);
				if ('edits' in meant) mapSchema.parse(applyEdits(map, meant.edits));
				else expect(meant.faults.length).toBeGreaterThan(0);
			}
		)
	);
});

it('names that are long or alike are told apart, whatever their number', () => {
	const long = 'A target with quite a long name, so that whatever is behind it is cut off';
	const list = {
		...mapOf('osier-weir-9').lists[0],
		targets: [1, 2, 3].map((i) => ({
			...mapOf('osier-weir-9').lists[0].targets[0],
			id: `t${i}`,
			name: long.padEnd(78, 'x')
		}))
	};
	const map = mapOf('osier-weir-9', {
		lists: [list],
		pages: [{ number: 1, assignments: [1, 2, 3].map((i) => assigned(`fader-${i}`, `t${i}`)) }]
	});
	const set = setPlan(map, ['faders']);
	expect(new Set(set.units.map(({ name }) => name)).size).toBe(3);
	expect(pageTaskSchema.safeParse(set.task).success).toBe(true);
	expect(planned(map, ['faders']).plan.goals[0].value).toBe(0);
});

describe('pages planned for a set', () => {
	const small = mapOf('osier-weir-9', {
		pages: [
			{
				number: 1,
				name: 'Dusk',
				assignments: [
					assigned('fader-1', 'cutoff', { name: 'CUT' }, { from: 100, to: 9000 }),
					assigned('fader-2', 'resonance'),
					{ control: 'fader-9', empty: true }
				]
			},
			{ number: 2, assignments: [assigned('fader-1', 'volume'), assigned('fader-3', 'cutoff')] }
		]
	});
	const songs = withSongs(
		small,
		'One: Cutoff; Volume; Data; Cutoff; Volume\nTwo: Resonance; Bank; Reset\nThree: Turn; Sparkle; Morph; Cutoff'
	);

	it('are proved the least presses, with what was told kept as it was and everything in one place', () => {
		const { plan, map, set } = planned(songs, ['faders']);
		expect(plan.proved).toBe(true);
		// Nine targets, and the first page has eight faders: one change of page is the least.
		expect(plan.goals.map(({ goal, value }) => `${goal} ${value}`).slice(0, 2)).toEqual([
			'unplaced 0',
			'presses 1'
		]);
		const places = placesOf(map);
		expect(places).toHaveLength(9);
		expect(new Set(places.map((place) => place.split(' ').slice(2).join(' '))).size).toBe(9);
		expect(faultsOfLayout(set.task, layoutOf(plan.places))).toEqual([]);
		const cutoff = map.pages.flatMap(({ assignments }) => assignments).find(({ name }) => name === 'CUT')!;
		expect(cutoff.links[0]).toMatchObject({ from: 100, to: 9000 });
		expect(map.pages[0].assignments).toContainEqual(
			expect.objectContaining({ control: 'fader-9', empty: true })
		);
		expect(places.some((place) => place.startsWith('1 fader-9'))).toBe(false);
		expect(checkMap(map).map(({ rule }) => rule)).not.toContain('no-such-control');
		// Once it is so, there is nothing to change, and nothing better.
		const again = planned(map, ['faders']);
		expect(countPages(again.set.task, again.set.today).presses).toBe(1);
	});

	it('keep what is on every page, together and in its place', () => {
		const told = (target: string) => ({ list: 'umbra', target, channel: 2 });
		const wished = mapSchema.parse({
			...songs,
			wishes: [
				{ ...told('volume'), everywhere: true },
				{ ...told('resonance'), together: 'reset' },
				{ ...told('reset'), together: 'reset' },
				{ ...told('cutoff'), stays: true }
			]
		});
		const { map } = planned(wished, ['faders']);
		expect(map.globals).toMatchObject([{ links: [{ target: 'volume' }] }]);
		const pageOf = (target: string) =>
			placesOf(map)
				.find((place) => place.includes(` ${target} `))
				?.split(' ')[0];
		expect(pageOf('resonance')).toBe(pageOf('reset'));
		expect(placesOf(map)).toContain('1 fader-1 cutoff 2');
	});

	it('say what no control of the rows can tell, and leave other rows and other gestures alone', () => {
		const more = withSongs(
			mapSchema.parse({
				...small,
				pages: [
					{
						...small.pages[0],
						assignments: [
							...small.pages[0].assignments,
							assigned('key-1', 'sustain', { gesture: 'push', way: 'momentary' })
						]
					}
				]
			}),
			'One: Cutoff; Kick'
		);
		const { set, map } = planned(more, ['faders']);
		expect(set.left).toEqual(['Kick']);
		expect(placesOf(map)).toContain('1 key-1 sustain 2');
		// Buttons tell what goes on and off; they are planned by their push.
		const keys = planned(more, ['keys']);
		expect(placesOf(keys.map).filter((place) => place.includes('kick'))).toHaveLength(1);
		expect(placesOf(keys.map)).toContain('1 fader-1 cutoff 2');
		expect(plannableRows(more)).toEqual(['pushes', 'faders', 'keys']);
	});

	it('leave pages that follow another as they are', () => {
		const copy = mapSchema.parse({
			...songs,
			pages: [songs.pages[0], { ...songs.pages[1], like: { page: 1, from: 2, to: 9 } }]
		});
		const { map } = planned(copy, ['faders']);
		expect(map.pages[1]).toEqual(copy.pages[1]);
	});

	it('stopped before its end is counted, and nothing of it is called proved that is not', () => {
		const set = setPlan(songs, ['faders']);
		const found: PageLayout[] = [];
		const whole = planPages(highs, set.task, {
			seconds: 10,
			now: () => performance.now(),
			onFound: (_, layout) => found.push(layout)
		});
		for (const layout of found) {
			const plan = stoppedPlan(set.task, layout, { tookMs: 5 });
			expect(plan.cancelled).toBe(true);
			expect(faultsOfLayout(set.task, layoutOf(plan.places))).toEqual([]);
			let same = true;
			for (const [i, { value, bound, proof }] of plan.goals.entries()) {
				expect(value).toBe(countPages(set.task, layout)[plan.goals[i].goal]);
				expect(bound).toBeLessThanOrEqual(value);
				// Proved by counting must be what the whole run proves.
				if (proof && same) expect(value).toBe(whole.goals[i].value);
				same &&= value === whole.goals[i].value;
			}
		}
		expect(found.length).toBeGreaterThan(0);
	});
});
