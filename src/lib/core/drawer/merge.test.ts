import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { profileNamed, shippedProfiles } from '../bench/bench.fixture';
import { sameBytes } from '../midi';
import {
	claimedBits,
	bitsOfTexts,
	textFields,
	makeSlot,
	readValue,
	writeName,
	writeParameter,
	type Slot
} from '../profile';
import { compareSlots, mergeSlots, mergedSlots, openConflicts, recordChange } from '.';

const profile = profileNamed('ternhill-umbra');
const record = profile.records[profile.areas[0].record];
const bank = (seed: number): Slot[] =>
	factoryState(profile, seededRandom(seed)).memory.programs.map((bytes, i) =>
		makeSlot(profile, 'programs', i, bytes)
	);
const put = (slots: Slot[], index: number, bytes: Uint8Array) =>
	slots.map((slot) => (slot.index === index ? makeSlot(profile, 'programs', index, bytes) : slot));
const parameters = record.parameters;
const other = (slot: Slot, p: number) => {
	const [low, high] = parameters[p].range;
	const now = readValue(parameters[p], slot.bytes);
	return writeParameter(parameters[p], slot.bytes, now === low ? high : low);
};

describe('a three-way merge', () => {
	it('takes what one side changed, and leaves a conflict where both did', () => {
		const base = bank(1);
		const elsewhere = bank(2);
		const device = put(put(base, 3, elsewhere[3].bytes), 9, elsewhere[9].bytes);
		const drawer = put(put(base, 5, elsewhere[5].bytes), 9, elsewhere[10].bytes);
		const merge = mergeSlots(profile, base, device, drawer);
		expect(merge.filter(({ state }) => state !== 'same').map(({ index, state }) => [index, state])).toEqual([
			[3, 'changed on the device'],
			[5, 'changed in the drawer'],
			[9, 'conflict']
		]);
		expect(openConflicts(merge).map(({ index }) => index)).toEqual([9]);
		expect(mergedSlots(merge)).toHaveLength(base.length - 1);
		merge[9].choice = 'drawer';
		const merged = mergedSlots(merge);
		expect(merged[3].bytes).toEqual(device[3].bytes);
		expect(merged[5].bytes).toEqual(drawer[5].bytes);
		expect(merged[9].bytes).toEqual(drawer[9].bytes);
	});

	it('merging with an unchanged side gives the other side, and order of sides does not matter', () => {
		const slots = fc.array(fc.tuple(fc.integer({ min: 0, max: 49 }), fc.integer({ min: 2, max: 6 })), {
			maxLength: 12
		});
		fc.assert(
			fc.property(slots, slots, (there, here) => {
				const base = bank(1);
				const change = (list: [number, number][]) =>
					list.reduce((now, [index, seed]) => put(now, index, bank(seed)[index].bytes), base);
				const [device, drawer] = [change(there), change(here)];
				const alone = mergeSlots(profile, base, device, base);
				expect(openConflicts(alone)).toEqual([]);
				mergedSlots(alone).forEach((slot, i) => expect(sameBytes(slot.bytes, device[i].bytes)).toBe(true));
				const one = mergeSlots(profile, base, device, drawer);
				const two = mergeSlots(profile, base, drawer, device);
				expect(openConflicts(one).map(({ index }) => index)).toEqual(
					openConflicts(two).map(({ index }) => index)
				);
				mergedSlots(one).forEach((slot) =>
					expect(
						sameBytes(slot.bytes, device[slot.index].bytes) || sameBytes(slot.bytes, drawer[slot.index].bytes)
					).toBe(true)
				);
			}),
			{ numRuns: 40 }
		);
	});

	it('offers both changes in one sound where they touch different things', () => {
		const base = bank(1);
		const device = put(base, 4, other(base[4], 0));
		const drawer = put(base, 4, writeName(profile, record, other(base[4], 1), 'Both'));
		const [conflict] = openConflicts(mergeSlots(profile, base, device, drawer));
		const { bytes, name } = conflict.combined!;
		expect(name).toBe('Both');
		expect(readValue(parameters[0], bytes)).toBe(readValue(parameters[0], device[4].bytes));
		expect(readValue(parameters[1], bytes)).toBe(readValue(parameters[1], drawer[4].bytes));
	});

	it('offers no such thing where both changed the same', () => {
		const base = bank(1);
		const [p] = parameters;
		const values = [p.range[0], p.range[1], Math.floor((p.range[0] + p.range[1]) / 2)].filter(
			(raw) => raw !== readValue(p, base[4].bytes)
		);
		const device = put(base, 4, writeParameter(p, base[4].bytes, values[0]));
		const drawer = put(base, 4, writeParameter(p, base[4].bytes, values[1]));
		expect(openConflicts(mergeSlots(profile, base, device, drawer))[0].combined).toBeNull();
	});

	it('a slot that one side does not hold counts as unchanged there', () => {
		const base = bank(1);
		const drawer = put(base, 7, bank(2)[7].bytes);
		const merge = mergeSlots(profile, base, base.slice(0, 5), drawer);
		expect(openConflicts(merge)).toEqual([]);
		expect(mergedSlots(merge)[7].bytes).toEqual(drawer[7].bytes);
	});

	it('bits that no parameter claims are content: merged, compared, and never called a new name alone', () => {
		// One byte of the record holds a parameter of a few bits; the others of it are nobody's.
		const claimed = claimedBits(record);
		const texts = bitsOfTexts(record.size, textFields(record));
		const at = claimed.findIndex((mask, i) => mask !== 0 && mask !== 0xff && texts[i] === 0);
		const free = [0, 1, 2, 3, 4, 5, 6, 7].find((bit) => !(claimed[at] & (1 << bit)))!;
		const flip = (slot: Slot) => {
			const bytes = slot.bytes.slice();
			bytes[at] ^= 1 << free;
			return bytes;
		};
		const base = bank(1);
		const named = writeName(profile, record, base[0].bytes, 'Other');
		const device = put(base, 0, named);
		const drawer = put(base, 0, flip(base[0]));
		const [merged] = mergeSlots(profile, base, device, drawer);
		expect(merged.combined!.bytes).toEqual(flip(device[0]));
		expect(recordChange(profile, 'programs', base[0].bytes, flip(base[0]))).toMatchObject({
			name: null,
			parameters: [],
			otherBytes: 1
		});
		const { slots } = compareSlots(profile, base, put(base, 0, flip(device[0])));
		expect(slots[0]).toMatchObject({ state: 'edited', change: { name: { to: 'Other' }, otherBytes: 1 } });
	});

	it('claims the bits that reading a parameter depends on, and no others', () => {
		for (const { records } of shippedProfiles)
			for (const described of Object.values(records)) {
				const bytes = new Uint8Array(described.size).fill(0x55);
				const before = described.parameters.map((parameter) => readValue(parameter, bytes));
				const claimed = claimedBits(described);
				// Of a long record every eleventh bit: each bit of a byte comes up as often as any other.
				for (let at = 0; at < bytes.length * 8; at += bytes.length > 500 ? 11 : 1) {
					const [i, bit] = [at >> 3, 1 << (at & 7)];
					bytes[i] ^= bit;
					const seen = described.parameters.some((parameter, p) => readValue(parameter, bytes) !== before[p]);
					bytes[i] ^= bit;
					expect(seen, `bit ${at}`).toBe((claimed[i] & bit) !== 0);
				}
			}
	});
});
