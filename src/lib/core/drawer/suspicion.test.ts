import { describe, expect, it } from 'vitest';
import { suspicionOf, suspicionSays, type SlotTurn } from '.';

const turns = (count: number, make: (i: number) => Partial<SlotTurn>): SlotTurn[] =>
	Array.from({ length: count }, (_, index) => ({
		area: 'a',
		index,
		before: `sound ${index}`,
		now: `sound ${index}`,
		blank: false,
		...make(index)
	}));

describe('a backup that should be looked at first', () => {
	it('nothing is asked where most slots are as they were', () => {
		expect(suspicionOf(turns(64, (i) => (i < 32 ? { now: `other ${i}` } : {})))).toBeNull();
		expect(suspicionOf(turns(3, () => ({ now: 'x', blank: true })))).toBeNull();
	});

	it('a wiped memory is told by what is empty or all alike', () => {
		const wiped = turns(64, (i) => (i < 58 ? { now: 'initial' } : {}));
		const found = suspicionOf(wiped);
		expect(found).toEqual({ kind: 'emptied', slots: 58, of: 64 });
		expect(suspicionSays(found!, '2026-03-31')).toBe(
			'58 of 64 slots are empty or all alike that held sounds when it was read on 2026-03-31: wiped?'
		);
		expect(suspicionOf(turns(8, (i) => ({ now: `blank ${i}`, blank: true })))).toMatchObject({
			kind: 'emptied'
		});
	});

	it('slots that were empty before and still are say nothing', () => {
		expect(suspicionOf(turns(64, () => ({ before: 'initial', now: 'initial', blank: true })))).toBeNull();
	});

	it('another bank, and a first backup of one sound over and over', () => {
		expect(suspicionOf(turns(8, (i) => (i < 5 ? { now: `other ${i}` } : {})))).toEqual({
			kind: 'mostly different',
			slots: 5,
			of: 8
		});
		expect(suspicionOf(turns(8, () => ({ before: null, now: 'initial' })))).toMatchObject({
			kind: 'all alike'
		});
		expect(suspicionOf(turns(8, () => ({ before: null })))).toBeNull();
	});
});
