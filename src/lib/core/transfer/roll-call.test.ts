import { describe, expect, it } from 'vitest';
import { makeUp } from '../bench/bench.fixture';
import { rollCall } from '.';
import { bareLine } from './line.fixture';

describe('the roll call', () => {
	it('finds every device of a port, each once', () => {
		const { line, run } = bareLine();
		for (const [i, id] of ['tarnow-parallax', 'ternhill-umbra', 'ternhill-umbra'].entries()) {
			const { profile, state } = makeUp(id, i);
			state.settings.deviceId = 3 + i;
			line.attach(profile, state);
		}
		const { answers, reason } = run(rollCall());
		expect(reason).toBeNull();
		expect(answers.map(({ identity, units }) => [identity.deviceId, units])).toEqual([
			[2, 1],
			[4, 1],
			[5, 1]
		]);
	});

	it('notices two units with one device ID', () => {
		const { line, run } = bareLine();
		for (const seed of [1, 2]) {
			const { profile, state } = makeUp('ternhill-umbra', seed);
			state.settings.deviceId = 7;
			line.attach(profile, state);
		}
		expect(run(rollCall()).answers).toMatchObject([{ identity: { deviceId: 7 }, units: 2 }]);
	});

	it('a device that ignores the ID is one, and two of them are two', () => {
		for (const count of [1, 2]) {
			const { line, run } = bareLine();
			for (let i = 0; i < count; i++)
				line.others.push({
					// Answers every identity request as device ID 4, whomever it was for.
					receive: (bytes: Uint8Array) => {
						for (let at = 0; at + 5 < bytes.length; at++)
							if (
								bytes[at] === 0xf0 &&
								bytes[at + 1] === 0x7e &&
								bytes[at + 3] === 0x06 &&
								bytes[at + 4] === 0x01
							)
								line.speak(Uint8Array.from([0xf0, 0x7e, 4, 6, 2, 0x7d, 1, 0, 2, 0, 1, 4, 0, 0, 0xf7]));
					}
				} as never);
			const { answers } = run(rollCall());
			expect(answers).toMatchObject([{ identity: { deviceId: 4 }, units: count }]);
		}
	});

	it('ends with what it has when it is cancelled or the cable comes out', () => {
		const cancelled = bareLine();
		const { profile, state } = makeUp('ternhill-umbra', 1);
		cancelled.line.attach(profile, state);
		const early = cancelled.run(rollCall(), (running) => cancelled.clock.after(600, () => running.cancel()));
		expect(early).toMatchObject({ reason: { code: 'cancelled' } });
		expect(early.answers).toHaveLength(1);
		const out = bareLine();
		out.clock.after(100, () => out.line.unplug());
		expect(out.run(rollCall())).toMatchObject({ answers: [], reason: { code: 'unplugged' } });
	});

	it('a port where nobody is answers with nobody', () => {
		expect(bareLine().run(rollCall())).toEqual({ answers: [], reason: null });
	});
});
