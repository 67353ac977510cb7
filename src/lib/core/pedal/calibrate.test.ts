import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../bench';
import { benchLevel, FULL_TRAVEL, playFoot, type BenchPedal, type FootMove } from './bench-pedal';
import { calibrate, travelOf, type Calibrating, type Calibration } from './calibrate';

const fine: BenchPedal = {
	pot: { heel: 0, toe: 1, taper: 'even' },
	reads: [0.03, 0.94],
	noise: 0,
	holes: []
};
function found(pedal: BenchPedal, moves: readonly FootMove[] = FULL_TRAVEL, seed = 1): Calibration {
	const { heard, untilMs } = playFoot(pedal, moves, seededRandom(seed));
	return calibrated(calibrate(heard, untilMs));
}
function calibrated(calibrating: Calibrating): Calibration {
	if (calibrating.is !== 'heard') throw new Error(calibrating.says);
	return calibrating.calibration;
}

describe('calibrating a pedal', () => {
	it('finds the ends and the noise of 10,000 pots within one step', () => {
		const random = seededRandom(20261128);
		const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)];
		const misses: unknown[] = [];
		for (let i = 0; i < 10_000; i++) {
			const [heel, toe] = [random() * 0.3, 0.6 + random() * 0.4];
			const falls = random() < 0.4;
			const pedal: BenchPedal = {
				pot: { heel: falls ? toe : heel, toe: falls ? heel : toe, taper: pick(['even', 'slow', 'fast']) },
				reads: [random() * 0.1, 0.8 + random() * 0.2],
				noise: pick([0, 0.3, 0.6, 1, 1.7, 2.5, 4]),
				holes: []
			};
			const rest = () => 1000 + random() * 1500;
			const slow = () => 900 + random() * 2500;
			const pause: FootMove[] =
				random() < 0.3
					? [{ to: 0.3 + random() * 0.4, overMs: 700 }].flatMap((move) => [move, { ...move, overMs: 900 }])
					: [];
			const moves: FootMove[] = [
				{ to: 0, overMs: rest() },
				...pause,
				{ to: 1, overMs: slow() },
				{ to: 1, overMs: rest() },
				{ to: 0, overMs: slow() },
				{ to: 0, overMs: rest() }
			];
			const ends = [0, 1].map((travel) => benchLevel(pedal, travel));
			// A pot that hardly moves is no pedal.
			if (Math.abs(ends[1] - ends[0]) < 40) continue;
			const { heard, untilMs } = playFoot(pedal, moves, random, pick([5, 8, 12]));
			const calibrating = calibrate(heard, untilMs);
			if (calibrating.is !== 'heard') {
				misses.push([i, calibrating.says]);
				continue;
			}
			const { heel: h, toe: t, noise, falls: down } = calibrating.calibration;
			// What it can wander over: the whole numbers that are met with the noise to both sides, cut at nought and at the top.
			const widths = ends.map(
				(end) => Math.min(127, Math.round(end + pedal.noise)) - Math.max(0, Math.round(end - pedal.noise)) + 1
			);
			const far = Math.max(
				Math.abs(h - meanAt(ends[0], pedal.noise)),
				Math.abs(t - meanAt(ends[1], pedal.noise)),
				Math.abs(noise - Math.max(...widths))
			);
			if (far > 1 || down !== ends[1] < ends[0]) misses.push([i, pedal, ends, calibrating.calibration, far]);
		}
		expect(misses.slice(0, 6).map((m) => JSON.stringify(m))).toEqual([]);
	}, 120_000);

	it('says what it still wants, in the order of the foot', () => {
		const { heard } = playFoot(fine, FULL_TRAVEL, seededRandom(1));
		const upTo = (ms: number) =>
			calibrate(
				heard.filter(({ atMs }) => atMs <= ms),
				ms
			);
		expect(calibrate([], 0)).toMatchObject({ is: 'wanting', what: 'movement' });
		expect(upTo(1400)).toMatchObject({ is: 'wanting' });
		expect(upTo(2500)).toMatchObject({ is: 'wanting', what: 'toe' });
		expect(upTo(4000)).toMatchObject({ is: 'heard' });
	});

	it('tells a hole of the track from a quick foot: it is there each time', () => {
		const holed = found({ ...fine, holes: [[0.42, 0.46]] });
		expect(holed.worn).toHaveLength(1);
		expect(holed.worn[0].times).toBeGreaterThan(1);
		expect(found(fine).worn).toEqual([]);
		const quick = FULL_TRAVEL.map((move, i) => (i === 1 ? { ...move, overMs: 60 } : move));
		expect(found(fine, quick).worn).toEqual([]);
	});

	it('has dead zones that cover what the pedal wanders over at rest', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom(0, 0.6, 1.7, 3), (seed, noise) => {
				const pedal = { ...fine, noise };
				const calibration = found(pedal, FULL_TRAVEL, seed);
				const rest = playFoot(pedal, [{ to: 0, overMs: 600 }], seededRandom(seed + 7)).heard;
				const beyond = rest.filter(({ value }) => travelOf(calibration, value) > 1.5 / 110);
				expect(beyond).toEqual([]);
				expect(calibration.steps).toBeLessThanOrEqual(
					Math.abs(calibration.deadToe - calibration.deadHeel) / calibration.noise
				);
			}),
			{ numRuns: 60 }
		);
	});

	it('is not put off by a foot that rests for a night, nor by a recording of hundreds of thousands of values', () => {
		const { heard, untilMs } = playFoot(fine, FULL_TRAVEL, seededRandom(1));
		const once = found(fine);
		const night = 12 * 3_600_000;
		expect(calibrate(heard, untilMs + night)).toEqual({ is: 'heard', calibration: once });
		const middle = heard.findIndex(({ value }) => value > (once.heel + once.toe) / 2);
		const late = heard.map((each, i) => (i < middle ? each : { ...each, atMs: each.atMs + night }));
		const { heel, toe } = calibrated(calibrate(late, untilMs + night));
		expect([heel, toe]).toEqual([once.heel, once.toe]);
		const often = Array.from({ length: Math.ceil(300_000 / heard.length) }, (_, round) =>
			heard.map(({ atMs, value }) => ({ value, atMs: atMs + round * (untilMs + 5) }))
		).flat();
		expect(calibrated(calibrate(often, often.at(-1)!.atMs + 1000)).heel).toBeCloseTo(once.heel, 0);
	});
});

/** What an end reads on the average, its noise to both sides cut at nought and at the top: by even chances. */
const meanAt = (end: number, noise: number): number =>
	Array.from({ length: 200 }, (_, i) =>
		Math.min(127, Math.max(0, Math.round(end + ((i + 0.5) / 100 - 1) * noise)))
	).reduce((a, b) => a + b, 0) / 200;
