import { describe, expect, it } from 'vitest';
import { faultSchema } from '../bench';
import { makeUp } from '../bench/bench.fixture';
import { captureRaw, restoreRaw, type TransferEvent } from '.';
import { bareLine } from './line.fixture';

function nadir(faults: unknown[] = []) {
	const bench = bareLine();
	const { profile, state } = makeUp('quillon-nadir', 4);
	state.settings.protect = 0;
	state.settings.exclusive = 1;
	const unit = bench.line.attach(profile, state);
	bench.line.faults = faults.map((fault) => faultSchema.parse(fault));
	const press = (event: TransferEvent) => {
		if (event.event === 'hands') bench.clock.after(400, () => unit.dump());
	};
	return { ...bench, unit, press };
}

describe('a device without a profile', () => {
	it('is captured as it comes, and proved by coming twice', () => {
		const { run, press } = nadir();
		const once = run(captureRaw({}, press));
		expect(once).toMatchObject({ status: 'complete', proved: false });
		expect(once.messages.length).toBeGreaterThan(1);
		expect(run(captureRaw({ twice: true }, press))).toMatchObject({ status: 'complete', proved: true });
	});

	it('is never proved when a bit flips on the way', () => {
		for (let seed = 0; seed < 5; seed++) {
			const { run, press } = nadir([{ kind: 'flip bits', share: 0.001 * (seed + 1) }]);
			expect(run(captureRaw({ twice: true }, press)).proved).toBe(false);
		}
	});

	it('is incomplete when a message breaks off, and refused when nothing comes', () => {
		const { run, press } = nadir([{ kind: 'truncate', afterBytes: 200, times: 1 }]);
		expect(run(captureRaw({}, press))).toMatchObject({ status: 'incomplete', reason: { code: 'damaged' } });
		expect(run(captureRaw({ waitMs: 100 }, () => undefined))).toMatchObject({
			status: 'refused',
			reason: { code: 'no answer' }
		});
	});

	it('gets back exactly what it sent', () => {
		const { run, press, unit } = nadir();
		const kept = run(captureRaw({}, press));
		const before = unit.state.memory.kits.map((bytes) => [...bytes]);
		for (const kit of unit.state.memory.kits) kit.fill(1);
		const outcome = run(restoreRaw({ messages: kept.messages, gapMs: 100 }, () => undefined));
		expect(outcome.status).toBe('sent');
		expect(unit.state.memory.kits.map((bytes) => [...bytes])).toEqual(before);
	});

	it('says which messages went out when it is stopped', () => {
		const { run, press, clock } = nadir();
		const kept = run(captureRaw({}, press));
		const outcome = run(
			restoreRaw({ messages: kept.messages, gapMs: 100 }, () => undefined),
			(running) => clock.after(300, () => running.cancel())
		);
		expect(outcome).toMatchObject({ status: 'incomplete', reason: { code: 'cancelled' } });
		expect(new Set(outcome.slots.map(({ result }) => result))).toEqual(new Set(['sent', 'not sent']));
	});
});
