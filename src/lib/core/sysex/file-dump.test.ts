import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, joinBytes, toHex } from '../midi';
import {
	endOfFile,
	fileHeader,
	filePackets,
	fileRequest,
	isEndOfFile,
	readFileHeader,
	readFilePacket,
	readFileRequest
} from './file-dump';

describe('file dump', () => {
	it('is laid out as MIDI 1.0 says', () => {
		const file = { type: 'MIDI', name: 'Song', bytes: fromHex('80ff') };
		expect(toHex(fileHeader(0x10, 0x7f, file), ' ')).toBe(
			'f0 7e 10 07 01 7f 4d 49 44 49 02 00 00 00 53 6f 6e 67 f7'
		);
		expect(toHex(fileRequest(0x10, 0x7f, 'MIDI', 'Song'), ' ')).toBe(
			'f0 7e 10 07 03 7f 4d 49 44 49 53 6f 6e 67 f7'
		);
		// The top bits of both bytes, then their sevens; three bytes, less one.
		const sum = [0x7e, 0x10, 0x07, 0x02, 0x00, 0x02, 0x60, 0x00, 0x7f].reduce((all, byte) => all ^ byte, 0);
		expect(toHex(filePackets(0x10, file)[0], ' ')).toBe(
			`f0 7e 10 07 02 00 02 60 00 7f ${sum.toString(16).padStart(2, '0')} f7`
		);
		expect(isEndOfFile(endOfFile(0x10, 3))).toBe(true);
	});

	it('carries any file in packets of 112 bytes', () => {
		fc.assert(
			fc.property(fc.uint8Array({ maxLength: 1000 }), fc.nat(126), (bytes, to) => {
				const packets = filePackets(to, { type: 'BIN ', name: 'x', bytes });
				expect(packets).toHaveLength(Math.ceil(bytes.length / 112));
				const read = packets.map((packet) => readFilePacket(packet)!);
				expect(read.every(({ good, number }, i) => good && number === (i & 127))).toBe(true);
				expect(toHex(joinBytes(read.map(({ data }) => data)))).toBe(toHex(bytes));
				for (const packet of packets) expect(packet.length).toBeLessThanOrEqual(137);
			})
		);
	});

	it('reads headers and requests as they were written', () => {
		fc.assert(
			fc.property(
				fc.string({
					minLength: 0,
					maxLength: 20,
					unit: fc.integer({ min: 32, max: 126 }).map((c) => String.fromCharCode(c))
				}),
				fc.nat(2_000_000),
				(name, length) => {
					const header = readFileHeader(
						fileHeader(1, 2, { type: 'TEXT', name, bytes: { length } as Uint8Array })
					);
					expect(header).toEqual({ to: 1, from: 2, type: 'TEXT', name, length });
					expect(readFileRequest(fileRequest(1, 2, 'TEXT', name))).toEqual({
						to: 1,
						from: 2,
						type: 'TEXT',
						name
					});
				}
			)
		);
	});

	it('reads a name that fills the longest message', () => {
		const name = 'n'.repeat(4_000_000);
		const bytes = Uint8Array.of(...fileHeader(1, 2, { type: 'TEXT', name: '', bytes: new Uint8Array() }));
		const long = joinBytes([
			bytes.subarray(0, -1),
			new Uint8Array(name.length).fill(0x6e),
			Uint8Array.of(0xf7)
		]);
		expect(readFileHeader(long)?.name).toBe(name);
	});

	it('knows a damaged packet, whichever byte of it changed', () => {
		const [packet] = filePackets(3, {
			type: 'BIN ',
			name: '',
			bytes: Uint8Array.from({ length: 50 }, (_, i) => i * 5)
		});
		for (let at = 5; at < packet.length - 1; at++)
			expect(readFilePacket(packet.with(at, packet[at] ^ 1))?.good, String(at)).toBe(false);
		expect(readFilePacket(Uint8Array.from([...packet.subarray(0, 20), ...packet.subarray(21)]))?.good).toBe(
			false
		);
	});
});
