import { describe, expect, it } from 'vitest';
import { profileNamed, makeUp } from '../bench/bench.fixture';
import { faultsOfSpoilt } from './spoilt.fixture';
import {
	convertSlots,
	decidersFirst,
	formatValue,
	makeSlot,
	meaningOf,
	putParameter,
	readValue,
	writeName
} from '.';
import type { Profile, Slot } from '.';

const first = profileNamed('averill-sconce');
const second = profileNamed('averill-sconce-2');
const carded = profileNamed('averill-sconce-2-card');

const slotsOf = (profile: Profile, seed: number): Slot[] =>
	makeUp(profile.id, seed).state.memory.programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes));

/** A program with some values set by hand, and a name. */
function program(profile: Profile, name: string, values: Record<string, number>): Slot {
	const { program: record } = profile.records;
	let bytes: Uint8Array = new Uint8Array(record.size);
	for (const parameter of decidersFirst(record))
		putParameter(meaningOf(record, parameter, bytes), bytes, values[parameter.id] ?? 0);
	bytes = writeName(profile, record, bytes, name);
	return makeSlot(profile, 'programs', 3, bytes);
}

const shown = (profile: Profile, { bytes }: Slot): Record<string, string> =>
	Object.fromEntries(
		profile.records.program.parameters.map((parameter) => {
			const meaning = meaningOf(profile.records.program, parameter, bytes);
			return [parameter.id, formatValue(meaning, readValue(meaning, bytes))];
		})
	);

const nameOf = (profile: Profile, { bytes }: Slot, id: string): string => {
	const { program: record } = profile.records;
	return meaningOf(
		record,
		record.parameters.find((each) => each.id === id)!,
		bytes
	).name;
};

describe('a sound of one variant in another', () => {
	it('keeps what is shown, wherever the values and their order differ', () => {
		const was = program(first, 'Low Sun', {
			wave: 3,
			cutoff: 127,
			resonance: 90,
			effect: 1,
			amount: 77,
			attack: 0,
			glide: 12,
			volume: 101
		});
		const { slots, lost } = convertSlots(first, [was], second);
		expect(slots).toHaveLength(1);
		expect(slots[0]).toMatchObject({ area: 'programs', index: 3, name: 'Low Sun' });
		expect(shown(second, slots[0])).toMatchObject({
			wave: 'Noise',
			cutoff: '20000\u00a0Hz',
			resonance: '90',
			effect: 'Chorus',
			amount: '77\u00a0%',
			attack: '1\u00a0ms',
			glide: '12',
			level: '101',
			drive: '0',
			pan: '0'
		});
		expect(lost).toEqual([]);
	});

	it('says what has no place, what becomes something else, and what is only near', () => {
		const was = program(first, 'Choir', { wave: 4, ring: 40, cutoff: 60, effect: 2, amount: 50, volume: 1 });
		const { slots, lost } = convertSlots(first, [was], second);
		expect(lost.map(({ kind, what, says }) => `${kind}: ${what}, ${says}`)).toEqual([
			'changed: Wave, Vox becomes Saw',
			'rounded: Cutoff, 523\u00a0Hz becomes 522\u00a0Hz',
			'gone: Ring, 40 has no place'
		]);
		expect(shown(second, slots[0])).toMatchObject({ amount: '260\u00a0ms', cutoff: '522\u00a0Hz' });
	});

	it('cuts a name, clamps what reaches further, and says both', () => {
		const was = program(second, 'Northern Sea', { attack: 255, rate: 255, level: 1, pan: 64, cutoff: 500 });
		const { slots, lost } = convertSlots(second, [was], first);
		expect(slots[0].name).toBe('Northern');
		expect(lost.map(({ kind, what, says }) => `${kind}: ${what}, ${says}`)).toEqual([
			'rounded: Cutoff, 585\u00a0Hz becomes 583\u00a0Hz',
			'changed: LFO rate, 40.00\u00a0Hz becomes 20.00\u00a0Hz',
			'changed: Attack, 10000\u00a0ms becomes 5000\u00a0ms',
			'changed: Name, “Northern Sea” becomes “Northern”'
		]);
	});

	it('leaves out slots that are not there, and says which', () => {
		const all = slotsOf(second, 3);
		const { slots, lost } = convertSlots(second, all, first);
		expect(slots.map(({ index }) => index)).toEqual(Array.from({ length: 32 }, (_, i) => i));
		expect(lost.filter(({ says }) => says === 'there is no such slot').map(({ index }) => index)).toEqual(
			Array.from({ length: 32 }, (_, i) => 32 + i)
		);
		const card = makeUp(carded.id, 4).state.memory.card.map((bytes, i) => makeSlot(carded, 'card', i, bytes));
		expect(convertSlots(carded, card, second)).toMatchObject({
			slots: [],
			lost: card.map(({ label }) => ({ kind: 'gone', label, what: 'Card' }))
		});
	});

	it('says nothing of bytes that hold nothing, and names those that no profile describes', () => {
		const was = program(first, 'Dark', { volume: 1 });
		was.bytes[18] = 9;
		expect(convertSlots(first, [was], second).lost).toMatchObject([
			{ kind: 'gone', what: 'Bytes', says: '1 byte that no profile describes' }
		]);
	});

	it.each([
		['to the second', first, second],
		['to the first', second, first],
		['to one with a card', second, carded]
	])('%s: what is not said to be lost shows the same, there and back again', (_, from, to) => {
		const PAIRS = [
			...['wave', 'cutoff', 'resonance', 'rate', 'effect', 'amount', 'attack', 'glide'].map((id) => [id, id]),
			[from === first ? 'volume' : 'level', to === first ? 'volume' : 'level']
		];
		let kept = 0;
		for (let seed = 0; seed < 40; seed++) {
			const slots = slotsOf(from, seed).slice(0, 32);
			const { slots: made, lost } = convertSlots(from, slots, to);
			const { slots: back, lost: lostBack } = convertSlots(to, made, from);
			for (const [i, slot] of slots.entries()) {
				const about = new Set(
					[...lost, ...lostBack].filter(({ index }) => index === slot.index).map(({ what }) => what)
				);
				const [was, there, again] = [shown(from, slot), shown(to, made[i]), shown(from, back[i])];
				for (const [own, other] of PAIRS) {
					const names = [nameOf(from, slot, own), nameOf(to, made[i], other)];
					if (names.some((name) => about.has(name))) continue;
					kept++;
					expect(again[own], `${slot.label} ${own}`).toBe(was[own]);
					if (/^[^0-9]|^[0-9]+$/.test(was[own])) expect(there[other], `${slot.label} ${own}`).toBe(was[own]);
				}
				if (!about.has('Name')) expect(made[i].name).toBe(slot.name);
			}
		}
		expect(kept).toBeGreaterThan(4000);
	});

	it('is nothing else than itself in its own variant', () => {
		const slots = slotsOf(second, 8);
		const { slots: made, lost } = convertSlots(second, slots, second);
		expect(lost).toEqual([]);
		expect(made).toEqual(slots);
	});
});

describe('faults of a variant', () => {
	const faults = (change: (profile: Profile) => void): string => faultsOfSpoilt(second, change).join(' ');
	const variantOf = (json: object) => (json as unknown as { variant: Record<string, unknown> }).variant;

	it.each<[string, (variant: Record<string, unknown>) => void, string]>([
		['before its first version', (v) => (v.before = '01 00 00 00'), 'is before'],
		[
			'a question that is not there',
			(v) => (v.tells = { ask: 'nobody', says: 'no-card' }),
			'no message “nobody”'
		],
		[
			'an answer that carries memory',
			(v) => (v.tells = { ask: 'has-card', says: 'program' }),
			'carries memory'
		],
		['a parameter that is not there', (v) => (v.fresh = { nothing: 3 }), 'no parameter “nothing”'],
		['a value out of range', (v) => (v.fresh = { pan: 500 }), 'it takes 0 to 127'],
		['itself', (v) => (v.takes = [{ from: 'averill-sconce-2' }]), 'this is the profile itself'],
		[
			'an area that is not there',
			(v) => (v.takes = [{ from: 'averill-sconce', areas: { x: 'y' } }]),
			'no area “x”'
		]
	])('names %s', (_, change, says) => {
		expect(faults(() => undefined)).toBe('');
		expect(faults((json) => change(variantOf(json)))).toContain(says);
	});
});
