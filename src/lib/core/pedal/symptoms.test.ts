import { describe, expect, it } from 'vitest';
import { floorOf, lineAt } from './floor.fixture';
import { pairingOf } from './pairing';
import { causesOf, symptomsOf, type Symptom } from './symptoms';

const causes = (jack: string, pedal: string, cable: string | null, symptom: Symptom) => {
	const floor = floorOf({ lines: [lineAt(jack, pedal, cable)] });
	return causesOf(floor, floor.lines[0], symptom);
};
const says = (...args: Parameters<typeof causes>) => causes(...args).map((cause) => cause.says);

describe('the causes of a symptom', () => {
	it('begin with what is noted, where that alone explains it', () => {
		expect(says('one', 'closed', null, 'let go')[0]).toMatch(/^It is as noted/);
		expect(says('two', 'pair', 'ts', 'nothing')[0]).not.toMatch(/^It is as noted/);
	});

	it('are the setting, then the switch, for one that acts when let go though it should not', () => {
		expect(says('one', 'open', null, 'let go')).toEqual([
			'“one” is set for the other kind of switch',
			'The switch inside is of the other kind than is noted'
		]);
		expect(says('senses', 'open', null, 'let go')[0]).toBe('A foot was on it when the box was switched on');
		expect(says('plain', 'flips', null, 'let go')[0]).toBe(
			'The small switch on the pedal stands on the other side'
		);
	});

	it('are plug, then wires, for nothing at all', () => {
		const [first, ...rest] = says('one', 'open', null, 'nothing');
		expect(first).toBe('The plug is not in, or not all the way');
		expect(rest).toContain('The tip of a cable or plug is broken');
		// A jack for one switch has no use for the ring.
		expect(rest).not.toContain('The ring of a cable or plug is broken');
	});

	it('of a pedal are its calibration and its travel, and a broken wire where that shows it', () => {
		expect(says('exp', 'tip-pot', 'trs', 'no end')).toContain('The box was not told where its ends are');
		expect(says('exp', 'tip-pot', 'trs', 'jumps')).toContain('Its track is worn');
		expect(says('exp', 'tip-pot', 'trs', 'jumps')).toContain('The cable crosses tip and ring');
	});

	it('share all likelihood among them, and each has its test', () => {
		for (const symptom of ['nothing', 'let go', 'swapped', 'both', 'jumps', 'no end', 'no zero'] as const)
			for (const [jack, pedal, cable] of [
				['one', 'closed', null],
				['two', 'pair', 'ts'],
				['any', 'tip-pot', 'trs']
			] as const) {
				const found = causes(jack, pedal, cable, symptom);
				if (found.length === 0) continue;
				expect(found.reduce((sum, { likely }) => sum + likely, 0)).toBeCloseTo(1);
				expect(found.every(({ test }) => test.length > 10)).toBe(true);
			}
	});

	it('are none where nothing is noted any more', () => {
		expect(causes('one', 'gone', null, 'nothing')).toEqual([]);
	});
});

describe('what somebody would complain of', () => {
	const of = (jack: string, pedal: string, cable: string | null) => {
		const floor = floorOf({ lines: [lineAt(jack, pedal, cable)] });
		return [...symptomsOf(pairingOf(floor, floor.lines[0])!)];
	};
	it('is read off the circuit', () => {
		expect(of('one', 'open', null)).toEqual([]);
		expect(of('one', 'closed', null)).toEqual(['let go', 'swapped']);
		expect(of('exp', 'open', null)).toEqual(['nothing']);
		expect(of('exp', 'ring-pot', null)).toContain('jumps');
	});
});
