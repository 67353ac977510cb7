import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assigned, heard as learnt, link, LISTS, mapOf } from '../map.fixture';
import type { ControlMap, Told } from '../map';
import type { HeardMessage } from '../stream';
import {
	betterOrders,
	hearStands,
	nothingHeard,
	pickUpsOf,
	standFor,
	standingsOf,
	valueAtStand
} from './index';

const page = (number: number, ...assignments: object[]) => ({ number, assignments });
const told = (target: string): Told => ({ list: 'umbra', target, channel: 2 });
const song = (...targets: string[]) => ({ name: 'Song', touches: targets.map(told) });
const cc = (number: number, ...values: number[]): HeardMessage[] =>
	values.map((value, i) => ({ atMs: i * 10, bytes: Uint8Array.of(0xb0, number, value) }));

describe('where a control stands', () => {
	const map = mapOf('osier-weir-9', {
		pickUp: 'wait',
		pages: [
			page(1, assigned('fader-1', 'resonance')),
			page(2, assigned('fader-1', 'volume'), assigned('fader-2', 'cutoff'), assigned('push-1', 'resonance'))
		],
		learnt: [
			{ ...learnt('fader-1', 71), channel: 2 },
			{ ...learnt('fader-1', 7), channel: 2, page: 2 }
		]
	});
	const say = (burst: HeardMessage[]) =>
		burst.map(({ bytes, ...rest }) => ({ ...rest, bytes: Uint8Array.of(bytes[0] + 1, bytes[1], bytes[2]) }));

	it('is as it was heard, on the next page, too, and the value is what was told last', () => {
		let heard = hearStands(nothingHeard, map, 1, say(cc(71, 10, 20, 127)));
		expect(standingsOf(map, 1, heard)).toMatchObject([
			{ control: 'fader-1', stand: 1, value: 1, does: 'fits' }
		]);
		// Nobody knows yet what the other page's target is at.
		expect(standingsOf(map, 2, heard)[0]).toMatchObject({ stand: 1, value: null, does: 'unknown', says: '' });
		heard = hearStands(heard, map, 2, say(cc(7, 100, 0)));
		expect(standingsOf(map, 2, heard)[0]).toMatchObject({ stand: 0, value: 0, does: 'fits' });
		expect(standingsOf(map, 1, heard)[0]).toMatchObject({
			stand: 0,
			value: 1,
			does: 'wait',
			says: 'Resonance is at 100 %, it was heard at 0 %: moved up to there, it picks up.'
		});
	});

	it('is told of controls alone that stand by themselves and tell positions', () => {
		expect(standingsOf(map, 2, nothingHeard).map(({ control }) => control)).toEqual(['fader-1', 'fader-2']);
		const motors: ControlMap = {
			...map,
			surface: {
				...map.surface,
				controls: map.surface.controls.map((each) => ({ ...each, shows: ['motor' as const] }))
			}
		};
		expect(standingsOf(motors, 2, nothingHeard)).toEqual([]);
	});

	it('takes what a target is by itself for its value, and says so', () => {
		const lists = [
			{
				...LISTS[0],
				targets: LISTS[0].targets.map((each) => (each.id === 'volume' ? { ...each, default: 127 } : each))
			}
		];
		const known = mapOf('osier-weir-9', {
			lists,
			pages: map.pages,
			learnt: map.learnt
		});
		const heard = hearStands(nothingHeard, known, 1, say(cc(71, 0)));
		expect(standingsOf(known, 2, heard)[0]).toMatchObject({ byItself: true, does: 'jump' });
		expect(standingsOf(known, 2, heard)[0].says).toBe(
			'Volume is at 0 dB, if nobody has moved it, it was heard at -66 dB: moved, it jumps.'
		);
	});

	it('goes to a value and back, whatever the range, way and curve of its link', () => {
		fc.assert(
			fc.property(
				fc.constantFrom('even', 'slow-start', 'slow-end'),
				fc.boolean(),
				fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 })),
				fc.integer({ min: 0, max: 127 }),
				(curve, inverted, [from, to], raw) => {
					const made = mapOf('osier-weir-9', {
						pages: [page(1, assigned('fader-1', 'resonance', {}, { curve, inverted, from, to }))]
					});
					const [one] = made.pages[0].assignments[0].links;
					const [low, high] = [valueAtStand(made, one, 0)!, valueAtStand(made, one, 1)!].sort(
						(a, b) => a - b
					);
					fc.pre(raw >= low && raw <= high);
					expect(valueAtStand(made, one, standFor(made, one, raw)!)).toBe(raw);
				}
			)
		);
	});

	it('is not known any more after a program change on its channel, until it is told again', () => {
		const program: HeardMessage = { atMs: 0, bytes: Uint8Array.of(0xc1, 5) };
		const moved = hearStands(nothingHeard, map, 1, say(cc(71, 64)));
		const after = hearStands(moved, map, 1, [program]);
		expect(standingsOf(map, 1, after)[0]).toMatchObject({ stand: 64 / 127, value: null, does: 'unknown' });
		expect(standingsOf(map, 1, after)[0].says).toBe(
			'Resonance is where a program change on channel 2 put it, and that was not heard; the control was heard at 50.39 %.'
		);
		// On another channel it changes nothing; told in one breath, only what comes after it holds.
		const elsewhere = { ...program, bytes: Uint8Array.of(0xc4, 5) };
		expect(hearStands(moved, map, 1, [elsewhere])).toEqual(moved);
		const breath = (...burst: HeardMessage[]) => standingsOf(map, 1, hearStands(moved, map, 1, burst))[0];
		expect(breath(...say(cc(71, 20)), program)).toMatchObject({ stand: 20 / 127, does: 'unknown' });
		expect(breath(program, ...say(cc(71, 20)))).toMatchObject({ does: 'fits' });
	});

	it('is not known where what a control sends goes on from the value', () => {
		const scaled: ControlMap = { ...map, pickUp: 'scale' };
		const heard = hearStands(nothingHeard, scaled, 1, say(cc(71, 90)));
		expect(standingsOf(scaled, 1, heard)[0]).toMatchObject({ stand: null, does: 'unknown', says: '' });
		expect(heard.values.size).toBe(1);
	});

	it('is not taken from what another control says, from other channels, or from clock in between', () => {
		const other = hearStands(nothingHeard, map, 1, [
			...cc(71, 5),
			...say(cc(72, 5)),
			{ atMs: 0, bytes: Uint8Array.of(0xf8) }
		]);
		expect(other).toEqual(nothingHeard);
	});
});

describe('a set', () => {
	const pages = [
		page(1, assigned('fader-1', 'cutoff'), assigned('fader-2', 'volume')),
		page(2, assigned('fader-1', 'resonance'))
	];

	it('finds a control elsewhere where it moved something else since, and not the first time', () => {
		const map = mapOf('osier-weir-9', {
			pages,
			songs: [song('cutoff', 'resonance', 'volume', 'cutoff'), song('cutoff')]
		});
		const [first, second] = pickUpsOf(map);
		expect(first).toMatchObject({ touches: 4, first: 2 });
		expect(first.elsewhere.map(({ touch, page: on, last }) => [touch, on, last?.told.target])).toEqual([
			[1, 2, 'cutoff'],
			[3, 1, 'resonance']
		]);
		expect(second.elsewhere).toEqual([]);
	});

	it('finds it elsewhere where another control moved one of its targets', () => {
		const map = mapOf('osier-weir-9', {
			pages: [
				page(1, { control: 'fader-1', links: [link('cutoff'), link('volume')] }),
				page(2, assigned('fader-2', 'volume'), assigned('fader-3', 'resonance'))
			],
			songs: [song('cutoff', 'resonance', 'volume', 'cutoff', 'cutoff')]
		});
		expect(pickUpsOf(map)[0]).toMatchObject({
			first: 3,
			elsewhere: [{ touch: 3, page: 1, control: 'fader-1', last: null }]
		});
	});

	it('finds it elsewhere in another view of a window', () => {
		const levels = [1, 2, 3].map((channel) => ({ list: 'umbra', target: 'volume', channel }));
		const map = mapOf('osier-weir-9', {
			pages: [
				{
					...page(1, { control: 'fader-1', links: [link('volume', { channel: 1 })] }),
					windows: [
						{
							name: 'Levels',
							controls: ['fader-1'],
							gesture: 'move',
							over: levels,
							step: 1,
							next: { control: 'key-1', gesture: 'push' }
						}
					]
				}
			],
			songs: [{ name: 'Song', touches: [levels[0], levels[2], levels[2], levels[0]] }]
		});
		expect(pickUpsOf(map)[0].elsewhere.map(({ touch, last }) => [touch, last?.told.channel])).toEqual([
			[1, 1],
			[3, 3]
		]);
	});

	/** Controls as things that stand somewhere, and targets as numbers: nothing of how the set is walked is shared with it. */
	function played(seats: Record<string, string>, touches: readonly string[]): number[] {
		let next = 0;
		const stand = new Map<string, number>();
		const value = new Map<string, number>();
		return touches.flatMap((target, i) => {
			if (target === 'prog') {
				for (const each of Object.keys(seats)) value.set(each, (next += 1));
				return [];
			}
			const control = seats[target];
			if (!control) return [];
			const elsewhere = stand.has(control) && stand.get(control) !== value.get(target);
			next += 1;
			stand.set(control, next);
			value.set(target, next);
			return elsewhere ? [i] : [];
		});
	}
	const TARGETS = ['cutoff', 'resonance', 'volume', 'sparkle', 'morph', 'data'];
	const places = fc.array(
		fc.record({ page: fc.integer({ min: 1, max: 4 }), fader: fc.integer({ min: 1, max: 2 }) }),
		{ minLength: TARGETS.length, maxLength: TARGETS.length }
	);
	const songs = fc.array(fc.array(fc.constantFrom(...TARGETS, 'prog'), { maxLength: 8 }), {
		minLength: 1,
		maxLength: 3
	});
	function laid(at: { page: number; fader: number }[], written: string[][]) {
		// Two on one place are one too many: the later one has none.
		const taken = new Map<string, string>();
		at.forEach(({ page: on, fader }, i) => {
			const key = `${on} fader-${fader}`;
			if (!taken.has(key)) taken.set(key, TARGETS[i]);
		});
		const prog = { id: 'prog', name: 'Program', address: { kind: 'program-change' } };
		const map = mapOf('osier-weir-9', {
			lists: [{ ...LISTS[0], targets: [...LISTS[0].targets, prog] }],
			pages: [1, 2, 3, 4].map((number) =>
				page(
					number,
					...[1, 2].flatMap((fader) => {
						const target = taken.get(`${number} fader-${fader}`);
						return target ? [assigned(`fader-${fader}`, target)] : [];
					})
				)
			),
			songs: written.map((targets) => song(...targets))
		});
		const seats = Object.fromEntries([...taken].map(([key, target]) => [target, key.split(' ')[1]]));
		const onPage = Object.fromEntries([...taken].map(([key, target]) => [target, Number(key.split(' ')[0])]));
		return { map, seats, onPage };
	}

	it('comes to what playing it with things that stand somewhere does', () => {
		fc.assert(
			fc.property(places, songs, (at, written) => {
				const { map, seats } = laid(at, written);
				const found = pickUpsOf(map);
				const starts = written.map((_, i) => written.slice(0, i).flat().length);
				expect(
					found.flatMap(({ song: of, elsewhere }) => elsewhere.map(({ touch }) => starts[of] + touch))
				).toEqual(played(seats, written.flat()));
			})
		);
	});

	it('is told an order of pages that is the best of all, and only where it is better', () => {
		const all = (pages: number[]): number[][] =>
			pages.length < 2
				? [pages]
				: pages.flatMap((first) =>
						all(pages.filter((each) => each !== first)).map((rest) => [first, ...rest])
					);
		let better = 0;
		fc.assert(
			fc.property(places, songs, (at, written) => {
				const { map, seats, onPage } = laid(at, written);
				const orders = betterOrders(map);
				written.forEach((targets, i) => {
					const before = written.slice(0, i).flat();
					const count = (touches: string[]) =>
						played(seats, [...before, ...touches]).filter((touch) => touch >= before.length).length;
					const used = targets.filter((target) => seats[target]);
					const pages = [...new Set(used.map((target) => onPage[target]))];
					const least = Math.min(
						...all(pages).map((order) =>
							count(order.flatMap((on) => used.filter((target) => onPage[target] === on)))
						)
					);
					const told = orders.find((each) => each.song === i);
					if (targets.includes('prog')) return expect(told).toBeUndefined();
					if (used.length === 0 || least >= count(targets)) expect(told).toBeUndefined();
					else {
						better++;
						expect(told).toMatchObject({ now: count(targets), then: least });
						expect(count(told!.pages.flatMap((on) => used.filter((target) => onPage[target] === on)))).toBe(
							least
						);
					}
				});
			}),
			{ numRuns: 300 }
		);
		expect(better).toBeGreaterThan(20);
	});
});
