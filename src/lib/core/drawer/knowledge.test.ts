import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { slotKey } from '../profile';
import {
	PROOFS,
	covers,
	lastSeen,
	learn,
	nothingKnown,
	packKnowledge,
	readingLine,
	slotsOfSpans,
	spared,
	spansOf,
	standingOf,
	stateOf,
	tornBy,
	touched,
	unpackKnowledge,
	wrote,
	type Knowledge,
	type Proof,
	type SlotRef
} from '.';

const SLOTS = 6;
const all: SlotRef[] = Array.from({ length: SLOTS }, (_, index) => ({ area: 'a', index }));
const time = (minute: number) => new Date(Date.UTC(2026, 0, 1, 0, minute)).toISOString();

/** What a device really held, slot by slot, at every time: the other side of every claim. */
class Truth {
	readonly history: { at: string; content: string }[][] = all.map((_, i) => [
		{ at: time(-1), content: `old ${i}` }
	]);
	put(slot: number, content: string, at: string): void {
		this.history[slot].push({ at, content });
	}
	at(slot: number, when: string): string {
		return this.history[slot].findLast(({ at }) => at <= when)!.content;
	}
}

/** One thing that happens in a device's life. */
const act = fc.oneof(
	fc.record({
		do: fc.constant('read' as const),
		slots: fc.subarray([0, 1, 2, 3, 4, 5], { minLength: 1 }),
		proof: fc.constantFrom<Proof>(...PROOFS),
		/** Broke off, and is kept only this many minutes later. */
		keptLater: fc.nat(40),
		/** Minutes between two messages. */
		pause: fc.nat(3)
	}),
	fc.record({ do: fc.constant('edit' as const), slot: fc.nat(SLOTS - 1), noted: fc.boolean() }),
	fc.record({
		do: fc.constant('restore' as const),
		slots: fc.subarray([0, 1, 2, 3, 4, 5], { minLength: 1 }),
		/** How many of them were really written before it broke off. */
		written: fc.nat(SLOTS),
		end: fc.constantFrom('verified' as const, 'sent' as const, 'broke off' as const, 'refused' as const)
	}),
	fc.record({ do: fc.constant('wipe' as const) })
);

function live(acts: readonly (typeof act extends fc.Arbitrary<infer A> ? A : never)[]) {
	const truth = new Truth();
	let knowledge: Knowledge = nothingKnown;
	/** Writes by the app and edits that were noted, by slot: nothing read before them may be claimed. */
	const disturbed: string[] = all.map(() => '');
	const later: { due: number; take: () => void }[] = [];
	let minute = 1;
	acts.forEach((what, id) => {
		for (const { take } of later.filter(({ due }) => due <= minute)) take();
		later.splice(0, later.length, ...later.filter(({ due }) => due > minute));
		if (what.do === 'read') {
			const slots = what.slots.map((index) => {
				const at = time((minute += what.pause));
				return { area: 'a', index, record: truth.at(index, at), at };
			});
			const take = () => (knowledge = learn(knowledge, { versionId: String(id), proof: what.proof, slots }));
			if (what.keptLater > 0) later.push({ due: minute + what.keptLater, take });
			else take();
		} else if (what.do === 'edit') {
			truth.put(what.slot, `edit ${id}`, time(minute));
			if (what.noted) {
				knowledge = touched(knowledge, time(minute));
				disturbed.fill(time(minute));
			}
		} else if (what.do === 'wipe') for (let i = 0; i < SLOTS; i++) truth.put(i, 'empty', time(minute));
		else {
			const at = time(minute);
			const refs = what.slots.map((index) => ({ area: 'a', index }));
			const by = `restore ${id}`;
			knowledge = wrote(knowledge, { kind: 'unknown', at, by, slots: refs });
			if (what.end === 'refused') knowledge = spared(knowledge, by, refs);
			else {
				const written = what.end === 'broke off' ? what.slots.slice(0, what.written) : what.slots;
				for (const slot of written) truth.put(slot, `sent ${id} ${slot}`, at);
				for (const slot of what.slots) disturbed[slot] = at;
				if (what.end === 'sent') knowledge = wrote(knowledge, { kind: 'sent', at, by, slots: refs });
				if (what.end === 'verified')
					knowledge = learn(knowledge, {
						versionId: by,
						proof: 'read back',
						slots: what.slots.map((index) => {
							const when = time((minute += 1));
							return { area: 'a', index, record: truth.at(index, when), at: when };
						})
					});
			}
		}
		minute++;
	});
	return { truth, knowledge, disturbed, now: time(minute) };
}

describe('what is known of a device', () => {
	it('was true when it was seen, whatever happened in between, and nothing that was disturbed since is claimed', () => {
		fc.assert(
			fc.property(fc.array(act, { maxLength: 40 }), (acts) => {
				const { truth, knowledge, disturbed } = live(acts);
				for (const ref of all) {
					const slot = knowledge.slots.get(slotKey(ref.area, ref.index));
					for (const sight of [slot?.seen, slot?.proved])
						if (sight) expect(sight.record).toBe(truth.at(ref.index, sight.at));
					expect(slot?.proved?.proof).not.toBe('none');
					const state = stateOf(knowledge, ref);
					if (state === 'proved' || state === 'unproved')
						expect(slot!.seen!.at >= disturbed[ref.index]).toBe(true);
					if (lastSeen(knowledge, ref)) expect(['sent', 'unknown', 'never']).not.toContain(state);
				}
			}),
			{ numRuns: 400 }
		);
	});

	it('does not depend on the order in which readings and writings are told', () => {
		const told = fc.array(
			fc.record({
				slots: fc.subarray([0, 1, 2], { minLength: 1 }),
				write: fc.boolean(),
				proof: fc.constantFrom<Proof>(...PROOFS)
			}),
			{ minLength: 1, maxLength: 8 }
		);
		fc.assert(
			fc.property(told, fc.infiniteStream(fc.nat()), (events, random) => {
				const steps = events.map(
					({ slots, write, proof }, i) =>
						(knowledge: Knowledge): Knowledge =>
							write
								? wrote(knowledge, {
										kind: 'sent',
										at: time(i),
										by: `t${i}`,
										slots: slots.map((index) => ({ area: 'a', index }))
									})
								: learn(knowledge, {
										versionId: `v${i}`,
										proof,
										slots: slots.map((index) => ({ area: 'a', index, record: `r${i} ${index}`, at: time(i) }))
									})
				);
				const shuffled = [...steps];
				for (let i = shuffled.length - 1; i > 0; i--) {
					const j = random.next().value % (i + 1);
					[shuffled[i], shuffled[j]] = [shuffled[j], shuffled[i]];
				}
				const told = (list: typeof steps) => list.reduce((knowledge, step) => step(knowledge), nothingKnown);
				const plain = (knowledge: Knowledge) =>
					[...knowledge.slots].sort(([a], [b]) => a.localeCompare(b)).map(([key, slot]) => [key, slot]);
				expect(plain(told(shuffled))).toEqual(plain(told(steps)));
			})
		);
	});

	it('a part is a part: reading one slot neither verifies the others nor clears that somebody changed sounds', () => {
		const day = (n: number) => time(n * 1440);
		let knowledge = learn(nothingKnown, {
			versionId: 'whole',
			proof: 'checksum',
			slots: all.map((slot) => ({ ...slot, record: `r${slot.index}`, at: day(0) }))
		});
		knowledge = touched(knowledge, day(3));
		knowledge = learn(knowledge, {
			versionId: 'one',
			proof: 'read back',
			slots: [{ ...all[2], record: 'new', at: day(6) }]
		});
		const standing = standingOf(knowledge, all);
		expect(standing.states).toMatchObject({ proved: 1, changed: 5 });
		expect(standing.weakestAt).toBe(day(0));
		expect(readingLine(standing, Date.parse(day(6)))).toBe('5 of 6 slots verified 6 days ago, 1 today');
	});

	it('a slot that was never read, sent or half written keeps the device from standing verified', () => {
		const reading = {
			versionId: 'v',
			proof: 'checksum' as const,
			slots: all.map((slot) => ({ ...slot, record: 'r', at: time(1) }))
		};
		const whole = learn(nothingKnown, reading);
		expect(standingOf(whole, all).weakestAt).toBe(time(1));
		expect(standingOf(learn(nothingKnown, { ...reading, slots: reading.slots.slice(1) }), all)).toMatchObject(
			{
				weakestAt: null,
				states: { never: 1 }
			}
		);
		const torn = wrote(whole, { kind: 'unknown', at: time(2), by: 't', slots: all.slice(0, 2) });
		expect(standingOf(torn, all)).toMatchObject({
			weakestAt: null,
			states: { unknown: 2, proved: 4 },
			torn: [{ transferId: 't', slots: 2 }]
		});
		expect([...tornBy(spared(torn, 't', all))]).toEqual([]);
		expect(standingOf(learn(nothingKnown, { ...reading, proof: 'none' }), all).weakestAt).toBeNull();
	});
});

describe('knowledge as text', () => {
	it('is the same again, and whole captures take one entry', () => {
		fc.assert(
			fc.property(fc.array(act, { maxLength: 25 }), (acts) => {
				const { knowledge } = live(acts);
				const text = packKnowledge(knowledge);
				const again = unpackKnowledge(
					text,
					(area, index) => knowledge.slots.get(slotKey(area, index))!.seen!.record
				);
				const plain = ({ slots, touchedAt }: Knowledge) => ({
					touchedAt,
					slots: [...slots.values()]
						.filter(({ seen, unread }) => seen || unread.length > 0)
						.sort((a, b) => a.index - b.index)
				});
				expect(plain(again)).toEqual(plain(knowledge));
			})
		);
		const whole = learn(nothingKnown, {
			versionId: 'v',
			proof: 'checksum',
			slots: Array.from({ length: 128 }, (_, index) => ({
				area: 'a',
				index,
				record: String(index),
				at: time(0)
			}))
		});
		expect(packKnowledge(whole).length).toBeLessThan(150);
	});
});

describe('spans', () => {
	const slots = fc.uniqueArray(fc.tuple(fc.constantFrom('a', 'b'), fc.nat(20)), {
		selector: ([area, index]) => `${area}${index}`
	});
	const refs = (list: readonly (readonly [string, number])[]) =>
		list.map(([area, index]) => ({ area, index }));
	const keys = (list: readonly SlotRef[]) => list.map(({ area, index }) => slotKey(area, index)).sort();

	it('hold exactly the slots that they were made of', () => {
		fc.assert(
			fc.property(slots, (list) => {
				expect(keys(slotsOfSpans(spansOf(refs(list))))).toEqual(keys(refs(list)));
			})
		);
	});

	it('cover others exactly when every slot is in them', () => {
		fc.assert(
			fc.property(slots, slots, (one, other) => {
				const have = new Set(keys(refs(one)));
				expect(covers(spansOf(refs(one)), spansOf(refs(other)))).toBe(
					keys(refs(other)).every((key) => have.has(key))
				);
			})
		);
	});
});
