import { describe, expect, it } from 'vitest';
import { shippedProfiles, workbench } from '../bench/bench.fixture';
import { dryRun, proofOf } from '../drawer';
import { sameBytes } from '../midi';
import { decodeDump, makeSlot, messagesOf, parseProfile, type Profile } from '../profile';
import { VirtualClock, converse, restore, rollCall, type RestoreOutcome } from '.';
import { bareLine } from './line.fixture';

/** The same model, but for an area that it takes and does not give. */
function deafIn(profile: Profile, area: string): Profile {
	const json = structuredClone(profile);
	json.capture = json.capture.filter((way) => way.area !== area);
	return parseProfile(json);
}

describe('a restore with an area that cannot be read back', () => {
	it('is verified for the rest and sent for that area, and as a whole no more than sent', () => {
		const bench = workbench('vellbrook-orrery', 4);
		bench.unit.state.settings.protect = 0;
		const profile = deafIn(bench.profile, 'system');
		const donor = workbench('vellbrook-orrery', 40).unit.state.memory;
		const wanted = [
			...donor.programs.map((bytes, index) => makeSlot(profile, 'programs', index, bytes)),
			makeSlot(profile, 'system', 0, donor.system[0])
		];
		let outcome: RestoreOutcome | undefined;
		converse(
			restore({ profile, target: bench.target, wanted }, () => undefined),
			{ link: bench.station, clock: bench.clock, trace: () => undefined, keep: (_, kept) => kept() },
			(value) => (outcome = value)
		);
		bench.clock.run(() => outcome !== undefined);
		expect(outcome!.status).toBe('sent');
		const of = (area: string) => new Set(outcome!.slots.filter((s) => s.area === area).map((s) => s.result));
		expect(of('programs')).toEqual(new Set(['verified']));
		expect(of('system')).toEqual(new Set(['sent']));
		expect(outcome!.touched).toHaveLength(65);
		expect(decodeDump(profile, outcome!.readBack).slots.every(({ area }) => area === 'programs')).toBe(true);
	});
});

describe('real-time bytes', () => {
	const noisy = [{ kind: 'active sensing' as const }, { kind: 'clock' as const, bpm: 180 }];

	it('do not keep an unanswered request waiting', () => {
		const bench = workbench('tarnow-parallax');
		bench.station.faults = noisy;
		bench.unit.receive = () => undefined;
		const outcome = bench.capture();
		expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'no answer' } });
		expect(bench.clock.now()).toBeLessThan(10_000);
	});

	it('nor do notes that somebody plays', () => {
		const bench = workbench('tarnow-parallax');
		bench.unit.receive = () => undefined;
		const play = () => {
			bench.station.speak(Uint8Array.of(0x90, 60, 100, 0x80, 60, 0));
			bench.clock.after(100, play);
		};
		bench.clock.after(50, play);
		expect(bench.capture()).toMatchObject({ status: 'refused', reason: { code: 'no answer' } });
	});

	it('change nothing of a roll call, a capture and a restore', () => {
		const { line, run } = bareLine();
		const quiet = workbench('ternhill-umbra', 2);
		line.attach(quiet.profile, quiet.unit.state);
		line.faults = noisy;
		expect(run(rollCall()).answers).toMatchObject([{ units: 1 }]);
		for (const { id, capture } of shippedProfiles) {
			if (capture.length === 0) continue;
			const bench = workbench(id, 6);
			bench.unit.state.settings.protect = 0;
			bench.unit.state.settings.exclusive = 1;
			bench.station.faults = noisy;
			expect(bench.capture().status, id).toBe('complete');
			const [{ id: area, slots }] = bench.profile.areas;
			const donor = workbench(id, 60).unit.state.memory[area];
			const wanted = [1, 2]
				.filter((index) => index < slots)
				.concat(slots === 1 ? [0] : [])
				.map((index) => makeSlot(bench.profile, area, index, donor[index]));
			expect(bench.restore({ wanted }).status, id).toBe('verified');
		}
	});
});

describe('what is not there, and what is called off', () => {
	it('a capture of an area or a slot that the device does not have is refused before anything is sent', () => {
		for (const scope of [
			{ kind: 'area' as const, area: 'patterns' },
			{ kind: 'slots' as const, slots: [{ area: 'programs', index: 999 }] }
		]) {
			const bench = workbench('ternhill-umbra');
			const outcome = bench.capture({ scope });
			expect(outcome).toMatchObject({ status: 'refused', messages: [], reason: { code: 'nothing to do' } });
			expect(bench.trace.filter(({ way }) => way === 'sent')).toEqual([]);
		}
	});

	it('a cancelled restore still gives the device its rests: nothing overruns', () => {
		for (const { id, restore: ways } of shippedProfiles) {
			if (!ways.some(({ gapMs, chunk }) => gapMs > 0 || chunk)) continue;
			for (const afterMs of [400, 900, 1600, 2600]) {
				const bench = workbench(id, 8);
				bench.unit.state.settings.protect = 0;
				bench.unit.state.settings.exclusive = 1;
				const [{ id: area, slots }] = bench.profile.areas;
				const donor = workbench(id, 80).unit.state.memory[area];
				const wanted = Array.from({ length: slots }, (_, index) =>
					makeSlot(bench.profile, area, index, donor[index])
				);
				const outcome = bench.restore({ wanted }, (running) =>
					bench.clock.after(afterMs, () => running.cancel())
				);
				expect(bench.unit.lostBytes, `${id} cancelled after ${afterMs} ms`).toBe(0);
				// Whoever comes next does not find it busy.
				if (outcome.reason?.code === 'cancelled' && outcome.touched.length > 0)
					expect(bench.unit.busy, `${id} after ${afterMs} ms`).toBe(false);
			}
		}
	});
});

describe('proof', () => {
	it('is a checksum only where every message of a backup has one', () => {
		for (const profile of shippedProfiles)
			expect(proofOf(profile)).toBe(
				profile.id === 'corrie-sallow' ? 'twice alike' : profile.capture.length > 0 ? 'checksum' : 'none'
			);
		const bare = structuredClone(shippedProfiles.find(({ id }) => id === 'tarnow-parallax')!);
		const message = messagesOf(bare.capture[0].expect)[0];
		bare.messages[message].parts = bare.messages[message].parts.filter(({ part }) => part !== 'checksum');
		expect(proofOf(parseProfile(bare))).toBe('none');
	});
});

describe('a dry run', () => {
	it('counts the messages and bytes that really go out, where only what differs of a sound travels', () => {
		for (const [id, area, changes] of [
			['harbeck-cairn', 'tones', 20],
			['ostler-fathom', 'kits', 40],
			['keld-tally', 'patterns', 20]
		] as const) {
			const bench = workbench(id, 3);
			const known = bench.unit.state.memory[area].map((bytes, index) => ({
				slot: makeSlot(bench.profile, area, index, bytes.slice()),
				at: '2026-01-01T00:00:00Z'
			}));
			const bytes = known[2].slot.bytes.map((byte, i) => (i === changes ? byte ^ 1 : byte));
			const wanted = [makeSlot(bench.profile, area, 2, bytes)];
			const dry = dryRun(bench.profile, known, wanted);
			expect(bench.restore({ wanted }).status).toBe('verified');
			const written = bench.events.filter(({ event }) => event === 'written');
			const frames = bench.profile.restore.find((way) => way.area === area)?.begin ? 2 : 0;
			expect(dry.messages, id).toBe(written.length + frames);
			expect(dry.bytes, id).toBe(
				written.reduce((sum, event) => sum + (event.event === 'written' ? event.bytes : 0), 0)
			);
			expect(dry.overwritten).toHaveLength(1);
		}
	});

	it('says how old its belief is, and counts what is not known', () => {
		const { profile, unit } = workbench('ternhill-umbra', 3);
		const slots = unit.state.memory.programs.map((bytes, i) => makeSlot(profile, 'programs', i, bytes));
		const known = slots
			.slice(0, 40)
			.map((slot, i) => ({ slot, at: `2026-01-${String(1 + (i % 9)).padStart(2, '0')}` }));
		const donor = workbench('ternhill-umbra', 30).unit.state.memory.programs;
		const wanted = slots.map((slot) =>
			slot.index === 4 ? makeSlot(profile, 'programs', 4, donor[4]) : slot
		);
		const run = dryRun(profile, known, wanted);
		expect(run).toMatchObject({ alreadyThere: 39, unknown: 10, readAt: '2026-01-01', impossible: [] });
		expect(run.overwritten).toHaveLength(11);
		expect(run.overwritten.find(({ index }) => index === 4)!.now).toBe(slots[4].name);
		expect(sameBytes(donor[4], slots[4].bytes)).toBe(false);
		expect(dryRun(profile, [], slots.slice(0, 1)).readAt).toBeNull();
	});
});

it('a virtual clock with real-time bytes on it ends when it is told to', () => {
	const clock = new VirtualClock();
	let beats = 0;
	const beat = () => {
		beats++;
		clock.after(10, beat);
	};
	beat();
	clock.run(() => beats > 20);
	expect(clock.now()).toBe(200);
});
