import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { sameBytes, toHex } from '../midi';
import { buildMessage, decodeDump, makeSlot, slotKey } from '../profile';

const SKIFF = 'merrow-skiff';
const slots = (...indices: number[]) => ({
	kind: 'slots' as const,
	slots: indices.map((index) => ({ area: 'programs', index }))
});
const donor = workbench(SKIFF, 90).unit.state.memory.programs;
const wantedOf = (bench: ReturnType<typeof workbench>, ...indices: number[]) =>
	indices.map((index) => makeSlot(bench.profile, 'programs', index, donor[index]));
const isPlayed = (bench: ReturnType<typeof workbench>) => bench.unit.panel().display.slice(0, 2);

describe('a device that gives and takes its edit buffer alone', () => {
	it('is captured slot by slot, each dump kept with the command that stores it there', () => {
		const bench = workbench(SKIFF, 2);
		const outcome = bench.capture();
		expect(outcome.status).toBe('complete');
		const { slots: held, partial } = decodeDump(bench.profile, outcome.messages);
		expect(held).toHaveLength(64);
		expect(partial).toEqual([]);
		for (const { index, bytes } of held) expect(bytes).toEqual(bench.unit.state.memory.programs[index]);
		expect(outcome.messages.slice(0, 2).map((bytes) => toHex(bytes.subarray(4, 6)))).toEqual([
			toHex(Uint8Array.of(2, bench.unit.state.memory.programs[0][0] & 15)),
			'0300'
		]);
	});

	it('plays afterwards what it played before: the program, or the sound that is stored nowhere', () => {
		const bench = workbench(SKIFF, 3);
		bench.unit.select(37);
		const before = isPlayed(bench);
		expect(bench.capture().status).toBe('complete');
		expect(isPlayed(bench)).toEqual(before);
		// Somebody works on a sound and has not stored it.
		bench.run(function* () {
			yield { do: 'send', bytes: buildMessage(bench.profile, 'edit', { deviceId: 0 }, donor[5]) };
			yield { do: 'sleep', ms: 50 };
			return true;
		});
		const name = bench.unit.panel().program.name;
		expect(bench.capture({ scope: slots(2, 9) }).status).toBe('complete');
		expect(bench.unit.panel().program.name).toBe(name);
		expect(bench.unit.state.memory.programs.some((bytes) => sameBytes(bytes, donor[5]))).toBe(false);
	});

	it('called off before it was shown that calling up does anything, it is not called complete', () => {
		const bench = workbench(SKIFF, 3);
		bench.unit.state.settings.follows = 0;
		let received = 0;
		let cancel = () => undefined as void;
		const push = bench.events.push.bind(bench.events);
		bench.events.push = (...events) => {
			received += events.filter(({ event }) => event === 'received').length;
			// All of it came once.
			if (received === 2) bench.clock.after(1, () => cancel());
			return push(...events);
		};
		const outcome = bench.capture({ scope: slots(2, 9) }, (running) => {
			cancel = () => running.cancel();
		});
		expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'cancelled' }, messages: [] });
		expect(outcome.missing).toHaveLength(2);
	});

	it('is restored by slot, read back, and plays the sound that it played, also where its slot was not looked at', () => {
		const bench = workbench(SKIFF, 4);
		bench.unit.select(12);
		const played = bench.unit.panel().program.name;
		const outcome = bench.restore({ wanted: wantedOf(bench, 3, 40) });
		expect(outcome).toMatchObject({ status: 'verified', reason: null });
		expect(outcome.touched.map(({ index }) => index)).toEqual([3, 40]);
		expect(bench.unit.state.memory.programs[40]).toEqual(donor[40]);
		expect(bench.unit.panel().program.name).toBe(played);
	});

	it.each([
		['program changes', 'follows'],
		['bank select', 'banks']
	])('is not believed where it does not take %s', (_, setting) => {
		const bench = workbench(SKIFF, 5);
		bench.unit.state.settings[setting] = 0;
		for (const scope of [{ kind: 'all' as const }, slots(3), slots(40, 41)]) {
			const outcome = bench.capture({ scope });
			const held = decodeDump(bench.profile, outcome.messages).slots;
			for (const { index, bytes } of held) expect(bytes).toEqual(bench.unit.state.memory.programs[index]);
			expect(outcome.status).not.toBe('complete');
			expect(outcome.reason?.code).toBe('not called up');
		}
		const before = structuredClone(bench.unit.state.memory.programs);
		expect(bench.restore({ wanted: wantedOf(bench, 3) })).toMatchObject({ status: 'refused' });
		expect(bench.unit.state.memory.programs).toEqual(before);
	});

	it('is not believed on another channel than its own', () => {
		const bench = workbench(SKIFF, 6);
		bench.unit.state.settings.channel = 7;
		expect(bench.capture({ scope: slots(1, 2, 3) })).toMatchObject({ reason: { code: 'not called up' } });
		expect(bench.capture({ scope: slots(1, 2, 3), target: { deviceId: 0, channel: 7 } }).status).toBe(
			'complete'
		);
	});

	it('protected, keeps what it holds, and that is said', () => {
		const bench = workbench(SKIFF, 7);
		bench.unit.state.settings.protect = 1;
		expect(bench.restore({ wanted: wantedOf(bench, 3) })).toMatchObject({
			status: 'refused',
			reason: { code: 'protected' }
		});
	});

	it('is restored all the same, wherever the cable came out and went back in, also between a sound and its store command', () => {
		for (let afterBytes = 1; afterBytes < 420; afterBytes += 3) {
			const bench = workbench(SKIFF, 8);
			bench.station.faults = [{ kind: 'unplug', way: 'to device', times: 1, afterBytes, forMs: 1500 }];
			const outcome = bench.restore({ wanted: wantedOf(bench, 3) });
			expect(outcome, `after ${afterBytes} bytes`).toMatchObject({ status: 'verified', reason: null });
			expect(bench.unit.state.memory.programs[3]).toEqual(donor[3]);
		}
	});

	it('on a line that garbles and delays, either way, is never said to hold what it does not', () => {
		const line = fc.record({
			seed: fc.nat(5000),
			share: fc.constantFrom(0.0005, 0.002, 0.01),
			kind: fc.constantFrom('flip bits' as const, 'lose bytes' as const),
			way: fc.constantFrom('to device' as const, 'from device' as const),
			slow: fc.constantFrom(0, 0, 300, 590, 700)
		});
		fc.assert(
			fc.property(line, ({ seed, share, kind, way, slow }) => {
				const bench = workbench(SKIFF, seed);
				bench.station.faults = [
					{ kind, way, share },
					...(slow ? [{ kind: 'slow answers' as const, addMs: slow }] : [])
				];
				const captured = bench.capture({ scope: slots(1, 2, 33, 34) });
				for (const { index, bytes } of decodeDump(bench.profile, captured.messages).slots)
					expect(bytes).toEqual(bench.unit.state.memory.programs[index]);
				const before = structuredClone(bench.unit.state.memory.programs);
				const outcome = bench.restore({ wanted: wantedOf(bench, 1, 33) });
				const told = new Set(outcome.touched.map(({ area, index }) => slotKey(area, index)));
				bench.unit.state.memory.programs.forEach((bytes, index) => {
					if (!sameBytes(bytes, before[index])) expect(told).toContain(slotKey('programs', index));
				});
				for (const { index, result } of outcome.slots)
					if (result === 'verified' || result === 'already there')
						expect(bench.unit.state.memory.programs[index]).toEqual(donor[index]);
			}),
			{ numRuns: 150 }
		);
	});
});
