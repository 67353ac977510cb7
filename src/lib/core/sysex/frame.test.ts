import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromHex, joinBytes, toHex } from '../midi';
import { Framer, frameAll, type FrameEvent } from './frame';

const summary = (events: FrameEvent[]) =>
	events.map(
		(event) =>
			`${event.kind}${event.kind === 'broken' ? ` ${event.reason}` : ''} @${event.offset} ${toHex(event.bytes)}`
	);

describe('framer', () => {
	it.each([
		['a whole message', 'f0 7d 01 f7', ['sysex @0 f07d01f7']],
		[
			'real-time bytes inside a message, passed on first',
			'f0 7d f8 01 fe f7',
			['realtime @2 f8', 'realtime @4 fe', 'sysex @0 f07d01f7']
		],
		[
			'a message cut off by another status',
			'f0 7d 01 90 3c 40',
			['broken cut off @0 f07d01', 'message @3 903c40']
		],
		[
			'a message cut off by the next one',
			'f0 7d 01 f0 7d 02 f7',
			['broken cut off @0 f07d01', 'sysex @3 f07d02f7']
		],
		['a message that the input ends in', 'f0 7d 01', ['broken unfinished @0 f07d01']],
		['running status', '90 3c 40 3e 41', ['message @0 903c40', 'message @3 903e41']],
		['stray data and a stray end', '12 34 f7', ['broken stray @0 1234', 'broken stray @2 f7']],
		[
			'no running status after SysEx',
			'90 3c 40 f0 7d f7 3c',
			['message @0 903c40', 'sysex @3 f07df7', 'broken stray @6 3c']
		],
		[
			'system common messages',
			'f2 01 02 f6 f1 05',
			['message @0 f20102', 'message @3 f6', 'message @4 f105']
		],
		['half a channel message', 'b0 07', ['broken unfinished @0 b007']]
	])('reads %s', (_, hex, expected) => {
		expect(summary(frameAll(fromHex(hex)))).toEqual(expected);
	});

	it('reports an oversized message in pieces, with all its bytes', () => {
		const events = frameAll(fromHex('f0 01 02 03 04 05 06 f7 f0 7d f7'), { maxBytes: 4 });
		expect(summary(events)).toEqual([
			'broken oversized @0 f0010203',
			'broken oversized @4 040506f7',
			'sysex @8 f07df7'
		]);
	});

	it('finds the same in any chunks, and no byte is lost', () => {
		const bytes = fc
			.uint8Array({ maxLength: 300 })
			.map((random) =>
				random.map((byte) => (byte % 5 === 0 ? [0xf0, 0xf7, 0xf8, 0x90, 0xc5][byte % 4] : byte))
			);
		fc.assert(
			fc.property(bytes, fc.array(fc.integer({ min: 1, max: 40 })), (stream, cuts) => {
				const whole = frameAll(stream);
				const framer = new Framer();
				const pieces: FrameEvent[] = [];
				let at = 0;
				for (const cut of [...cuts, stream.length]) {
					pieces.push(...framer.push(stream.subarray(at, at + cut)));
					at += cut;
				}
				pieces.push(...framer.push(stream.subarray(at)), ...framer.end());
				expect(summary(pieces)).toEqual(summary(whole));
				const counted = whole.reduce(
					(sum, event) => sum + event.bytes.length - (event.kind === 'message' && event.running ? 1 : 0),
					0
				);
				expect(counted).toBe(stream.length);
				for (const event of whole)
					if (event.kind === 'sysex')
						expect(event.bytes.slice(1, -1).every((byte) => byte < 0x80)).toBe(true);
			}),
			{ numRuns: 2000 }
		);
	});

	it('tells how much of a message is open', () => {
		const framer = new Framer();
		framer.push(fromHex('f0 7d 01 02'));
		expect(framer.openBytes).toBe(4);
		framer.push(fromHex('f7'));
		expect(framer.openBytes).toBe(0);
	});

	it('keeps nothing of the chunk that it was given', () => {
		const framer = new Framer();
		const chunk = fromHex('f0 7d 01');
		framer.push(chunk);
		chunk.fill(0x7f);
		expect(toHex(joinBytes(framer.push(fromHex('f7')).map(({ bytes }) => bytes)))).toBe('f07d01f7');
	});
});
