import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { profileNamed } from '../bench/bench.fixture';
import {
	bankDocumentSchema,
	bankRemarks,
	bankSlots,
	contentHash,
	emptyBank,
	fillRest,
	insertSound,
	moveSound,
	orderBySong,
	placeSound,
	putBack,
	renameSound,
	swapSounds,
	type BankDocument,
	type BankEntry
} from '.';

const profile = profileNamed('ternhill-umbra');
const sounds = factoryState(profile, seededRandom(3)).memory.programs;
const records = new Map(sounds.map((bytes) => [contentHash(bytes), bytes]));
const entry = (i: number, name = `Sound ${i}`, song = ''): BankEntry => ({
	record: contentHash(sounds[i]),
	name,
	from: 'Umbra hall, 012',
	song
});
const bank = (): BankDocument => emptyBank(profile, 'programs', 'Première');
const filled = (count: number) =>
	Array.from({ length: count }, (_, i) => i).reduce((now, i) => placeSound(now, i, entry(i)), bank());
const held = (of: BankDocument) => of.entries.flatMap((found) => (found ? [found.record] : [])).toSorted();

describe('building a bank', () => {
	it('no move ever loses or doubles a sound', () => {
		const step = fc.oneof(
			fc.record({ do: fc.constant('move' as const), a: fc.nat(49), b: fc.nat(49) }),
			fc.record({ do: fc.constant('swap' as const), a: fc.nat(49), b: fc.nat(49) }),
			fc.record({ do: fc.constant('order' as const), a: fc.nat(), b: fc.nat() })
		);
		fc.assert(
			fc.property(fc.array(step, { maxLength: 20 }), (steps) => {
				const before = filled(20);
				const after = steps.reduce(
					(now, { do: what, a, b }) =>
						what === 'move'
							? moveSound(now, a, b)
							: what === 'swap'
								? swapSounds(now, a, b)
								: orderBySong(now),
					before
				);
				expect(held(after)).toEqual(held(before));
				expect(after.entries).toHaveLength(50);
			})
		);
	});

	it('inserting moves the rest down to the next free slot, and refuses when there is none', () => {
		const now = insertSound(placeSound(filled(3), 5, entry(9)), 1, entry(8));
		expect(now.entries.slice(0, 6).map((found) => found?.name ?? null)).toEqual([
			'Sound 0',
			'Sound 8',
			'Sound 1',
			'Sound 2',
			null,
			'Sound 9'
		]);
		expect(() => insertSound(filled(50), 0, entry(1))).toThrow('no free slot');
	});

	it('what gave way is put back while its slot holds what took it, and refused afterwards', () => {
		const before = filled(5);
		const over = placeSound(before, 2, entry(9));
		const [was, now] = [entry(2), entry(9).record];
		expect(putBack(over, 2, was, now)).toEqual(before);
		expect(() => putBack(placeSound(over, 2, entry(7)), 2, was, now)).toThrow('not in that slot any more');
		expect(() => putBack(placeSound(over, 2, null), 2, was, now)).toThrow('not in that slot any more');
	});

	it('songs sort by their numbers, sounds without a song follow', () => {
		let now = placeSound(bank(), 7, entry(1, 'A', '10 Comet'));
		now = placeSound(now, 9, entry(2, 'B', '2 Dust'));
		now = placeSound(now, 3, entry(3, 'C'));
		expect(
			orderBySong(now)
				.entries.slice(0, 4)
				.map((found) => found?.name ?? null)
		).toEqual(['B', 'A', 'C', null]);
	});

	it('filling keeps what is there', () => {
		const now = fillRest(placeSound(bank(), 0, entry(1, 'Mine')), filled(3).entries);
		expect(now.entries.slice(0, 4).map((found) => found?.name ?? null)).toEqual([
			'Mine',
			'Sound 1',
			'Sound 2',
			null
		]);
	});

	it('names must be ones that the device can show', () => {
		const now = placeSound(bank(), 0, entry(1));
		expect(renameSound(profile, now, 0, 'Opening', sounds[1]).entries[0]!.name).toBe('Opening');
		expect(() => renameSound(profile, now, 0, 'A name that is far too long for it', sounds[1])).toThrow(
			'characters'
		);
		expect(() => renameSound(profile, now, 0, 'Ω', sounds[1])).toThrow('cannot show');
	});

	it('double use and name clashes are told of', () => {
		let now = placeSound(bank(), 0, entry(1, 'Bell'));
		now = placeSound(now, 4, entry(1, 'Bell'));
		now = placeSound(now, 6, entry(2, 'bell'));
		const remarks = bankRemarks(profile, now);
		expect(remarks.filter(({ kind }) => kind === 'used twice').map(({ index }) => index)).toEqual([0, 4]);
		expect(remarks.filter(({ kind }) => kind === 'name clash').map(({ index }) => index)).toEqual([0, 4, 6]);
	});

	it('gives the slots that a device shall hold, with the new names', () => {
		const now = renameSound(profile, placeSound(bank(), 3, entry(1)), 3, 'Renamed', sounds[1]);
		const [slot, ...rest] = bankSlots(profile, now, records);
		expect(rest).toEqual([]);
		expect(slot).toMatchObject({ area: 'programs', index: 3, name: 'Renamed' });
		expect(() => bankSlots(profile, now, new Map())).toThrow('no longer kept');
	});

	it('is a document that can be stored', () => {
		expect(bankDocumentSchema.parse(JSON.parse(JSON.stringify(filled(4))))).toEqual(filled(4));
	});
});
