import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, joinBytes, readMidiFile, sysexOfMidiFile, toHex, writeSysexMidiFile } from '.';

const head = (tracks: number, format = 1) =>
	fromHex(`4d 54 68 64 00 00 00 06 00 0${format} 00 0${tracks} 01 e0`);
const track = (hex: string) => {
	const body = fromHex(hex);
	return joinBytes([fromHex('4d 54 72 6b'), Uint8Array.of(0, 0, body.length >> 8, body.length & 255), body]);
};
const messages = (bytes: Uint8Array) =>
	sysexOfMidiFile(readMidiFile(bytes)).map((found) => `${toHex(found.bytes)}${found.complete ? '' : ' …'}`);

describe('Standard MIDI Files', () => {
	it('reads running status, meta events and SysEx in track order', () => {
		const file = joinBytes([
			head(2),
			track('00 90 3c 40 10 3e 40 00 f0 03 7d 01 f7 00 ff 2f 00'),
			track('05 f0 03 7d 02 f7 00 ff 2f 00')
		]);
		expect(readMidiFile(file).tracks[0].map(({ kind, tick }) => `${kind} ${tick}`)).toEqual([
			'channel 0',
			'channel 16',
			'sysex 16',
			'meta 16'
		]);
		expect(messages(file)).toEqual(['f07d01f7', 'f07d02f7']);
	});

	it('joins continued packets, and tells what never ended', () => {
		expect(
			messages(joinBytes([head(1), track('00 f0 02 7d 01 60 f7 01 02 60 f7 02 03 f7 00 ff 2f 00')]))
		).toEqual(['f07d010203f7']);
		expect(messages(joinBytes([head(1), track('00 f0 02 7d 01 10 f0 03 7d 05 f7 00 ff 2f 00')]))).toEqual([
			'f07d01 …',
			'f07d05f7'
		]);
	});

	it('takes a whole message out of an escape, and leaves other escapes alone', () => {
		expect(messages(joinBytes([head(1), track('00 f7 04 f0 7d 01 f7 00 f7 01 f8 00 ff 2f 00')]))).toEqual([
			'f07d01f7'
		]);
	});

	it('takes several messages out of one escape, also where one begins in it and ends in the next', () => {
		expect(
			messages(
				joinBytes([head(1), track('00 f7 0b f0 7d 01 f7 f8 f0 7d 02 f7 f0 7d 00 f7 02 03 f7 00 ff 2f 00')])
			)
		).toEqual(['f07d01f7', 'f07d02f7', 'f07d03f7']);
	});

	it('says where a file is damaged and keeps what came before', () => {
		const file = joinBytes([head(1), track('00 f0 03 7d 01 f7 00 f0 7f 7d')]);
		const read = readMidiFile(file);
		expect(read.damage[0].reason).toContain('longer than its track');
		expect(messages(file)).toEqual(['f07d01f7', 'f07d …']);
		expect(readMidiFile(file.subarray(0, file.length - 4)).damage).not.toHaveLength(0);
		expect(() => readMidiFile(fromHex('f0 7d f7'))).toThrow('not a MIDI file');
	});

	it('writes what it reads back, byte for byte', () => {
		const message = fc
			.uint8Array({ minLength: 1, maxLength: 400, max: 127 })
			.map((body) => Uint8Array.of(0xf0, ...body, 0xf7));
		fc.assert(
			fc.property(fc.array(message, { maxLength: 12 }), (list) => {
				const read = readMidiFile(writeSysexMidiFile(list));
				expect(read.damage).toEqual([]);
				expect(sysexOfMidiFile(read).map(({ bytes }) => toHex(bytes))).toEqual(
					list.map((bytes) => toHex(bytes))
				);
			})
		);
	});
});
