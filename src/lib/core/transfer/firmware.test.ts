import { describe, expect, it } from 'vitest';
import { makeFirmware, seededRandom, type Fault } from '../bench';
import { profileNamed, workbench } from '../bench/bench.fixture';
import { readFirmware } from '../profile';
import { identify } from './identify';
import { askLoader, sendFirmware, type FirmwareOutcome } from './firmware';

const MODEL = 0x34;
const BLOCKS = 12;
const profile = profileNamed('tarnow-parallax');
const ways = profile.firmware!;
const fileFor = (variant = 0) =>
	makeFirmware(MODEL, { variant, version: [1, 7], blocks: BLOCKS, random: seededRandom(4) });
const read = (bytes: Uint8Array) => readFirmware(bytes, ways, profile.model);
const file = read(fileFor());

/** A unit in update mode. */
function inUpdateMode(faults: Fault[] = []) {
	const bench = workbench('tarnow-parallax');
	const { station } = bench;
	station.unit.powerCycle(true);
	station.faults = faults;
	const send = (wanted = file, during?: (running: { cancel(): void }) => void) =>
		bench.run<FirmwareOutcome>(() => sendFirmware(wanted, ways), during);
	/** What the unit really is, seen from inside. */
	const truth = () => ({
		erased: station.unit.state.settings.erased === 1,
		firmware: station.unit.state.firmware.join('.')
	});
	return { ...bench, unit: station.unit, send, truth };
}

/** What the outcome may say of a unit as it really is. */
function isTrue(
	{ state }: FirmwareOutcome,
	truth: { erased: boolean; firmware: string },
	before: string
): boolean {
	if (state === 'written') return !truth.erased && truth.firmware === '1.7';
	if (state === 'erased') return truth.erased;
	if (state === 'as before') return !truth.erased && truth.firmware === before;
	return true;
}

it('reads a file, and refuses what is none, is damaged, is short, or is for gear that nobody knows', () => {
	expect(file).toMatchObject({ variant: { id: 'rack' }, version: '1.07', blocks: BLOCKS });
	const bytes = fileFor();
	const changed = (at: number, byte: number) => Uint8Array.from(bytes).fill(byte, at, at + 1);
	for (const [bad, says] of [
		[new Uint8Array(), 'no system file'],
		[Uint8Array.of(0xf0, 0x7d, 0x21, 0x11, 0xf7), 'no system file'],
		[bytes.subarray(0, bytes.length - 1), 'breaks off'],
		[bytes.subarray(0, bytes.length - 6), 'not whole'],
		[changed(4, 9), 'kind that the profile does not know'],
		[changed(8, BLOCKS + 1), 'not whole'],
		[changed(13, 0x11), 'between its blocks']
	] as const)
		expect(() => read(bad), says).toThrow(says);
});

it('sends it block by block; the unit holds the new system, and its sounds are gone', () => {
	const { unit, send, run, truth } = inUpdateMode();
	const sound = unit.state.memory.programs[3].slice();
	expect(send()).toMatchObject({ state: 'written', taken: BLOCKS + 2, of: BLOCKS + 2 });
	expect(truth()).toEqual({ erased: false, firmware: '1.7' });
	expect(unit.state.memory.programs[3]).not.toEqual(sound);
	expect(unit.panel().display[0]).toBe('DONE: SWITCH OFF');
	// Until it is switched off, nothing but the loader is awake.
	expect(run(() => identify(profile, { deviceId: 0, channel: 1 })).reason?.code).toBe('no answer');
	unit.powerCycle();
	expect(run(() => identify(profile, { deviceId: 0, channel: 1 })).identity?.version.slice(0, 2)).toEqual(
		Uint8Array.of(1, 7)
	);
});

it('sends nothing of the file to a unit that is not in update mode', () => {
	const { unit, send, trace } = inUpdateMode();
	unit.powerCycle();
	expect(send()).toMatchObject({ state: 'as before', taken: 0 });
	expect(trace.filter(({ way, bytes }) => way === 'sent' && bytes[3] !== 0x60)).toEqual([]);
});

it('is refused where the file is for other gear, and nothing is erased', () => {
	const { send, truth } = inUpdateMode();
	const before = truth();
	const outcome = send(read(fileFor(1)));
	expect(outcome).toMatchObject({ state: 'as before', taken: 0 });
	expect(outcome.says).toContain('Parallax D (desktop)');
	expect(truth()).toEqual(before);
});

it('sends a message again that came damaged, or whose answer was lost', () => {
	for (const way of ['to device', 'from device'] as const) {
		const { send, truth } = inUpdateMode([{ kind: 'lose bytes', way, share: 0.02, times: 3 }]);
		expect(send().state).toBe('written');
		expect(truth().firmware).toBe('1.7');
	}
});

describe('the supply cut at each block', () => {
	const total = fileFor().length;
	const cuts = Array.from({ length: (BLOCKS + 2) * 4 }, (_, i) =>
		Math.round((total + 30) * ((i + 0.3) / ((BLOCKS + 2) * 4)))
	);
	it.each(cuts)('after %i bytes: what is said is so, and the way back works', (afterBytes) => {
		const { unit, station, send, truth, run } = inUpdateMode([
			{ kind: 'power cut', way: 'to device', times: 1, afterBytes }
		]);
		const before = truth().firmware;
		const outcome = send();
		expect(isTrue(outcome, truth(), before), JSON.stringify([outcome, truth()])).toBe(true);
		expect(outcome.state === 'written' || outcome.back.length > 20).toBe(true);
		// The way back, as it is told: update mode again, then the whole file.
		station.faults = [];
		unit.powerCycle(true);
		expect(run(() => askLoader(ways))).toBe(truth().erased ? 'erased' : 'ready');
		expect(send().state).toBe('written');
		unit.powerCycle();
		expect(run(() => identify(profile, { deviceId: 0, channel: 1 })).reason).toBeNull();
		expect(truth()).toEqual({ erased: false, firmware: '1.7' });
	});

	it('reached both an erased unit and an untouched one', () => {
		const states = cuts.map((afterBytes) => {
			const { send } = inUpdateMode([{ kind: 'power cut', way: 'to device', times: 1, afterBytes }]);
			return send().state;
		});
		expect(new Set(states)).toEqual(new Set(['unknown', 'erased', 'written']));
	});
});

it.each(Array.from({ length: BLOCKS + 2 }, (_, i) => i))(
	'a cable pulled, and a press on Cancel, at message %i: what is said is so',
	(message) => {
		const afterBytes = 5 + (file.messages.slice(0, message).reduce((sum, each) => sum + each.length, 0) || 1);
		for (const forMs of [400, 60_000]) {
			const { send, truth } = inUpdateMode([
				{ kind: 'unplug', way: 'to device', times: 1, afterBytes, forMs }
			]);
			const before = truth().firmware;
			expect(isTrue(send(), truth(), before)).toBe(true);
		}
		const { send, truth, clock } = inUpdateMode();
		const before = truth().firmware;
		const outcome = send(file, (running) => clock.after(40 + message * 50, () => running.cancel()));
		expect(isTrue(outcome, truth(), before), JSON.stringify([outcome, truth()])).toBe(true);
		expect(outcome.state).not.toBe('written');
	}
);

it('does not take a loader that is whole after the last message for one that was never touched', () => {
	// The answers are 6 bytes to the question and 7 to each message: the cable comes out within the last of them.
	const afterBytes = 6 + 7 * (BLOCKS + 1) + 2;
	const { send, truth } = inUpdateMode([
		{ kind: 'unplug', way: 'from device', times: 1, afterBytes, forMs: 400 }
	]);
	const outcome = send();
	expect(truth()).toEqual({ erased: false, firmware: '1.7' });
	expect(outcome).toMatchObject({ state: 'unknown', taken: BLOCKS + 1 });
});
