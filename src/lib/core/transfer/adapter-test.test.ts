import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faultSchema } from '../bench';
import { makeUp } from '../bench/bench.fixture';
import { testLoopback, testThroughDevice } from '.';
import { bareLine } from './line.fixture';

const judged = (faults: unknown[], limit = 1024) => {
	const { line, run } = bareLine();
	line.loopback = true;
	line.faults = faults.map((fault) => faultSchema.parse(fault));
	return run(testLoopback(() => undefined, limit));
};

describe('an adapter through a loopback cable', () => {
	it('a good one carries everything without rest', () => {
		expect(judged([])).toMatchObject({
			longestBytes: 1024,
			triedBytes: 1024,
			gapMs: 0,
			trouble: 'none',
			ended: 'done'
		});
	});

	it('names the longest message that survives, to the byte', () => {
		fc.assert(
			fc.property(fc.integer({ min: 16, max: 1000 }), (longerThan) => {
				const verdict = judged([{ kind: 'drop long messages', longerThan, way: 'to device' }]);
				expect(verdict).toMatchObject({ longestBytes: longerThan, trouble: 'swallows messages' });
				expect(verdict.says).toContain(`${longerThan.toLocaleString('en')} bytes is the longest`);
			}),
			{ numRuns: 25 }
		);
	});

	it('tells lost bytes from changed ones', () => {
		expect(judged([{ kind: 'lose bytes', share: 0.02 }]).trouble).toBe('loses bytes');
		expect(judged([{ kind: 'flip bits', share: 0.02 }]).trouble).toBe('changes bytes');
		expect(judged([{ kind: 'truncate', afterBytes: 100 }])).toMatchObject({
			trouble: 'loses bytes',
			longestBytes: 100
		});
	});

	it('a single loss by chance is not taken for a limit', () => {
		expect(judged([{ kind: 'lose bytes', share: 1, times: 1 }])).toMatchObject({ longestBytes: 1024 });
	});

	it('says when no cable is there', () => {
		expect(bareLine().run(testLoopback(() => undefined))).toMatchObject({
			trouble: 'nothing came',
			longestBytes: 0
		});
	});

	it('can be cancelled', () => {
		const { clock, line, run } = bareLine();
		line.loopback = true;
		expect(
			run(
				testLoopback(() => undefined),
				(running) => clock.after(200, () => running.cancel())
			)
		).toMatchObject({
			ended: 'cancelled'
		});
	});
});

describe('an adapter through a device', () => {
	it('asks for its own messages and writes nothing', () => {
		const { line, run } = bareLine();
		const { profile, state } = makeUp('ternhill-umbra', 1);
		const unit = line.attach(profile, state);
		const before = JSON.stringify(unit.state.memory.programs.map((bytes) => [...bytes]));
		const target = { deviceId: unit.deviceId, channel: 1 };
		const good = run(testThroughDevice(profile, target, () => undefined));
		expect(good).toMatchObject({ trouble: 'none', through: 'device' });
		expect(good.longestBytes).toBeGreaterThan(2000);
		line.faults = [faultSchema.parse({ kind: 'drop long messages', longerThan: 256 })];
		const bad = run(testThroughDevice(profile, target, () => undefined));
		expect(bad).toMatchObject({ trouble: 'swallows messages' });
		expect(bad.longestBytes).toBeLessThan(256);
		expect(JSON.stringify(unit.state.memory.programs.map((bytes) => [...bytes]))).toBe(before);
	});
});
