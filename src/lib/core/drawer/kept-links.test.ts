import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { Cairn } from '../bench/models/cairn';
import { toHex } from '../midi';
import { decodeDump, linksIn, makeSlot, pointTo, slotKey, type Slot } from '../profile';
import { keepLinks, usersOf } from './kept-links';

const CAIRN = 'harbeck-cairn';

function cairn(seed: number) {
	const bench = workbench(CAIRN, seed);
	const unit = bench.unit as Cairn;
	const known = ['tones', 'performances'].flatMap((area) =>
		unit.state.memory[area].map((bytes, index) => makeSlot(bench.profile, area, index, bytes.slice()))
	);
	/** What each performance plays, by the device's own reckoning. */
	const played = () =>
		unit.state.memory.performances.map((_, i) => unit.played(i).map((bytes) => toHex(bytes)));
	const tones = (order: readonly (readonly [from: number, to: number])[]): Slot[] =>
		order.map(([from, to]) => makeSlot(bench.profile, 'tones', to, unit.state.memory.tones[from].slice()));
	return { bench, unit, known, played, tones };
}

describe('a performance', () => {
	it('names the tones that the device plays for it', () => {
		const { bench, unit } = cairn(3);
		unit.state.memory.performances.forEach((bytes, i) => {
			const named = linksIn(bench.profile, 'performances', bytes);
			expect(named).toHaveLength(8);
			expect(named.map(({ slot }) => toHex(unit.state.memory.tones[slot!]))).toEqual(
				unit.played(i).map((tone) => toHex(tone))
			);
		});
	});

	it('is pointed to another one, and nothing else of it changes', () => {
		const { bench, unit } = cairn(4);
		fc.assert(
			fc.property(fc.nat(31), fc.nat(7), fc.nat(63), (at, part, slot) => {
				const bytes = unit.state.memory.performances[at];
				const after = pointTo(bench.profile, 'performances', bytes, `part${part + 1}-tone`, slot);
				const links = [bytes, after].map((each) => linksIn(bench.profile, 'performances', each));
				expect(links[1][part].slot).toBe(slot);
				expect(links[1].filter((_, i) => i !== part)).toEqual(links[0].filter((_, i) => i !== part));
				const changed = [...bytes.keys()].filter((i) => bytes[i] !== after[i]);
				expect(changed.every((i) => i === 32 + 16 * part || i === 33 + 16 * part)).toBe(true);
			})
		);
	});

	it('is found from each tone that it plays', () => {
		const { bench, known, unit } = cairn(5);
		const users = usersOf(bench.profile, known, 'tones', 9).map(({ slot, name }) => `${slot.index} ${name}`);
		const expected = unit.state.memory.performances.flatMap((bytes, i) =>
			linksIn(bench.profile, 'performances', bytes).flatMap(({ slot, name }) =>
				slot === 9 ? [`${i} ${name}`] : []
			)
		);
		expect(users).toEqual(expected);
	});
});

describe('moving tones', () => {
	it('keeps every performance playing what it played, proved on the device, in one restore', () => {
		fc.assert(
			fc.property(
				fc.nat(1000),
				fc.uniqueArray(fc.nat(63), { minLength: 2, maxLength: 12 }),
				(seed, moved) => {
					const { bench, known, played, tones } = cairn(seed);
					const before = played();
					const turned = moved.map((from, i) => [from, moved[(i + 1) % moved.length]] as const);
					const { wanted, lost } = keepLinks(bench.profile, known, tones(turned));
					expect(lost).toEqual([]);
					expect(bench.restore({ wanted }).status).toBe('verified');
					expect(played()).toEqual(before);
				}
			),
			{ numRuns: 12 }
		);
	});

	it('brings a performance of an older version back with what it played then, wherever that is now', () => {
		fc.assert(
			fc.property(fc.nat(1000), fc.nat(31), (seed, at) => {
				const { bench, unit, known: old, played } = cairn(seed);
				const then = played()[at];
				// Since then the tones went round, and the performance was made anew.
				const { tones, performances } = unit.state.memory;
				tones.unshift(tones.pop()!);
				performances[at] = performances[(at + 1) % 32].slice();
				const known = ['tones', 'performances'].flatMap((area) =>
					unit.state.memory[area].map((bytes, index) => makeSlot(bench.profile, area, index, bytes.slice()))
				);
				const others = played().filter((_, i) => i !== at);
				const wanted = old.filter(({ area, index }) => area === 'performances' && index === at);
				const kept = keepLinks(bench.profile, known, wanted, {
					meant: new Map(wanted.map(({ area, index }) => [slotKey(area, index), old]))
				});
				expect(kept.lost).toEqual([]);
				expect(bench.restore({ wanted: kept.wanted }).status).toBe('verified');
				expect(played()[at]).toEqual(then);
				expect(played().filter((_, i) => i !== at)).toEqual(others);
			}),
			{ numRuns: 8 }
		);
	});

	it('says which would play something else, where their sound is overwritten', () => {
		const { bench, unit, known, tones } = cairn(7);
		const over = linksIn(bench.profile, 'performances', unit.state.memory.performances[0])[0].slot!;
		const { wanted, pointed, lost } = keepLinks(bench.profile, known, tones([[over === 2 ? 3 : 2, over]]));
		expect(lost.map(({ index, id }) => `${index} ${id}`).sort()).toEqual(
			unit.state.memory.performances
				.flatMap((bytes, i) =>
					linksIn(bench.profile, 'performances', bytes).flatMap(({ slot, id }) =>
						slot === over ? [`${i} ${id}`] : []
					)
				)
				.sort()
		);
		expect(lost.every(({ why }) => why === 'nowhere')).toBe(true);
		expect(pointed).toEqual([]);
		expect(wanted).toHaveLength(1);
	});

	it('writes only the packets in which a number changes', () => {
		const { bench, known, tones } = cairn(8);
		const { wanted } = keepLinks(
			bench.profile,
			known,
			tones([
				[0, 63],
				[63, 0]
			])
		);
		expect(bench.restore({ wanted }).status).toBe('verified');
		const performances = wanted.filter(({ area }) => area === 'performances').length;
		const written = bench.events.flatMap((event) => (event.event === 'written' ? [event.bytes] : []));
		// A part block is one packet of 128 bytes and its frame.
		expect(written.filter((bytes) => bytes === 138)).toHaveLength(performances);
		const again = bench.capture({ scope: { kind: 'area', area: 'performances' } });
		expect(decodeDump(bench.profile, again.messages).slots).toHaveLength(32);
	});
});

describe('a performance out of an older version whose tones the device does not hold any more', () => {
	/** The device after somebody made its first eight performances’ tones anew. */
	function since(seed: number) {
		const made = cairn(seed);
		const { bench, unit, known: old } = made;
		const { tones } = unit.state.memory;
		const at = 3;
		const then = made.played()[at];
		const gone = [
			...new Set(
				linksIn(bench.profile, 'performances', unit.state.memory.performances[at]).map(({ slot }) => slot!)
			)
		];
		for (const slot of gone)
			tones[slot] = Uint8Array.from(tones[slot], (byte, i) => (i === 70 ? (byte + 1) % 128 : byte));
		const known = ['tones', 'performances'].flatMap((area) =>
			unit.state.memory[area].map((bytes, index) => makeSlot(bench.profile, area, index, bytes.slice()))
		);
		const wanted = old.filter(({ area, index }) => area === 'performances' && index === at);
		const meant = new Map([[slotKey('performances', at), old]]);
		return { ...made, known, wanted, meant, at, then, gone };
	}

	it('brings them along, into places whose tone stays in another one, and every other performance plays on', () => {
		for (let seed = 20; seed < 28; seed++) {
			const { bench, unit, known, wanted, meant, at, then, played } = since(seed);
			const before = played();
			const contents = new Set(unit.state.memory.tones.map((tone) => toHex(tone)));
			const kept = keepLinks(bench.profile, known, wanted, { meant, bring: true });
			expect(kept.lost).toEqual([]);
			expect(kept.brought.length).toBeGreaterThan(0);
			expect(bench.restore({ wanted: kept.wanted }).status).toBe('verified');
			expect(played()[at]).toEqual(then);
			expect(played().filter((_, i) => i !== at)).toEqual(before.filter((_, i) => i !== at));
			// Nothing that was there is gone.
			const after = new Set(unit.state.memory.tones.map((tone) => toHex(tone)));
			expect([...contents].filter((tone) => !after.has(tone))).toEqual([]);
		}
	});

	it('says so where nobody wishes that, and writes none of them', () => {
		const { bench, known, wanted, meant, gone } = since(20);
		const { lost, brought, wanted: written } = keepLinks(bench.profile, known, wanted, { meant });
		expect(brought).toEqual([]);
		expect(new Set(lost.map(({ slot }) => slot))).toEqual(new Set(gone));
		expect(written.filter(({ area }) => area === 'tones')).toEqual([]);
	});

	it('leaves out those for which there is no place, and says which they are', () => {
		const { bench, known, wanted, meant, gone } = since(21);
		// No tone is there twice.
		const full = known.map((slot) =>
			slot.area !== 'tones' || slot.name !== 'Initial'
				? slot
				: makeSlot(
						bench.profile,
						'tones',
						slot.index,
						Uint8Array.from(slot.bytes, (byte, i) => (i === 80 ? slot.index : byte))
					)
		);
		const { lost, brought } = keepLinks(bench.profile, full, wanted, { meant, bring: true });
		expect(brought).toEqual([]);
		expect(new Set(lost.map(({ slot }) => slot))).toEqual(new Set(gone));
	});
});

it('asks for no more than it takes: each performance that names a moved tone is written once, and no other', () => {
	fc.assert(
		fc.property(fc.nat(1000), fc.uniqueArray(fc.nat(53), { minLength: 2, maxLength: 20 }), (seed, moved) => {
			const { bench, known, tones, unit } = cairn(seed);
			const turned = moved.map((from, i) => [from, moved[(i + 1) % moved.length]] as const);
			const { wanted } = keepLinks(bench.profile, known, tones(turned));
			const written = wanted.filter(({ area }) => area === 'performances').map(({ index }) => index);
			// By the device's own memory: bank and number, two bytes a part.
			const concerned = unit.state.memory.performances.flatMap((bytes, i) =>
				Array.from({ length: 8 }, (_, part) => bytes[32 + 16 * part] * 16 + bytes[33 + 16 * part]).some(
					(tone) => moved.includes(tone)
				)
					? [i]
					: []
			);
			expect(written).toEqual(concerned);
		})
	);
});
