import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { affectedSlots, planRestore, slotsInScope, slotsOf, writeMs } from '.';

const umbra = profileNamed('ternhill-umbra');
const parallax = profileNamed('tarnow-parallax');
const orrery = profileNamed('vellbrook-orrery');
const nadir = profileNamed('quillon-nadir');
const slots = (area: string, ...indices: number[]) => new Map([[area, indices]]);
const always = () => true;

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
