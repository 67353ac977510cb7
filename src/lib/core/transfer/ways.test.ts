import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { layoutOf } from '../profile';
import {
	affectedSlots,
	captureCost,
	countSlots,
	planCapture,
	planRestore,
	scopeSchema,
	slotsInScope,
	slotsOf,
	writeMs
} from '.';

const umbra = profileNamed('ternhill-umbra');
const parallax = profileNamed('tarnow-parallax');
const orrery = profileNamed('vellbrook-orrery');
const nadir = profileNamed('quillon-nadir');
const lantern = profileNamed('bessel-lantern');
const slots = (area: string, ...indices: number[]) => new Map([[area, indices]]);
const always = () => true;

describe('scope', () => {
	it('names the slots of everything, of an area, or the chosen ones in order', () => {
		expect(countSlots(slotsInScope(orrery, { kind: 'all' }))).toBe(65);
		expect(slotsInScope(orrery, { kind: 'area', area: 'system' })).toEqual(new Map([['system', [0]]]));
		expect(
			slotsInScope(orrery, {
				kind: 'slots',
				slots: [
					{ area: 'programs', index: 9 },
					{ area: 'programs', index: 2 },
					{ area: 'programs', index: 9 }
				]
			})
		).toEqual(slots('programs', 2, 9));
	});

	it('is refused where it makes no sense', () => {
		expect(scopeSchema.safeParse({ kind: 'slots', slots: [] }).success).toBe(false);
		expect(scopeSchema.safeParse({ kind: 'slots', slots: [{ area: 'x', index: -1 }] }).success).toBe(false);
		expect(scopeSchema.safeParse({ kind: 'everything' }).success).toBe(false);
		expect(() => slotsInScope(orrery, { kind: 'area', area: 'nowhere' })).toThrow(
			'has no memory area “nowhere”'
		);
	});
});

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

describe('the quickest way to write', () => {
	it('is by programs for a few slots, by the bank for many', () => {
		expect(planRestore(umbra, slots('programs', 1, 2), always).writes.map(({ way }) => way.send)).toEqual([
			'program-dump',
			'program-dump'
		]);
		const all = planRestore(umbra, slotsInScope(umbra, { kind: 'all' }), always).writes;
		const cost = (send: string) => {
			const way = umbra.restore.find((entry) => entry.send === send)!;
			const only = planRestore({ ...umbra, restore: [way] }, slotsInScope(umbra, { kind: 'all' }), always);
			return only.writes.reduce((sum, write) => sum + writeMs(write), 0);
		};
		expect(all[0].way.send).toBe(cost('bank-dump') < cost('program-dump') ? 'bank-dump' : 'program-dump');
	});

	it('takes neighbours along where it must, and only where their content is known', () => {
		const { writes } = planRestore(orrery, slots('programs', 7), always);
		expect(affectedSlots(writes).get('programs')).toHaveLength(64);
		expect(planRestore(orrery, slots('programs', 7), (_, index) => index === 7)).toEqual({
			writes: [],
			impossible: ['programs']
		});
		expect(planRestore(nadir, slots('kits', 9), always).writes.map(slotsOf)).toEqual([
			[8, 9, 10, 11, 12, 13, 14, 15]
		]);
	});

	it('counts the wire, the rests and the pieces; a slower pace stretches the rests alone', () => {
		const [write] = planRestore(parallax, slots('programs', 0), always).writes;
		expect(writeMs(write)).toBeCloseTo(write.bytes * 0.32 + 2);
		expect(writeMs(write, 5) - writeMs(write)).toBeCloseTo(8);
		const only = { ...umbra, restore: [umbra.restore[0]] };
		const [bank] = planRestore(only, slotsInScope(umbra, { kind: 'all' }), always).writes;
		expect([bank.bytes, bank.records, bank.parcels.length]).toEqual([2408, 50, 1]);
		expect(writeMs(bank)).toBeCloseTo(2408 * 0.32 + 9 * 10 + 400);
	});
});
