import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { HeardMessage } from '../stream';
import {
	answerSweep,
	beginSweep,
	beginWalk,
	endOf,
	hearBurst,
	insertAt,
	openOf,
	removeAt,
	sweepFrom,
	sweepText,
	tickOf,
	undoSweep,
	walkBurst,
	type Sweep,
	type Wanted
} from './index';

const pads = (count: number): Wanted[] =>
	Array.from({ length: count }, (_, i) => ({ control: `pad-${i}`, name: `Pad ${i + 1}`, series: 'pads' }));
const hit = (note: number, channel = 10): HeardMessage[] => [
	{ atMs: 0, bytes: Uint8Array.of(0x90 + channel - 1, note, 99) },
	{ atMs: 80, bytes: Uint8Array.of(0x80 + channel - 1, note, 0) }
];
const turn = (number: number): HeardMessage[] =>
	[10, 11, 12, 13].map((value, i) => ({ atMs: i * 10, bytes: Uint8Array.of(0xb0, number, value) }));
const notes = ({ taken }: Sweep) => taken.map((each) => each?.address.number ?? null);

describe('sweep learning', () => {
	it('goes on from what was written down, in all but the steps before', () => {
		const asked = [36, 37, 39].map((note) => hit(note)).reduce(hearBurst, beginSweep(pads(4)));
		expect(asked.question).not.toBeNull();
		const again = sweepFrom(sweepText(asked));
		expect(again).toEqual({ ...asked, before: null });
		expect(notes(answerSweep(again, 'one-was-missed'))).toEqual(notes(answerSweep(asked, 'one-was-missed')));
	});

	it('takes each control when it speaks, and says what to touch next', () => {
		let sweep = beginSweep(pads(2));
		expect(sweep.says).toBe('Touch Pad 1.');
		sweep = hearBurst(sweep, hit(36));
		expect(sweep.says).toBe('Pad 1 is note 36 on channel 10. Touch Pad 2.');
		sweep = hearBurst(sweep, hit(37));
		expect(sweep.says).toContain('All have spoken');
		expect(openOf(sweep)).toEqual([]);
	});

	it('is not moved on by a control that is hit twice', () => {
		let sweep = hearBurst(beginSweep(pads(3)), hit(36));
		sweep = hearBurst(hearBurst(sweep, hit(36)), hit(36));
		expect([sweep.next, notes(sweep)]).toEqual([1, [36, null, null]]);
		expect(sweep.taken[0]!.heard).toHaveLength(6);
	});

	it('asks at once about a note that breaks its series, and nothing shifts until it is answered', () => {
		let sweep = [36, 37, 39].reduce((now, note) => hearBurst(now, hit(note)), beginSweep(pads(4)));
		expect(sweep.question!.says).toBe(
			'Pad 3 would be note 38; this was note 39 on channel 10. Was one missed?'
		);
		expect(notes(sweep)).toEqual([36, 37, null, null]);
		expect(hearBurst(sweep, hit(40))).toBe(sweep);
		expect(notes(answerSweep(sweep, 'one-was-missed'))).toEqual([36, 37, null, 39]);
		expect(notes(answerSweep(sweep, 'it-is-right'))).toEqual([36, 37, 39, null]);
		sweep = answerSweep(sweep, 'not-this');
		expect([sweep.next, notes(sweep), sweep.says]).toEqual([2, [36, 37, null, null], 'Touch Pad 3.']);
	});

	it('goes back when an earlier one is touched', () => {
		let sweep = [36, 37, 38].reduce((now, note) => hearBurst(now, hit(note)), beginSweep(pads(4)));
		sweep = hearBurst(sweep, hit(36));
		expect([sweep.next, sweep.says]).toEqual([1, 'Back at Pad 1. Touch Pad 2.']);
	});

	it('shifts the rest for one that is put in or taken out, and takes that back', () => {
		const sweep = [36, 37].reduce((now, note) => hearBurst(now, hit(note)), beginSweep(pads(3)));
		const put = insertAt(sweep, 1);
		expect([notes(put), put.next]).toEqual([[36, null, 37], 1]);
		expect(undoSweep(put)).toEqual(sweep);
		const out = removeAt(sweep, 0);
		expect([notes(out), out.next]).toEqual([[37, null, null], 1]);
		expect(notes(undoSweep(out))).toEqual([36, 37, null]);
		// Nothing falls off the end.
		const full = hearBurst(sweep, hit(38));
		expect(insertAt(full, 0)).toBe(full);
	});

	it('takes none of two that speak at once, but for the one that still sends', () => {
		const wanted: Wanted[] = ['a', 'b', 'c'].map((control) => ({ control, name: control, series: null }));
		let sweep = hearBurst(beginSweep(wanted), [...turn(20), ...turn(21)]);
		expect(notes(sweep)).toEqual([null, null, null]);
		expect(sweep.says).toContain('Two spoke at once: controller 20 on channel 1 and controller 21');
		sweep = hearBurst(hearBurst(sweep, turn(20)), [...turn(20), ...turn(22)]);
		expect(notes(sweep)).toEqual([20, 22, null]);
	});

	it('knows a pad by its note, whatever pressure it tells', () => {
		const burst = [...hit(40), { atMs: 30, bytes: Uint8Array.of(0xd9, 55) }];
		expect(notes(hearBurst(beginSweep(pads(1)), burst))).toEqual([40]);
	});

	it('never shifts: whatever is hit twice, missed, or gone back to, every pad ends with its own note', () => {
		const hand = fc.array(fc.constantFrom('hit', 'double', 'miss', 'back', 'other'), { maxLength: 60 });
		fc.assert(
			fc.property(fc.integer({ min: 2, max: 16 }), hand, (count, moves) => {
				let sweep = beginSweep(pads(count));
				const play = (pad: number) => {
					sweep = hearBurst(sweep, hit(36 + pad));
				};
				play(0);
				for (const move of moves) {
					const at = sweep.next;
					if (move === 'hit' && at < count) play(at);
					if (move === 'double' && at > 0) play(at - 1);
					if (move === 'back' && at > 1 && sweep.taken[at - 2]) play(at - 2);
					if (move === 'miss' && at + 1 < count && !sweep.taken[at + 1]) {
						play(at + 1);
						if (sweep.question) sweep = answerSweep(sweep, 'one-was-missed');
					}
					if (move === 'other' && at < count) {
						sweep = hearBurst(sweep, hit(100));
						if (sweep.question) sweep = answerSweep(sweep, 'not-this');
					}
					sweep.taken.forEach((taken, i) => {
						if (taken && taken.address.number !== 100) expect(taken.address.number).toBe(36 + i);
					});
				}
			}),
			{ numRuns: 500 }
		);
	});
});

describe('walking back', () => {
	const walk = () =>
		beginWalk(
			[36, 37, 38].map((number, i) => ({
				control: `pad-${i}`,
				name: `Pad ${i + 1}`,
				address: { family: 'note' as const, channel: 10, number }
			}))
		);
	const after = (...played: number[]) => played.reduce((now, note) => walkBurst(now, hit(note)), walk());

	it('is done when each spoke once, in any order; a second touch in a row is the same one', () => {
		expect(endOf(after(38, 36, 36, 37))).toEqual({ walked: true, faults: [] });
	});

	it('is not done before, and names what never spoke', () => {
		const half = after(36, 38);
		expect(half.controls.map(tickOf)).toEqual(['spoke', 'open', 'spoke']);
		expect(endOf(half)).toEqual({ walked: false, faults: ['Pad 2 was never heard.'] });
	});

	it('names who spoke for another', () => {
		expect(endOf(after(36, 37, 36)).faults).toEqual([
			'Pad 3 was never heard, and Pad 1 twice: very likely Pad 3 speaks for Pad 1 (note 36 on channel 10).'
		]);
	});

	it('names what is nobody’s', () => {
		expect(endOf(after(36, 37, 50, 38)).faults).toEqual([
			'Nothing in the map is note 50 on channel 10, and it was heard.'
		]);
	});
});
