import { describe, expect, it } from 'vitest';
import { readWave, writeWave } from './wave';

describe('samples as .wav files', () => {
	it('come back as they were', () => {
		const sample = {
			number: 3,
			bits: 16,
			periodNs: 22_676,
			loop: { start: 0, end: 199, kind: 'off' as const },
			words: Uint32Array.from({ length: 200 }, (_, i) => (i * 321) % 65536)
		};
		expect(readWave(writeWave(sample), 3)).toEqual(sample);
	});

	it('something else is refused in words', () => {
		expect(() => readWave(Uint8Array.of(1, 2, 3), 0)).toThrow('no .wav');
	});
});
