import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SimulatedDevice } from '../bench';
import { profileNamed, workbench } from '../bench/bench.fixture';
import { sameBytes } from '../midi';
import { buildMessage, decodeDump, encodeDump, makeSlot, messagesFor, parseProfile } from '../profile';

const WEIR = 'osier-weir-9';
const weir = profileNamed(WEIR);
const to = { deviceId: 0, channel: 1 };
const donor = workbench(WEIR, 77).unit.state.memory.setups;
const wanted = (...indices: number[]) =>
	indices.map((index) => makeSlot(weir, 'setups', index, donor[index]));
const slots = (...indices: number[]) => ({
	kind: 'slots' as const,
	slots: indices.map((index) => ({ area: 'setups', index }))
});
/** A hand at the panel, of a desk that does not tell that it was moved. */
const moveQuietly = (unit: SimulatedDevice, index: number) =>
	SimulatedDevice.prototype.select.call(unit, index);
/** A hand that is quicker than a message: it moves the panel, unseen, just before the first one with this command is taken. */
function moveBefore(bench: ReturnType<typeof workbench>, command: number, index: number) {
	const { unit } = bench;
	const receive = unit.receive.bind(unit);
	let moved = false;
	unit.receive = (bytes) => {
		if (bytes.includes(command) && !moved) {
			moved = true;
			moveQuietly(unit, index);
		}
		receive(bytes);
	};
}
const shown = (bench: ReturnType<typeof workbench>) => bench.unit.panel().program.index;

describe('dumps that name no slot', () => {
	it('are of the slot that the message before each of them names', () => {
		const bench = workbench(WEIR);
		const outcome = bench.capture({ scope: slots(3, 0, 15) });
		expect(outcome.status).toBe('complete');
		const dump = decodeDump(weir, outcome.messages);
		expect(dump.slots.map(({ label }) => label)).toEqual(['S01', 'S04', 'S16']);
		for (const { index, bytes } of dump.slots) expect(bytes).toEqual(bench.unit.state.memory.setups[index]);
		expect(encodeDump(weir, dump)).toEqual(outcome.messages);
	});

	it('are of no slot without one, also where another dump has used it up', () => {
		const say = (slot: number) => buildMessage(weir, 'shown', { ...to, slot });
		const dump = (of: number) => buildMessage(weir, 'setup', to, donor[of]);
		const held = (...messages: Uint8Array[]) =>
			decodeDump(weir, messages).slots.map(({ index, bytes }) => [
				index,
				donor.findIndex((each) => sameBytes(each, bytes))
			]);
		expect(held(dump(5))).toEqual([]);
		expect(held(say(3), dump(5), dump(6))).toEqual([[3, 5]]);
		expect(held(say(2), say(3), dump(5))).toEqual([[3, 5]]);
		// The desk has sixteen: a place beyond them is none, and the one before it does not count any more.
		expect(held(say(2), say(16), dump(5))).toEqual([]);
	});

	it('are built so that each calls up its slot first, and read back as the same', () => {
		const messages = messagesFor(weir, wanted(0, 7), to);
		expect(messages.map((bytes) => bytes[4])).toEqual([0x22, 0x11, 0x22, 0x11]);
		expect(decodeDump(weir, messages).slots).toEqual(wanted(0, 7));
		const plain = workbench(WEIR, 3);
		for (const bytes of messages) {
			plain.unit.receive(bytes);
			plain.clock.runUntil(plain.clock.now() + 500);
		}
		for (const index of [0, 7]) expect(plain.unit.state.memory.setups[index]).toEqual(donor[index]);
	});

	it.each([
		['a question that is not there', { ask: 'nothing' }, /there is no message “nothing”/],
		['an answer that names no slot', { says: 'where' }, /“where” names no slot/],
		['a question that answers itself', { ask: 'call-up' }, /names a slot; it asks which/],
		['an answer that is a dump', { says: 'setup' }, /carries a body/],
		['a call that is a dump', { select: 'setup' }, /carries a body/]
	])('need a profile without %s', (_, part, says) => {
		const json = structuredClone(weir);
		Object.assign(json.areas[0].panel!, part);
		expect(() => parseProfile(json)).toThrow(says);
	});
});

describe('a panel that has to stand where a dump belongs', () => {
	it('is called up from outside, and put back to where it stood', () => {
		const bench = workbench(WEIR);
		bench.unit.select(9);
		expect(bench.capture().status).toBe('complete');
		expect(shown(bench)).toBe(9);
		expect(bench.restore({ wanted: wanted(2, 3) }).status).toBe('verified');
		expect(shown(bench)).toBe(9);
		expect(bench.events.filter(({ event }) => event === 'hands')).toEqual([]);
	});

	it('is called up by hand where it takes no call; the musician is told which slot, and nothing else is pressed', () => {
		const bench = workbench(WEIR);
		bench.unit.state.settings.called = 0;
		const asked: string[] = [];
		bench.onHands(() => {
			const { says } = bench.events.findLast((event) => event.event === 'hands') as { says: string };
			asked.push(says);
			bench.clock.after(4000, () => bench.unit.select(Number(/S(\d+)/.exec(says)![1]) - 1));
		});
		const outcome = bench.restore({ wanted: wanted(4) });
		expect(outcome.status).toBe('verified');
		expect(asked).toEqual(['Call up setup S05 on the Weir 9.']);
		expect(bench.unit.state.memory.setups[4]).toEqual(donor[4]);
	});

	it('is asked again and again where it does not tell by itself', () => {
		const bench = workbench(WEIR);
		bench.unit.state.settings.called = 0;
		bench.onHands(() => bench.clock.after(2500, () => moveQuietly(bench.unit, 6)));
		expect(bench.capture({ scope: slots(6) }).status).toBe('complete');
	});

	it('writes nothing where nobody calls it up, and says what to do', () => {
		const bench = workbench(WEIR);
		bench.unit.state.settings.called = 0;
		bench.onHands(null);
		const before = structuredClone(bench.unit.state.memory.setups);
		const outcome = bench.restore({ wanted: wanted(4) });
		expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'no safety copy' }, touched: [] });
		expect(outcome.reason!.says).toContain('was not set to setup S05');
		expect(bench.unit.state.memory.setups).toEqual(before);
		expect(bench.clock.now()).toBeLessThan(150_000);
	});

	it('keeps what it has where nobody goes on calling up, and asks only for the rest later', () => {
		const bench = workbench(WEIR);
		bench.unit.state.settings.called = 0;
		let calls = 0;
		bench.onHands(() => {
			if (calls++ < 2) bench.clock.after(1000, () => bench.unit.select(calls));
		});
		const broken = bench.capture({ scope: slots(0, 1, 2, 3) });
		expect(broken).toMatchObject({ status: 'incomplete', reason: { code: 'not called up' } });
		expect(broken.missing.map(({ label }) => label)).toEqual(['S04']);
		bench.unit.state.settings.called = 1;
		const whole = bench.capture({ scope: slots(0, 1, 2, 3), have: broken.messages });
		expect(whole.status).toBe('complete');
		expect(whole.messages.slice(0, 6)).toEqual(broken.messages);
		expect(whole.messages).toHaveLength(8);
	});

	it('does not stand where it stood once a hand was quicker than the request: it is asked again', () => {
		const bench = workbench(WEIR);
		moveBefore(bench, 0x10, 11);
		const outcome = bench.capture({ scope: slots(2) });
		expect(bench.events).toContainEqual({ event: 'retry', says: 'its panel was moved meanwhile' });
		const [slot] = decodeDump(weir, outcome.messages).slots;
		expect([slot.index, slot.bytes]).toEqual([2, bench.unit.state.memory.setups[2]]);
	});

	it('says of a dump that was sent while it was moved that it may have gone to either, and reads both', () => {
		const bench = workbench(WEIR);
		const before = structuredClone(bench.unit.state.memory.setups);
		moveBefore(bench, 0x11, 12);
		const outcome = bench.restore({ wanted: wanted(4) });
		expect(outcome).toMatchObject({ status: 'incomplete', reason: { code: 'panel moved' } });
		expect(outcome.touched.map(({ index }) => index)).toEqual([4, 12]);
		expect(bench.unit.state.memory.setups[4]).toEqual(before[4]);
		expect(bench.unit.state.memory.setups[12]).toEqual(donor[4]);
		const read = decodeDump(weir, outcome.readBack).slots;
		expect(read.map(({ index }) => index)).toEqual([4, 12]);
		for (const { index, bytes } of read) expect(bytes).toEqual(bench.unit.state.memory.setups[index]);
		expect(outcome.slots).toMatchObject([
			{ label: 'S05', result: 'differs' },
			{ label: 'S13', result: 'unknown' }
		]);
	});

	it('never makes a claim that is not so, whenever and wherever a hand moves it', () => {
		const moves = fc.array(fc.tuple(fc.integer({ min: 1, max: 4000 }), fc.nat({ max: 15 }), fc.boolean()), {
			maxLength: 6
		});
		fc.assert(
			fc.property(moves, fc.boolean(), fc.boolean(), (hands, writes, called) => {
				const bench = workbench(WEIR, 5);
				bench.unit.state.settings.called = called ? 1 : 0;
				bench.onHands(() => bench.clock.after(800, () => bench.unit.select(3)));
				let at = 0;
				for (const [i, [afterMs, index, quietly]] of hands.entries()) {
					// Unseen, a hand cannot go there and back within one dump.
					at += i > 0 && (quietly || hands[i - 1][2]) ? afterMs + 6000 : afterMs;
					bench.clock.after(at, () => (quietly ? moveQuietly(bench.unit, index) : bench.unit.select(index)));
				}
				const before = structuredClone(bench.unit.state.memory.setups);
				const now = bench.unit.state.memory.setups;
				if (!writes) {
					const outcome = bench.capture({ scope: slots(2, 3) });
					for (const { index, bytes } of decodeDump(weir, outcome.messages).slots)
						expect(bytes).toEqual(now[index]);
					return;
				}
				const outcome = bench.restore({ wanted: wanted(2, 3) });
				const told = new Set(outcome.touched.map(({ index }) => index));
				now.forEach((bytes, index) => {
					if (!sameBytes(bytes, before[index])) expect(told.has(index), `S${index + 1} changed`).toBe(true);
				});
				for (const { index, result } of outcome.slots) {
					if (result === 'verified' || result === 'already there') expect(now[index]).toEqual(donor[index]);
					if (result === 'not sent') expect(now[index]).toEqual(before[index]);
				}
				for (const { index, bytes } of decodeDump(weir, outcome.readBack).slots)
					expect(bytes).toEqual(now[index]);
			}),
			{
				numRuns: 150,
				// An answer to an earlier question was once taken for one to the last.
				examples: [
					[
						[
							[2437, 0, false],
							[257, 0, false]
						],
						true,
						true
					],
					// Moved on twice, the dump went to the first of these.
					[
						[
							[3706, 0, false],
							[413, 1, false]
						],
						true,
						true
					]
				]
			}
		);
	}, 60_000);
});
