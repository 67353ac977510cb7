import { describe, expect, it } from 'vitest';
import { beginQuick, touchQuick, type Quick } from './quick';

const a = { control: 'fader-1', name: 'Fader 1' };
const b = { control: 'fader-2', name: 'Fader 2' };
const c = { control: 'fader-3', name: 'Fader 3' };

/** Touches one after another, with what was written. */
function play(quick: Quick, touches: (typeof a)[][]) {
	const written: string[] = [];
	const said: string[] = [];
	for (const spoke of touches) {
		const done = touchQuick(quick, spoke);
		quick = done.quick;
		said.push(quick.says);
		if (done.write) written.push(`${done.write.control} ${done.write.words}`);
	}
	return { quick, written, said };
}

describe('targets given to controls as they are touched', () => {
	it('go one after another to whoever is touched, and a knob that goes on speaking does not move on', () => {
		const { written, said } = play(beginQuick(['Cutoff', 'Level']), [[b], [b], [b], [a], [a], [c]]);
		expect(written).toEqual(['fader-2 Cutoff', 'fader-1 Level']);
		expect(said[0]).toBe('Cutoff is on Fader 2. Touch the control for Level.');
		expect(said[2]).toBe(said[0]);
		expect(said[3]).toBe('Level is on Fader 1. All 2 are written.');
		expect(said[5]).toBe('All 2 are written.');
	});

	it('are not given to one that has one, to two that spoke together, or to nobody', () => {
		const { written, said } = play(beginQuick(['Cutoff', 'Level', 'Pan']), [[a], [b], [a], [b, c], [], [c]]);
		expect(written).toEqual(['fader-1 Cutoff', 'fader-2 Level', 'fader-3 Pan']);
		expect(said.slice(2, 5)).toEqual([
			'Fader 1 has Cutoff. Touch the control for Pan.',
			'Fader 2 and Fader 3 spoke together. Touch the control for Pan.',
			'Somebody spoke, and nobody is known to speak so. Touch the control for Pan.'
		]);
	});

	it('that are none ask for nothing', () => {
		expect(touchQuick(beginQuick([]), [a]).write).toBeNull();
		expect(beginQuick([]).says).toBe('There is nothing to write.');
	});
});
