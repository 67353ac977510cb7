import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Sounded } from './play-through';
import { mostAtOnce, placesPlayed } from './places-played';

const sounded = (from: number, until: number, more: Partial<Sounded> = {}): Sounded => ({
	atMs: from,
	untilMs: until,
	instrument: 'west',
	channel: 1,
	note: 60,
	velocity: 90,
	cut: false,
	...more
});

it('counts at most as many notes at once as a look at every moment does', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 1, max: 9 })), { maxLength: 20 }),
			(all) => {
				const notes = all.map(([from, length]) => sounded(from, from + length));
				const seen = Array.from(
					{ length: 40 },
					(_, at) => notes.filter(({ atMs, untilMs }) => atMs <= at && at < untilMs).length
				);
				expect(mostAtOnce(notes)).toBe(Math.max(...seen));
			}
		)
	);
});

it('tells places and reasons apart, each with how often', () => {
	const { places, dropped } = placesPlayed({
		notes: [
			sounded(0, 10, { note: 40, velocity: 20 }),
			sounded(5, 12, { note: 72, cut: true }),
			sounded(5, 12, { channel: 2 }),
			sounded(0, 1, { instrument: 'orrery' })
		],
		dropped: [
			{ atMs: 0, player: 'p', key: 1, zone: 'a', instrument: 'west', why: 'out of its range' },
			{ atMs: 1, player: 'p', key: 2, zone: 'a', instrument: 'west', why: 'out of its range' },
			{ atMs: 1, player: 'p', key: 2, zone: 'b', instrument: null, why: 'softer' }
		]
	} as Parameters<typeof placesPlayed>[0]);
	expect(places).toEqual([
		{ instrument: 'west', channel: 1, notes: 2, keys: [40, 72], velocities: [20, 90], most: 2, cut: 1 },
		expect.objectContaining({ instrument: 'west', channel: 2, notes: 1 }),
		expect.objectContaining({ instrument: 'orrery', notes: 1, most: 1 })
	]);
	expect(dropped).toEqual([
		{ zone: 'a', instrument: 'west', why: 'out of its range', keys: 2 },
		{ zone: 'b', instrument: null, why: 'softer', keys: 1 }
	]);
});
