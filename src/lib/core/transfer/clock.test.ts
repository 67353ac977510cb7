import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { VirtualClock } from './clock';

describe('virtual clock', () => {
	it('runs what is due in order of time, equal times in the order in which they were asked for', () => {
		fc.assert(
			fc.property(fc.array(fc.integer({ min: 0, max: 20 }), { maxLength: 60 }), (delays) => {
				const clock = new VirtualClock();
				const ran: { at: number; order: number }[] = [];
				delays.forEach((ms, order) => clock.after(ms, () => ran.push({ at: clock.now(), order })));
				clock.run();
				const expected = delays
					.map((at, order) => ({ at, order }))
					.sort((a, b) => a.at - b.at || a.order - b.order);
				expect(ran).toEqual(expected);
			})
		);
	});

	it('stands where it was told to stop, and leaves later things for later', () => {
		const clock = new VirtualClock();
		const ran: string[] = [];
		clock.after(10, () => ran.push('early'));
		clock.after(30, () => ran.push('late'));
		clock.runUntil(20);
		expect(ran).toEqual(['early']);
		expect(clock.now()).toBe(20);
		clock.runUntil(30);
		expect(ran).toEqual(['early', 'late']);
	});

	it('never runs what was taken back', () => {
		const clock = new VirtualClock();
		let ran = 0;
		const takeBack = clock.after(5, () => ran++);
		clock.after(3, takeBack);
		clock.run();
		expect(ran).toBe(0);
	});

	it('runs what is asked for while it runs', () => {
		const clock = new VirtualClock();
		const times: number[] = [];
		const again = () => {
			times.push(clock.now());
			if (times.length < 4) clock.after(2.5, again);
		};
		clock.after(0, again);
		clock.run();
		expect(times).toEqual([0, 2.5, 5, 7.5]);
	});

	it('stops when it is told to', () => {
		const clock = new VirtualClock();
		let ran = 0;
		for (let i = 0; i < 5; i++) clock.after(i, () => ran++);
		clock.run(() => ran === 2);
		expect(ran).toBe(2);
	});
});
