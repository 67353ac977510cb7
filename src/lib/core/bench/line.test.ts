import { describe, expect, it } from 'vitest';
import { VirtualClock } from '../transfer';
import { wireMs } from '../midi';
import { frameAll, identityRequest } from '../sysex';
import { makeUp } from './bench.fixture';
import { BenchLine, faultSchema, seededRandom } from '.';

function shared(count: number) {
	const clock = new VirtualClock();
	const line = new BenchLine('Port', clock, seededRandom(1));
	for (let i = 0; i < count; i++) {
		const { profile, state } = makeUp('ternhill-umbra', i);
		state.settings.deviceId = i;
		line.attach(profile, state);
	}
	const heard: number[] = [];
	const told: string[] = [];
	line.listen({
		bytes: (chunk) => heard.push(...chunk),
		unplugged: () => told.push('out'),
		plugged: () => told.push('in')
	});
	return { clock, line, heard, told };
}

describe('a port with several devices', () => {
	it('reaches all of them, and their answers queue up whole', () => {
		const { clock, line, heard } = shared(3);
		line.send(identityRequest(), () => undefined);
		clock.run();
		const events = frameAll(Uint8Array.from(heard));
		expect(events.map(({ kind }) => kind)).toEqual(['sysex', 'sysex', 'sysex']);
		expect(new Set(events.map(({ bytes }) => bytes[2]))).toEqual(new Set([0, 1, 2]));
		expect(clock.now()).toBeGreaterThanOrEqual(wireMs(6 + 3 * 15));
	});

	it('one fault is the fault of the whole line', () => {
		const { line } = shared(2);
		const fault = faultSchema.parse({ kind: 'wrong device ID' });
		line.faults = [fault];
		expect(line.units.map((unit) => unit.deviceId)).toEqual([1, 2]);
		expect(line.faults).toEqual([fault]);
	});

	it('a cable that comes out is told once, and so is its return', () => {
		const { line, told } = shared(1);
		line.unplug();
		line.unplug();
		line.plug();
		line.plug();
		expect(told).toEqual(['out', 'in']);
	});

	it('a loopback cable gives back what was sent', () => {
		const clock = new VirtualClock();
		const line = new BenchLine('Port', clock);
		line.loopback = true;
		const heard: number[] = [];
		line.listen({
			bytes: (chunk) => heard.push(...chunk),
			unplugged: () => undefined,
			plugged: () => undefined
		});
		line.send(Uint8Array.of(0xf0, 1, 2, 0xf7), () => undefined);
		clock.run();
		expect(heard).toEqual([0xf0, 1, 2, 0xf7]);
	});

	it('a model that nobody can simulate is refused', () => {
		const { line } = shared(0);
		const { profile, state } = makeUp('ternhill-umbra', 1);
		expect(() => line.attach({ ...profile, id: 'nobody-knows' }, state)).toThrow('no simulated');
	});
});
