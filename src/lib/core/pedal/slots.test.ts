import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { engagedTimes } from './engage';
import { footPresetSchema, responseSchema, type Response } from './floor';
import { floorOf, lineAt } from './floor.fixture';
import { findSetting } from './menus';
import { coarsest, shareAt, valueInUnit } from './response';
import { costOfChange, readBySlot, slotTroubles, slotUses } from './slots';

const preset = (id: string, from: object, parameter = 'Level') =>
	footPresetSchema.parse({
		id,
		box: 'box',
		name: id,
		reads: [{ parameter, unit: 'dB', from, least: -18, most: -6 }]
	});

describe('control slots', () => {
	const floor = floorOf({
		lines: [lineAt('exp', 'tip-pot', 'trs')],
		feeds: [
			{ box: 'box', slot: 1, line: 'line' },
			{ box: 'box', slot: 2, line: 'line' }
		],
		presets: [
			preset('Nebula', { slot: 1 }),
			preset('Corona', { slot: 1 }),
			preset('Umbra', { slot: 3 }),
			preset('Perigee', { jack: 'exp' }),
			preset('Apogee', { jack: 'exp' })
		]
	});

	it('are read by many, and one pedal feeds several', () => {
		expect(slotUses(floor).map(({ slot, feeds, readers }) => [slot, feeds.length, readers.length])).toEqual([
			[1, 1, 2],
			[2, 1, 0],
			[3, 0, 1]
		]);
	});

	it('say what changing the pedal costs either way', () => {
		expect(costOfChange(floor, 'line')).toEqual({
			presets: ['Perigee', 'Apogee'],
			parameters: 2,
			slots: 2,
			allOnSlots: 3,
			noneOnSlots: 4
		});
		expect(costOfChange(floor, 'gone')).toMatchObject({ parameters: 0, slots: 0 });
	});

	it('can be read by all that named the jack, for what the counting said', () => {
		const before = costOfChange(floor, 'line');
		const after = applyEdits(floor, readBySlot(floor, 'line'));
		expect(costOfChange(after, 'line')).toMatchObject({ parameters: 0, presets: [], slots: before.slots });
		expect(slotUses(after)[0].readers.map(({ preset: { name } }) => name)).toEqual([
			'Nebula',
			'Corona',
			'Perigee',
			'Apogee'
		]);
		// A line that feeds none yet takes the first that nobody feeds; where there is none, nothing is changed.
		const fresh = { ...floor, feeds: floor.feeds.map((feed) => ({ ...feed, line: 'other' })) };
		expect(readBySlot(fresh, 'line')[0].value).toEqual({ box: 'box', slot: 3, line: 'line' });
		const full = { ...fresh, boxes: fresh.boxes.map((box) => ({ ...box, slots: 2 })) };
		expect(readBySlot(full, 'line')).toEqual([]);
		expect(readBySlot(floor, 'gone')).toEqual([]);
	});

	it('tell of a slot that nothing feeds, one that two feed, and parameters that go nowhere', () => {
		const odd = floorOf({
			...floor,
			feeds: [...floor.feeds, { box: 'box', slot: 1, line: 'other' }],
			presets: [...floor.presets, preset('Far', { slot: 9 }), preset('Lost', { jack: 'nowhere' })]
		});
		expect(slotTroubles(odd).map(({ says }) => says)).toEqual([
			'Slot 1 of Treadle is fed by 2 pedals: the one that was moved last wins.',
			'Slot 3 of Treadle is read by Umbra, and no pedal feeds it.',
			'Far: Level reads slot 9; Treadle has 4.',
			'Lost: Level reads a jack that Treadle has not.'
		]);
	});
});

describe('a response', () => {
	const responses: fc.Arbitrary<Response> = fc.oneof(
		fc.constantFrom(...(['even', 'slow start', 'fast start'] as const)).map((shape) => ({ shape })),
		fc
			.array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 })), {
				minLength: 1,
				maxLength: 6
			})
			.map((points) =>
				responseSchema.parse({ shape: 'own points', points: points.map(([x, y]) => [x / 100, y / 100]) })
			)
	);
	it('goes from one end of the range to the other, and never beyond', () => {
		fc.assert(
			fc.property(responses, fc.double({ min: 0, max: 1, noNaN: true }), (response, travel) => {
				const share = shareAt(response, travel);
				expect(share).toBeGreaterThanOrEqual(0);
				expect(share).toBeLessThanOrEqual(1);
				if (response.shape !== 'own points') {
					expect(shareAt(response, 0)).toBe(0);
					expect(shareAt(response, 1)).toBe(1);
				}
			})
		);
	});

	it('says the unit’s value, and the coarsest step that the pedal leaves', () => {
		const reading = { least: -18, most: -6, response: { shape: 'slow start' } as const };
		expect(valueInUnit(reading, 0.5)).toBe(-15);
		// Of 12 dB in 10 steps the last is the widest of a square: 1 − 0.81.
		expect(coarsest(reading, 10)).toBeCloseTo(2.28);
		expect(coarsest({ ...reading, response: { shape: 'even' } }, 10)).toBeCloseTo(1.2);
		expect(coarsest(reading, 0)).toBeNull();
	});
});

describe('an effect that engages by itself', () => {
	const engages = { above: 0.05, waitMs: 100, releaseMs: 500 };
	it('waits, stays through a short rest, and lets go after a long one', () => {
		expect(
			engagedTimes(
				engages,
				[
					{ atMs: 0, travel: 0 },
					{ atMs: 1000, travel: 0.5 },
					{ atMs: 2000, travel: 0 },
					{ atMs: 2300, travel: 0.4 },
					{ atMs: 3000, travel: 0 }
				],
				5000
			)
		).toEqual([{ fromMs: 1100, toMs: 3500 }]);
	});
	it('does not engage by a touch that is shorter than its wait, and is still on at the end', () => {
		const touch = [
			{ atMs: 0, travel: 0.5 },
			{ atMs: 50, travel: 0 },
			{ atMs: 1000, travel: 0.3 }
		];
		expect(engagedTimes(engages, touch, 2000)).toEqual([{ fromMs: 1100, toMs: null }]);
	});
	it('is what looking every millisecond gives', () => {
		const stood = fc
			.array(fc.tuple(fc.integer({ min: 1, max: 300 }), fc.constantFrom(0, 0.05, 0.06, 1)), { maxLength: 12 })
			.map((steps) => {
				let atMs = 0;
				return steps.map(([afterMs, travel]) => ({ atMs: (atMs += afterMs), travel }));
			});
		fc.assert(
			fc.property(stood, (moves) => {
				const short = { above: 0.05, waitMs: 40, releaseMs: 90 };
				const times = engagedTimes(short, moves, 4000);
				let [on, against] = [false, 0];
				const spans: string[] = [];
				for (let ms = 0; ms <= 4000; ms++) {
					const travel = moves.findLast(({ atMs }) => atMs < ms)?.travel ?? 0;
					against = ms > 0 && travel > short.above !== on ? against + 1 : 0;
					if (against < (on ? short.releaseMs : short.waitMs)) continue;
					spans.push(`${on ? 'off' : 'on'} ${ms}`);
					[on, against] = [!on, 0];
				}
				expect(
					times.flatMap(({ fromMs, toMs }) => [`on ${fromMs}`, ...(toMs === null ? [] : [`off ${toMs}`])])
				).toEqual(spans);
			})
		);
	});
});

it('a setting is found on every box by words of it', () => {
	expect(findSetting(floorOf(), 'long')).toEqual([
		{ box: 'Treadle', setting: 'Long press', path: 'System › Feet › Long' }
	]);
	expect(findSetting(floorOf(), 'long nowhere')).toEqual([]);
});
