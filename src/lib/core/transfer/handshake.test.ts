import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { toHex } from '../midi';
import { decodeDump, makeSlot, parseProfile, type Profile } from '../profile';

const TALLY = 'keld-tally';
const donor = workbench(TALLY, 90).unit.state.memory;
const patterns = (...indices: number[]) => ({
	kind: 'slots' as const,
	slots: indices.map((index) => ({ area: 'patterns', index }))
});
type Bench = ReturnType<typeof workbench>;
const wantedOf = (bench: Bench, area: string, ...indices: number[]) =>
	indices.map((index) => makeSlot(bench.profile, area, index, donor[area][index]));
/** Commands that went out, by their byte. */
const told = (bench: Bench) =>
	bench.trace
		.filter(({ way, bytes }) => way === 'sent' && bytes[2] === 0x6a)
		.map(({ bytes }) => toHex(bytes.subarray(4, 5)));

describe('a device that acknowledges packet by packet', () => {
	it('gives a pattern in packets, each confirmed, and says when that was all', () => {
		const bench = workbench(TALLY, 2);
		const outcome = bench.capture({ scope: patterns(0) });
		expect(outcome.status).toBe('complete');
		expect(decodeDump(bench.profile, outcome.messages).slots[0].bytes).toEqual(
			bench.unit.state.memory.patterns[0]
		);
		expect(told(bench)).toEqual(['01', '40', '40', '40', '40']);
		// Two of its patterns follow at once: none waits for a silence to end.
		expect(bench.clock.now()).toBeLessThan(500);
	});

	it('is given its time where it says that it needs longer', () => {
		const bench = workbench(TALLY, 3);
		expect(bench.capture({ scope: patterns(3) })).toMatchObject({ status: 'complete' });
		expect(bench.events.filter(({ event }) => event === 'retry')).toEqual([]);
		expect(told(bench).filter((command) => command === '01')).toHaveLength(1);
	});

	it('repeats the packet that it is told was damaged, and no other', () => {
		const bench = workbench(TALLY, 4);
		bench.station.faults = [{ kind: 'truncate', way: 'from device', times: 1, afterBytes: 60 }];
		expect(bench.capture({ scope: patterns(0, 1) }).status).toBe('complete');
		const flipped = workbench(TALLY, 5);
		flipped.station.faults = [{ kind: 'flip bits', way: 'from device', share: 0.002 }];
		const outcome = flipped.capture({ scope: patterns(0, 1, 2, 4, 5, 6) });
		for (const { index, bytes } of decodeDump(flipped.profile, outcome.messages).slots)
			expect(bytes).toEqual(flipped.unit.state.memory.patterns[index]);
		expect(told(flipped)).toContain('41');
	});

	it('is told when a capture is called off', () => {
		const bench = workbench(TALLY, 6);
		const outcome = bench.capture({}, (running) => bench.clock.after(700, () => running.cancel()));
		expect(outcome).toMatchObject({ status: 'incomplete', reason: { code: 'cancelled' } });
		expect(told(bench).at(-1)).toBe('06');
	});

	it('takes a pattern whole: what is there already goes along, and nothing is stored before all has come', () => {
		const bench = workbench(TALLY, 7);
		const mine = bench.unit.state.memory.patterns[2].slice();
		mine[30] ^= 1;
		const outcome = bench.restore({ wanted: [makeSlot(bench.profile, 'patterns', 2, mine)] });
		expect(outcome).toMatchObject({ status: 'verified', reason: null });
		expect(told(bench).filter((command) => command === '02')).toHaveLength(4);
		expect(bench.unit.state.memory.patterns[2]).toEqual(mine);
	});

	it('stores nothing of a dump that breaks off, and is told that no more comes', () => {
		const bench = workbench(TALLY, 8);
		const before = structuredClone(bench.unit.state.memory.patterns);
		bench.station.faults = [{ kind: 'flip bits', way: 'to device', share: 0.05 }];
		const outcome = bench.restore({ wanted: wantedOf(bench, 'patterns', 5) });
		expect(outcome.status).not.toBe('verified');
		expect(bench.unit.state.memory.patterns).toEqual(before);
		const cut = workbench(TALLY, 8);
		const called = cut.restore({ wanted: wantedOf(cut, 'patterns', 5, 6, 7, 8) }, (running) =>
			cut.clock.after(1700, () => running.cancel())
		);
		expect(called.reason?.code).toBe('cancelled');
	});

	it('says itself that it is locked, and nothing is written', () => {
		const bench = workbench(TALLY, 9);
		bench.unit.state.settings.protect = 1;
		const outcome = bench.restore({ wanted: wantedOf(bench, 'patterns', 1) });
		expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'protected' }, touched: [] });
	});
});

/** The same model, described as it is while a switch of it is on. */
const described = (bench: Bench, change: (json: Profile) => void): Profile => {
	const json = structuredClone(bench.profile);
	change(json);
	return parseProfile(json);
};

describe('other manners of the same', () => {
	it('what goes on sending is told to stop once all that was wanted has come', () => {
		const bench = workbench(TALLY, 11);
		bench.unit.state.settings.chain = 1;
		const profile = described(bench, ({ capture: [way] }) => {
			delete way.says!.end;
			way.stop = 'drop';
		});
		expect(bench.capture({ profile, scope: patterns(1, 2) }).status).toBe('complete');
		expect(told(bench).filter((command) => command === '06')).toHaveLength(2);
		expect(bench.events.filter(({ event }) => event === 'retry')).toEqual([]);
	});

	it('what asks for the next packet is given that one', () => {
		const bench = workbench(TALLY, 12);
		bench.unit.state.settings.asks = 1;
		const profile = described(bench, ({ messages, restore: [way] }) => {
			messages.ask = structuredClone(messages.ack);
			messages.ask.parts = messages.ask.parts.map((part) =>
				part.part === 'bytes' && part.bytes === '40' ? { ...part, bytes: '44' } : part
			);
			way.replies = { ...way.replies!, accepted: 'ask', names: 'next' };
		});
		const outcome = bench.restore({ profile, wanted: wantedOf(bench, 'patterns', 6) });
		expect(outcome).toMatchObject({ status: 'verified', reason: null });
		expect(told(bench).filter((command) => command === '02')).toHaveLength(4);
	});
});

describe('a table of contents before the records', () => {
	it('is asked for once, and brings all of them; one is written by itself', () => {
		const bench = workbench(TALLY, 10);
		const outcome = bench.capture({ scope: { kind: 'area', area: 'songs' } });
		expect(outcome.status).toBe('complete');
		expect(outcome.messages).toHaveLength(1);
		expect(told(bench)).toEqual(['11']);
		const restored = bench.restore({ wanted: wantedOf(bench, 'songs', 4, 9) });
		expect(restored).toMatchObject({ status: 'verified' });
		expect(restored.touched.map(({ index }) => index)).toEqual([4, 9]);
		expect(bench.unit.state.memory.songs[9]).toEqual(donor.songs[9]);
	});
});
