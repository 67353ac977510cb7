import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { factoryState, seededRandom } from '../bench';
import { CODES } from './schema/record';
import {
	formatValue,
	meaningOf,
	parameterNamed,
	rawOf,
	readValue,
	valueLimits,
	valueOf,
	writeParameter,
	type ProfileParameter
} from '.';

const cairn = profileNamed('harbeck-cairn');
const tone = cairn.records.tone;
const one = (id: string): ProfileParameter => parameterNamed(tone, id)!;
const [made] = factoryState(cairn, seededRandom(5)).memory.tones;
const shown = (parameter: ProfileParameter, value: number) =>
	formatValue(parameter, value).replace('\u00a0', ' ');
/** A tone with these values, what decides what others mean first. */
const toneOf = (values: Record<string, number>, from = made) =>
	Object.entries(values).reduce(
		(bytes, [id, value]) => writeParameter(meaningOf(tone, one(id), bytes), bytes, value),
		from
	);

describe('a code', () => {
	it.each(CODES)('%s writes each of its values in one way, and no two bits read alike', (coded) => {
		fc.assert(
			fc.property(fc.integer({ min: 2, max: 16 }), fc.nat(), (bits, at) => {
				const coding = { bits, coded, range: [0, 2 ** bits - 1] as [number, number] };
				const raw = at % 2 ** bits;
				expect(rawOf(coding, valueOf(coding, raw))).toBe(raw);
				const [low, high] = valueLimits(coding);
				const value = low + (at % (high - low + 1));
				expect(rawOf(coding, value)).toBeGreaterThanOrEqual(0);
				expect(rawOf(coding, value)).toBeLessThan(2 ** bits);
				expect(valueOf(coding, rawOf(coding, value))).toBe(value);
			})
		);
	});

	it('is the one that manuals mean', () => {
		const read = (coded: ProfileParameter['coded'], bits: number, raw: number) =>
			valueOf({ bits, coded, range: [0, 127] }, raw);
		expect([read('twos-complement', 7, 0x7f), read('twos-complement', 7, 0x40)]).toEqual([-1, -64]);
		expect([read('sign-bit', 7, 0x41), read('sign-bit', 7, 0x01)]).toEqual([-1, 1]);
		expect([read('offset', 7, 0x40), read('offset', 7, 0)]).toEqual([0, -64]);
		expect(read('bcd', 8, 0x42)).toBe(42);
		expect([read('reversed', 7, 0), read('reversed', 7, 127)]).toEqual([127, 0]);
	});

	it('shows bits that stand for no number as what they are, and calls them no number', () => {
		const detune = one('l1-detune');
		const bytes = made.slice();
		bytes[82] = 0x0f;
		bytes[83] = 0x03;
		expect(formatValue(detune, readValue(detune, bytes))).toBe('‹F3›');
	});
});

describe('what is shown', () => {
	it('multiplies along an exponential curve, and counts along a logarithmic one', () => {
		const cutoff = one('l1-cutoff');
		expect([0, 127].map((value) => shown(cutoff, value))).toEqual(['20 Hz', '20000 Hz']);
		expect(shown({ ...cutoff, range: [0, 100] }, 50)).toBe('632 Hz');
		const tone = meaningOf(cairn.records.tone, one('effect-2'), toneOf({ effect: 3 }));
		expect([1, 127].map((value) => shown(tone, value))).toEqual(['0.0', '10.0']);
		// The square root of the range lies half way.
		expect(Number(shown({ ...tone, range: [1, 100] }, 10))).toBe(5);
	});

	it('goes from point to point, by names where there are some, and by the bits that are set', () => {
		const attack = one('l1-attack');
		expect([0, 32, 48, 127].map((value) => shown(attack, value))).toEqual([
			'0.00 s',
			'0.02 s',
			'0.11 s',
			'12.00 s'
		]);
		expect([0, 1, 16].map((value) => shown(one('l1-group'), value))).toEqual(['None', '1', '16']);
		expect([0, 5, 63].map((value) => shown(one('l1-takes'), value))).toEqual([
			'–',
			'Bend + Hold',
			'Bend + Wheel + Hold + Expression + Pressure + Foot'
		]);
	});
});

describe('a value whose meaning depends on another', () => {
	const chorus = toneOf({ effect: 0, 'effect-1': 64, 'effect-2': 30 });
	const delay = toneOf({ effect: 1, 'effect-1': 64, 'effect-2': 60 });

	it('has the name, the range and the unit that it has there', () => {
		expect(meaningOf(tone, one('effect-1'), chorus)).toMatchObject({ name: 'Chorus rate', unit: 'Hz' });
		expect(shown(meaningOf(tone, one('effect-1'), delay), 64)).toBe('400 ms');
		expect(() => toneOf({ 'effect-1': 3 }, toneOf({ effect: 2 }))).toThrow('Rotor speed');
	});
});

it('made-up tones hold only values that their meaning allows', () => {
	for (const bytes of factoryState(cairn, seededRandom(6)).memory.tones)
		for (const parameter of tone.parameters) {
			const { range } = meaningOf(tone, parameter, bytes);
			const value = readValue(parameter, bytes);
			expect(value >= range[0] && value <= range[1], parameter.id).toBe(true);
		}
});
