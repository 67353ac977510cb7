import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { profileNamed } from '../bench/bench.fixture';
import { makeSlot, writeName, writeParameter, type Slot } from '../profile';
import {
	byteLines,
	changedSlots,
	compareSlots,
	contentHash,
	foldName,
	recordChange,
	searchWords,
	similarity
} from '.';

const profile = profileNamed('vellbrook-orrery');
const record = profile.records.program;
const parameter = (id: string) => record.parameters.find((entry) => entry.id === id)!;
const bank = (seed = 4): Slot[] =>
	factoryState(profile, seededRandom(seed)).memory.programs.map((bytes, index) =>
		makeSlot(profile, 'programs', index, bytes)
	);
const put = (slots: Slot[], index: number, bytes: Uint8Array) =>
	slots.map((slot) => (slot.index === index ? makeSlot(profile, 'programs', index, bytes) : slot));
const brief = (before: Slot[], after: Slot[]) =>
	changedSlots(compareSlots(profile, before, after)).map(
		({ label, state, from }) => `${label} ${state}${from ? ` ${from.label}` : ''}`
	);

describe('comparing two banks', () => {
	const before = bank();

	it('finds nothing between equal banks', () => {
		expect(brief(before, before)).toEqual([]);
	});

	it('tells which parameters were edited, from and to, in units', () => {
		const after = put(
			before,
			9,
			writeParameter(parameter('osc1-tune'), writeParameter(parameter('filter-type'), before[9].bytes, 3), 38)
		);
		const [change] = changedSlots(compareSlots(profile, before, after));
		expect(change).toMatchObject({ label: '22', state: 'edited', from: null });
		expect(change.change!.parameters.map(({ name, to }) => `${name} ${to}`).sort()).toEqual([
			'Filter type High',
			'Oscillator 1 fine tune \u221212\u00a0ct'
		]);
	});

	it('tells renamed, swapped, moved, copied, new and gone apart', () => {
		let after = put(before, 0, writeName(profile, record, before[0].bytes, 'Other Name'));
		after = put(put(after, 1, before[2].bytes), 2, before[1].bytes);
		after = put(after, 10, before[20].bytes);
		after = put(after, 20, bank(77)[0].bytes);
		after = put(after, 30, before[31].bytes);
		expect(brief(before, after)).toEqual([
			'11 renamed',
			'12 swapped 13',
			'13 swapped 12',
			'23 moved 35',
			'35 new',
			'47 copied 48'
		]);
		expect(compareSlots(profile, before, after).gone.map(({ label }) => label)).toEqual(['23', '47']);
	});

	it('pairs a program that was edited and moved by its likeness', () => {
		let after = put(before, 5, writeParameter(parameter('volume'), before[50].bytes, 3));
		after = put(after, 50, bank(78)[3].bytes);
		const comparison = compareSlots(profile, before, after);
		const moved = comparison.slots.find(({ index }) => index === 5)!;
		expect(moved).toMatchObject({ state: 'moved', from: { label: '73' } });
		expect(moved.change!.parameters.map(({ id }) => id)).toEqual(['volume']);
		expect(comparison.gone.map(({ index }) => index)).toEqual([5]);
	});

	it('compares only slots that both versions hold', () => {
		const comparison = compareSlots(profile, before, before.slice(0, 10));
		expect(comparison).toMatchObject({ onlyBefore: 54, onlyAfter: 0, gone: [] });
		expect(comparison.slots).toHaveLength(10);
	});

	it('accounts for every slot of any shuffled bank exactly once', () => {
		fc.assert(
			fc.property(fc.shuffledSubarray(before, { minLength: 64, maxLength: 64 }), (shuffled) => {
				const after = shuffled.map((slot, index) => makeSlot(profile, 'programs', index, slot.bytes));
				const { slots, gone } = compareSlots(profile, before, after);
				expect(gone).toEqual([]);
				for (const slot of slots) {
					expect(['same', 'moved', 'swapped']).toContain(slot.state);
					expect(slot.nameAfter).toBe(before[slot.from?.index ?? slot.index].name);
				}
			}),
			{ numRuns: 30 }
		);
	});
});

it('likeness is 1 for equal records and low for strangers', () => {
	const [a, b] = [bank(1)[0].bytes, bank(2)[0].bytes];
	expect(similarity(profile, 'programs', a, a)).toBe(1);
	expect(similarity(profile, 'programs', a, b)).toBeLessThan(0.6);
	expect(recordChange(profile, 'programs', a, a)).toBeNull();
});

it('hashes as everybody does', () => {
	expect(contentHash(new Uint8Array())).toBe(
		'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'
	);
	expect(contentHash(new TextEncoder().encode('abc'))).toBe(
		'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'
	);
});

it('folds names for searching', () => {
	expect(foldName('  Première   NUIT ')).toBe('premiere nuit');
	expect(searchWords('Slow  Éclipse')).toEqual(['slow', 'eclipse']);
	expect(searchWords(' ')).toEqual([]);
});

it('shows only the lines of bytes that differ, and one around them', () => {
	const before = new Uint8Array(100);
	const after = before.slice();
	after[50] = 1;
	const lines = byteLines(before, after);
	expect(lines.map(({ offset }) => offset)).toEqual([32, 48, 64]);
	expect(lines[1].differs.indexOf(true)).toBe(2);
	expect(byteLines(before, before.slice(0, 90)).at(-1)!.after.slice(-6)).toEqual([
		null,
		null,
		null,
		null,
		null,
		null
	]);
});
