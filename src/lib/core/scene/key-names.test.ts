import { expect, it } from 'vitest';
import { keyName, keyNamed } from './key-names';

it('calls keys and knows them by any of their names', () => {
	expect([0, 21, 60, 61, 127].map(keyName)).toEqual(['C-1', 'A0', 'C4', 'C♯4', 'G9']);
	for (let key = 0; key < 128; key++) {
		expect(keyNamed(keyName(key))).toBe(key);
		expect(keyNamed(` ${key} `)).toBe(key);
	}
	expect(['f#3', 'Gb3', 'G♭3', 'b 2', 'Cb4', 'B#3'].map(keyNamed)).toEqual([54, 54, 54, 47, 59, 60]);
	expect(['', 'H3', '128', 'G#9', 'C', 'Cb-1', '1.5'].map(keyNamed)).toEqual(Array(7).fill(null));
});
