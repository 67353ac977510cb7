import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { makeSlot } from '../profile';
import {
	ProgressMeter,
	capture,
	converse,
	reportOf,
	restore,
	type CaptureOutcome,
	type Conversation,
	type Progress,
	type RestoreOutcome,
	type TransferEvent
} from '.';

/** Runs a conversation and reads its progress every 20 ms. */
function watch<R>(
	bench: ReturnType<typeof workbench>,
	start: (emit: (event: TransferEvent) => void) => Conversation<R>
) {
	const meter = new ProgressMeter();
	const seen: Progress[] = [];
	let result: R | undefined;
	const look = () => {
		if (result !== undefined) return;
		seen.push(meter.read(bench.clock.now()));
		bench.clock.after(20, look);
	};
	converse<R>(
		start((event) => meter.note(event, bench.clock.now())),
		{
			link: bench.station,
			clock: bench.clock,
			trace: () => undefined,
			traffic: (received, sent) => meter.traffic(received, sent),
			keep: (_, kept) => kept()
		},
		(value) => (result = value)
	);
	look();
	bench.clock.run(() => result !== undefined);
	return { seen, last: meter.read(bench.clock.now()), result: result! };
}

describe('progress', () => {
	it('of a capture grows evenly to the whole, at the rate of the wire, with an honest time left', () => {
		const bench = workbench('vellbrook-orrery');
		const { profile, target } = bench;
		const { seen, last } = watch<CaptureOutcome>(bench, (emit) =>
			capture({ profile, target, scope: { kind: 'all' } }, emit)
		);
		const capturing = seen.filter(({ phase }) => phase === 'capture');
		for (let i = 1; i < capturing.length; i++)
			expect(capturing[i].doneBytes).toBeGreaterThanOrEqual(capturing[i - 1].doneBytes);
		expect(last).toMatchObject({
			share: 1,
			messagesDone: 2,
			messages: 2,
			leftMs: 0,
			doneBytes: last.totalBytes
		});
		const middle = capturing[Math.floor(capturing.length / 2)];
		const timeToEnd = capturing.length * 20 - capturing.indexOf(middle) * 20;
		expect(Math.abs(middle.leftMs - timeToEnd)).toBeLessThan(100);
		expect(middle.wireShare).toBeGreaterThan(0.95);
		expect(middle.bytesPerSecond).toBeLessThanOrEqual(3125);
	});

	it('of a restore goes through its phases in order', () => {
		const bench = workbench('tarnow-parallax');
		const { profile, target } = bench;
		const donor = workbench('tarnow-parallax', 9).unit.state.memory.programs;
		const wanted = [0, 1, 2].map((index) => makeSlot(profile, 'programs', index, donor[index]));
		const { seen, result } = watch<RestoreOutcome>(bench, (emit) =>
			restore({ profile, target, wanted }, emit)
		);
		expect([...new Set(seen.map(({ phase }) => phase))]).toEqual([
			'identity',
			'safety copy',
			'send',
			'read back'
		]);
		expect(reportOf(result)).toMatchObject({
			status: 'verified',
			missing: 0,
			firmware: '1.04',
			outcome: { safety: true }
		});
		expect(reportOf(result).readBack).toHaveLength(3);
	});
});

it('a report of an incomplete capture names what is missing and why', () => {
	const bench = workbench('tarnow-parallax');
	bench.station.faults = [{ kind: 'unplug', way: 'from device', times: 1, afterBytes: 1500, forMs: 60_000 }];
	const report = reportOf(bench.capture({ patienceMs: 100 }));
	expect(report).toMatchObject({
		status: 'incomplete',
		reason: { code: 'unplugged' },
		firmware: '1.04',
		readBack: []
	});
	expect(report.outcome.missing).toHaveLength(report.missing);
	expect(report.outcome.missing![0]).toMatchObject({ area: 'programs', why: 'unplugged' });
});
