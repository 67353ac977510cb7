import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BenchLine, seededRandom } from '../../bench';
import { makeUp } from '../../bench/bench.fixture';
import { wireMs } from '../../midi';
import { decodeDump } from '../../profile';
import {
	VirtualClock,
	capture,
	converse,
	lanesMs,
	planBackup,
	predictCapture,
	runLanes,
	walkOrder
} from '..';
import type { CaptureOutcome } from '..';
import { placeChanges } from './walk-order';

const job = (id: string, lane: string, expectedMs: number, hands = false) => ({
	id,
	lanes: [lane],
	expectedMs,
	hands
});

describe('lanes', () => {
	it('run side by side, the jobs of one lane one after another', () => {
		expect(lanesMs([job('a', '1', 100), job('b', '1', 50), job('c', '2', 120)])).toBe(150);
	});

	it('hands are needed at one device at a time, in the order given', () => {
		const begun: string[] = [];
		const overs = new Map<string, () => void>();
		runLanes(
			[job('a', '1', 10, true), job('b', '2', 10, true), job('c', '2', 10)],
			({ id }, over) => {
				begun.push(id);
				overs.set(id, over);
			},
			() => begun.push('end')
		);
		expect(begun).toEqual(['a', 'c']);
		overs.get('a')!();
		expect(begun).toEqual(['a', 'c']);
		overs.get('c')!();
		expect(begun).toEqual(['a', 'c', 'b']);
		overs.get('b')!();
		expect(begun.at(-1)).toBe('end');
	});

	it('never run two jobs of one lane at once, and run each exactly once', () => {
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 1, max: 50 }), fc.boolean()), {
					maxLength: 25
				}),
				(list) => {
					const jobs = list.map(([lane, ms, hands], i) => job(String(i), String(lane), ms, hands));
					const now: string[] = [];
					const seen: string[] = [];
					const open: { lane: string; hands: boolean; over: () => void }[] = [];
					let ended = 0;
					runLanes(
						jobs,
						({ id, lanes: [lane], hands }, over) => {
							expect(now).not.toContain(lane);
							expect(hands && open.some((other) => other.hands)).toBe(false);
							now.push(lane);
							seen.push(id);
							open.push({ lane, hands, over });
						},
						() => ended++
					);
					while (open.length > 0) {
						const { lane, over } = open.splice(seen.length % open.length, 1)[0];
						now.splice(now.indexOf(lane), 1);
						over();
					}
					expect(seen.toSorted()).toEqual(jobs.map(({ id }) => id).toSorted());
					expect(ended).toBe(1);
				}
			)
		);
	});

	it('devices that share an out wait for each other, though they come back at different ins', () => {
		const a = { ...job('a', '', 100), lanes: ['out 1', 'in 1'] };
		const b = { ...job('b', '', 50), lanes: ['out 1', 'in 2'] };
		const c = { ...job('c', '', 120), lanes: ['out 2', 'in 3'] };
		expect(lanesMs([a, b, c])).toBe(150);
		const now = new Set<string>();
		const overs: (() => void)[] = [];
		runLanes(
			[a, b],
			({ lanes }, over) => {
				for (const lane of lanes) {
					expect(now.has(lane)).toBe(false);
					now.add(lane);
				}
				overs.push(() => {
					for (const lane of lanes) now.delete(lane);
					over();
				});
			},
			() => undefined
		);
		expect(overs).toHaveLength(1);
		overs[0]();
		expect(overs).toHaveLength(2);
	});

	it('stop: what runs ends, nothing new begins', () => {
		const overs: (() => void)[] = [];
		let ended = false;
		const stop = runLanes(
			[job('a', '1', 1), job('b', '1', 1)],
			(_, over) => void overs.push(over),
			() => (ended = true)
		);
		stop();
		expect(ended).toBe(false);
		overs[0]();
		expect(overs).toHaveLength(1);
		expect(ended).toBe(true);
	});
});

describe('the way across the room', () => {
	it('visits each place once, beginning here', () => {
		const things = ['rack', 'desk', 'floor', 'rack', 'desk'].map((place, i) => ({ id: String(i), place }));
		const walked = walkOrder(things, ['desk', 'rack', 'floor'], 'floor');
		expect(walked.map(({ place }) => place)).toEqual(['floor', 'desk', 'desk', 'rack', 'rack']);
		expect(placeChanges(walked, 'floor')).toBe(2);
	});
});

describe('a whole studio', () => {
	const studio = () => {
		const clock = new VirtualClock();
		const lines = Array.from({ length: 3 }, (_, i) => new BenchLine(`Port ${i + 1}`, clock, seededRandom(i)));
		const ids = ['vellbrook-orrery', 'tarnow-parallax', 'ternhill-umbra', 'quillon-nadir', 'ternhill-umbra'];
		const units = ids.map((id, i) => {
			const { profile, state } = makeUp(id, i + 1);
			state.settings.deviceId = i + 1;
			const unit = lines[i % 3].attach(profile, state);
			return { id: String(i), deviceId: unit.deviceId, profile, line: lines[i % 3], unit };
		});
		return { clock, lines, units };
	};

	it('is captured over shared ports in the time that was predicted, and what came is what the devices hold', () => {
		const { clock, units } = studio();
		const plan = planBackup(
			units.map(({ id, profile, line }) => ({
				id,
				name: id,
				place: '',
				ports: [line.name],
				profile,
				past: []
			})),
			[]
		);
		const outcomes = new Map<string, CaptureOutcome>();
		let ended = false;
		runLanes(
			plan.jobs.map((entry) => ({ ...entry, expectedMs: entry.wireMs })),
			({ id }, over) => {
				const { profile, deviceId, line, unit } = units[Number(id)];
				converse(
					capture({ profile, target: { deviceId, channel: 1 }, scope: { kind: 'all' } }, (event) => {
						if (event.event === 'hands') clock.after(300, () => unit.dump());
					}),
					{ link: line, clock, trace: () => undefined, keep: (_, kept) => kept() },
					(outcome) => {
						outcomes.set(id, outcome);
						over();
					}
				);
			},
			() => (ended = true)
		);
		clock.run(() => ended);
		for (const { id, profile, unit } of units) {
			const outcome = outcomes.get(id)!;
			expect(outcome, profile.model).toMatchObject({ status: 'complete', reason: null });
			for (const slot of decodeDump(profile, outcome.messages).slots)
				expect([...slot.bytes]).toEqual([...unit.state.memory[slot.area][slot.index]]);
		}
		const wire = lanesMs(plan.jobs.map((entry) => ({ ...entry, expectedMs: entry.wireMs, hands: false })));
		expect(clock.now()).toBeGreaterThan(wire * 0.97);
		expect(clock.now()).toBeLessThan(wire * 1.05 + 2000);
	});

	it('leaves out what cannot be asked, and says why', () => {
		const lantern = makeUp('bessel-lantern', 1).profile;
		const umbra = makeUp('ternhill-umbra', 1).profile;
		const { left, jobs } = planBackup(
			[
				{ id: 'a', name: 'A', place: '', ports: ['x'], profile: lantern, past: [] },
				{ id: 'b', name: 'B', place: '', ports: ['x'], profile: null, past: [] },
				{ id: 'c', name: 'C', place: '', ports: null, profile: umbra, past: [] },
				{ id: 'd', name: 'D', place: '', ports: ['x'], profile: umbra, past: [], torn: true }
			],
			[]
		);
		expect(jobs).toEqual([]);
		expect(left.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'd']);
	});

	it('learns from how long a device took before', () => {
		const { profile } = makeUp('ternhill-umbra', 1);
		const plain = predictCapture(profile, { kind: 'all' }, [], false);
		expect(plain).toBeGreaterThan(wireMs(2000));
		const slow = predictCapture(profile, { kind: 'all' }, [{ predictedMs: 100, tookMs: 150 }], false);
		expect(slow).toBeCloseTo(plain * 1.5);
	});
});
