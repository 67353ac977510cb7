import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
	describeUniversal,
	generalMidi,
	machineControl,
	masterVolume,
	readTuningDump,
	tuningDump,
	tuningDumpRequest
} from '.';

describe('universal messages', () => {
	it.each([
		[masterVolume(0x7f, 16383), 'Master volume 100 %, all devices'],
		[masterVolume(3, 0), 'Master volume 0 %, device ID 3'],
		[generalMidi(0x7f, 'on'), 'General MIDI on, all devices'],
		[generalMidi(0x7f, 'off'), 'General MIDI off, all devices'],
		[machineControl(1, 'record strobe'), 'Machine control: record strobe, device ID 1'],
		[tuningDumpRequest(2, 9), 'Tuning dump request, program 9, device ID 2'],
		[Uint8Array.of(0xf0, 0x7e, 0, 0x7f, 12, 0xf7), 'Acknowledged, packet 12, device ID 0'],
		[Uint8Array.of(0xf0, 0x7d, 1, 2, 3, 0xf7), null]
	])('%o says %s', (bytes, says) => {
		expect(describeUniversal(bytes)).toBe(says);
	});

	it('the bytes of master volume are those of the specification', () => {
		expect([...masterVolume(0x7f, 0x1234)]).toEqual([0xf0, 0x7f, 0x7f, 4, 1, 0x34, 0x24, 0xf7]);
	});
});

describe('tuning dumps', () => {
	it('come back as they were, within a step of 0.0061 cent', () => {
		fc.assert(
			fc.property(
				fc.array(fc.option(fc.double({ min: 0, max: 127.9, noNaN: true })), {
					minLength: 128,
					maxLength: 128
				}),
				(pitches) => {
					const bytes = tuningDump(4, { program: 7, name: 'Just in C', pitches });
					expect(bytes).toHaveLength(408);
					expect(bytes.subarray(1, 407).every((byte) => byte < 0x80)).toBe(true);
					const back = readTuningDump(bytes)!;
					expect(back).toMatchObject({ program: 7, name: 'Just in C' });
					back.pitches.forEach((pitch, key) => {
						if (pitches[key] === null) expect(pitch).toBeNull();
						else expect(Math.abs(pitch! - pitches[key])).toBeLessThanOrEqual(1 / 16384);
					});
				}
			),
			{ numRuns: 30 }
		);
	});

	it('a damaged one is refused, another message is not one', () => {
		const bytes = tuningDump(4, { program: 0, name: '', pitches: [] });
		bytes[50] ^= 1;
		expect(() => readTuningDump(bytes)).toThrow('damaged');
		expect(readTuningDump(tuningDumpRequest(0, 0))).toBeNull();
	});
});
