import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { layoutOf } from '../profile';
import { captureCost, planCapture, slotsInScope } from '.';

const umbra = profileNamed('ternhill-umbra');
const nadir = profileNamed('quillon-nadir');
const lantern = profileNamed('bessel-lantern');
const slots = (area: string, ...indices: number[]) => new Map([[area, indices]]);

describe('the quickest way to ask', () => {
	it('is by programs for a few slots, by the bank for many', () => {
		const few = planCapture(umbra, slots('programs', 3, 4)).asks;
		expect(few.map((ask) => [ask.way.expect, ask.firsts])).toEqual([
			['program-dump', [3]],
			['program-dump', [4]]
		]);
		const all = planCapture(umbra, slotsInScope(umbra, { kind: 'all' })).asks;
		expect(all.map((ask) => ask.way.expect)).toEqual(['bank-dump']);
		expect(captureCost(all).bytes).toBe(layoutOf(umbra, 'bank-dump').length);
	});

	it('is the whole dump where it is started at the panel', () => {
		const [ask, ...rest] = planCapture(nadir, slots('kits', 20)).asks;
		expect(rest).toEqual([]);
		expect(ask).toMatchObject({ firsts: [0, 8, 16, 24, 32, 40], records: 8, requestBytes: 0 });
	});

	it('does not exist for a device that only listens', () => {
		expect(planCapture(lantern, slotsInScope(lantern, { kind: 'all' }))).toEqual({
			asks: [],
			impossible: ['presets']
		});
	});
});
