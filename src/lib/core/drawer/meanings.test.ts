import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { factoryState, seededRandom } from '../bench';
import { makeSlot, meaningOf, parameterNamed, writeParameter } from '../profile';
import { mergeSlots, programTable, readProgramTable, recordChange } from '.';

const cairn = profileNamed('harbeck-cairn');
const tone = cairn.records.tone;
const [made] = factoryState(cairn, seededRandom(5)).memory.tones;
/** A tone with these values, what decides what others mean first. */
const toneOf = (values: Record<string, number>, from = made) =>
	Object.entries(values).reduce((bytes, [id, value]) => {
		const parameter = parameterNamed(tone, id)!;
		return writeParameter(meaningOf(tone, parameter, bytes), bytes, value);
	}, from);

describe('a value whose meaning depends on another', () => {
	const chorus = toneOf({ effect: 0, 'effect-1': 64, 'effect-2': 30 });
	const delay = toneOf({ effect: 1, 'effect-1': 64, 'effect-2': 60 });

	it('is compared as what it was and what it is; a number that only means something else is no change of its own', () => {
		expect(recordChange(cairn, 'tones', chorus, delay)?.parameters).toEqual([
			{ id: 'effect', name: 'Effect', from: 'Chorus', to: 'Delay' },
			{ id: 'effect-2', name: 'Delay feedback', from: 'Chorus depth 30\u00a0%', to: '60\u00a0%' }
		]);
	});

	it('is exported with its unit and read back by what it then is', () => {
		const slot = makeSlot(cairn, 'tones', 3, chorus);
		const table = programTable(cairn, 'tones', [slot]);
		const column = (name: string) => table[0].indexOf(name);
		expect(table[1][column('Effect value 1')]).toBe('0.72 Hz');
		expect(readProgramTable(cairn, 'tones', [slot], table)).toMatchObject({ changed: 0, faults: [] });
		const edited = table.map((row) => [...row]);
		edited[1][column('Effect')] = 'Delay';
		edited[1][column('Effect value 1')] = '400 ms';
		edited[1][column('Layer 1 attack (s)')] = '2';
		const read = readProgramTable(cairn, 'tones', [slot], edited);
		expect(read).toMatchObject({ changed: 1, faults: [] });
		expect(recordChange(cairn, 'tones', chorus, read.slots[0].bytes)?.parameters.map(({ to }) => to)).toEqual(
			expect.arrayContaining(['Delay', '2.00\u00a0s'])
		);
		edited[1][column('Effect value 2')] = '99 %';
		expect(readProgramTable(cairn, 'tones', [slot], edited).faults).toMatchObject([
			{ row: 2, column: 'Effect value 2' }
		]);
	});

	it('is not combined with a change of what it depends on', () => {
		const merged = (device: Uint8Array, drawer: Uint8Array) =>
			mergeSlots(
				cairn,
				...([chorus, device, drawer].map((bytes) => [makeSlot(cairn, 'tones', 0, bytes)]) as [
					never,
					never,
					never
				])
			)[0];
		expect(merged(toneOf({ effect: 3 }, chorus), toneOf({ 'effect-2': 31 }, chorus)).combined).toBeNull();
		expect(merged(toneOf({ level: 3 }, chorus), toneOf({ 'effect-2': 31 }, chorus)).combined).not.toBeNull();
	});
});

it('bits that stand for no number are compared as what they are', () => {
	const bytes = toneOf({ 'l1-detune': 0 }).slice();
	bytes[82] = 0x0f;
	bytes[83] = 0x03;
	expect(recordChange(cairn, 'tones', toneOf({ 'l1-detune': 0 }), bytes)?.parameters).toMatchObject([
		{ id: 'l1-detune', from: '0', to: '‹F3›' }
	]);
});
