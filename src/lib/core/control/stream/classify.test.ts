import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom, between } from '../../bench';
import { joinBytes, writeSysexMidiFile } from '../../midi';
import { frameAll } from '../../sysex';
import { crossing, leftOpen, play, playable, playTogether, toldOf } from './hands.fixture';
import { classify, recordingOf, type HeardControl, type HeardMessage } from './index';

const CLOCK = Uint8Array.of(0xf8);
const SENSING = Uint8Array.of(0xfe);

const cc = (values: readonly number[], gapMs = 20, number = 7): HeardMessage[] =>
	values.map((value, i) => ({ atMs: i * gapMs, bytes: Uint8Array.of(0xb2, number, value) }));
const only = (heard: readonly HeardMessage[]): HeardControl => {
	const found = classify(heard);
	expect(found).toHaveLength(1);
	return found[0];
};
const range = (from: number, to: number) =>
	Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => from + Math.sign(to - from) * i);

/** The same messages as one stream of bytes, with running status, and pulses of the clock between any two bytes. */
function onTheWire(heard: readonly HeardMessage[], random: () => number): Uint8Array {
	const out: Uint8Array[] = [];
	let running = 0;
	for (const { bytes } of heard) {
		const short = bytes[0] === running && bytes[0] < 0xf0;
		running = bytes[0] < 0xf0 ? bytes[0] : 0;
		for (const byte of short ? bytes.subarray(1) : bytes) {
			if (random() < 0.1) out.push(random() < 0.5 ? CLOCK : SENSING);
			out.push(Uint8Array.of(byte));
		}
	}
	return joinBytes(out);
}

describe('what a control is, from what it sends', () => {
	it('tells at least 99 of 100 controls that are moved at once, and claims nothing wrong of the others', () => {
		let [all, right] = [0, 0];
		for (let seed = 1; seed <= 1200; seed++) {
			const played = playTogether(seededRandom(seed), 6);
			const found = classify(crossing(played));
			for (const each of played) {
				all++;
				if (toldOf(found, each)) right++;
				else expect(leftOpen(found, each)).toBe(true);
			}
		}
		expect(all).toBeGreaterThan(3000);
		expect(right / all).toBeGreaterThanOrEqual(0.99);
	});

	it('counts every message of a control, and none of another', () => {
		fc.assert(
			fc.property(fc.nat(), (seed) => {
				const played = playTogether(seededRandom(seed), 8);
				const found = classify(crossing(played));
				expect(found.reduce((sum, { messages }) => sum + messages, 0)).toBe(
					played.reduce((sum, { heard }) => sum + heard.length, 0)
				);
				for (const each of played) {
					const control = toldOf(found, each);
					if (control) expect(control.messages).toBe(each.heard.length);
				}
				expect(found.map(({ control }) => control)).toEqual(found.map((_, i) => i + 1));
			}),
			{ numRuns: 300 }
		);
	});

	it('finds the same in a stream of bytes with running status and clock in between', () => {
		fc.assert(
			fc.property(fc.nat(), (seed) => {
				const random = seededRandom(seed);
				const heard = crossing(playTogether(random, 5));
				const framed = frameAll(onTheWire(heard, random)).filter(({ kind }) => kind !== 'broken');
				// The wire has no times: those of the messages are given back, real time bytes keep the one before.
				let at = -1;
				const again = framed.map(({ kind, bytes }) => {
					if (kind !== 'realtime') at++;
					return { atMs: heard[Math.max(0, at)]?.atMs ?? 0, bytes };
				});
				expect(classify(again)).toEqual(classify(heard));
			}),
			{ numRuns: 150 }
		);
	});

	it('says the range that was played', () => {
		expect(only(cc(range(3, 99)))).toMatchObject({ low: 3, high: 99, resolution: 1, noise: 0, doubt: null });
		expect(only(cc([1, 1, 2, 3, 2, 127, 127, 125, 127]))).toMatchObject({
			kind: 'relative',
			encoding: 'twos-complement',
			low: -3,
			high: 3
		});
		const bend = range(8192, 8300).map((value, i) => ({
			atMs: i * 5,
			bytes: Uint8Array.of(0xe4, value & 127, value >> 7)
		}));
		expect(only(bend)).toMatchObject({ kind: 'pitch-bend', channel: 5, number: null, low: 8192, high: 8300 });
	});

	it.each([
		['one step again and again', [1, 1, 1, 1, 1], 'relative', 20],
		['one step down, in two encodings', [65, 65, 65, 65, 65], 'relative', 20],
		['a single message', [64], 'absolute', 20],
		['a single press that was held', [127, 0], 'toggle', 400],
		['presses as long as the pauses between them', [127, 0, 127, 0], 'toggle', 500],
		['presses that tell no release', [127, 127, 127], 'momentary', 500],
		['a jump from one to the other', [1, 127], 'relative', 20],
		['a quick turn up from 1', [1, 2, 4, 7, 9, 7, 3, 1], 'absolute', 20]
	] as const)('does not claim what is not decided: %s', (_, values, kind, gapMs) => {
		const found = only(cc(values, gapMs));
		expect(found.kind).toBe(kind);
		expect(found.doubt).toMatch(/\.$/);
	});

	it.each([
		['turned back, two’s complement', [1, 1, 1, 127, 127], 'twos-complement'],
		['turned back, sign bit', [65, 65, 1, 1, 1], 'sign-bit'],
		['turned back, offset', [65, 65, 63, 63, 63], 'offset-64']
	] as const)('is decided by going back: %s', (_, values, encoding) => {
		expect(only(cc(values))).toMatchObject({ kind: 'relative', encoding, doubt: null });
	});

	it('knows a knob that flickers at rest from an encoder, and says by how much it does', () => {
		expect(only(cc([64, 65, 64, 65, 64, 65], 300))).toMatchObject({ kind: 'absolute', noise: 1 });
		expect(only(cc([62, 63, 64, 65, 64, 63, 62]))).toMatchObject({ kind: 'absolute', noise: 0 });
	});

	it('takes two knobs whose controllers are 32 apart for two, however they alternate', () => {
		const one = cc(range(0, 100), 10, 1);
		const two = cc(range(100, 0), 10, 33).map(({ atMs, bytes }) => ({ atMs: atMs + 1, bytes }));
		const found = classify([...one, ...two].sort((a, b) => a.atMs - b.atMs));
		expect(found.map(({ kind, number }) => [kind, number])).toEqual([
			['absolute', 1],
			['absolute', 33]
		]);
	});

	it('joins the halves of a value where the coarse one is told only when it changes', () => {
		let high = -1;
		const heard = range(5000, 5600).flatMap((value, i) => {
			const told = value >> 7 === high ? [] : [{ atMs: i * 9, bytes: Uint8Array.of(0xb0, 1, value >> 7) }];
			high = value >> 7;
			return [...told, { atMs: i * 9 + 1, bytes: Uint8Array.of(0xb0, 33, value & 127) }];
		});
		expect(only(heard)).toMatchObject({ kind: 'absolute-14', number: 1, low: 5000, high: 5600, doubt: null });
	});

	it('knows an inverted button by its short time at nought', () => {
		const heard = [0, 500, 1000].flatMap((atMs) => [
			{ atMs, bytes: Uint8Array.of(0xb0, 64, 0) },
			{ atMs: atMs + 90, bytes: Uint8Array.of(0xb0, 64, 127) }
		]);
		expect(only(heard)).toMatchObject({ kind: 'momentary', doubt: null });
	});

	it('claims of no switch that it is held, however often it was pressed', () => {
		fc.assert(
			fc.property(fc.array(fc.integer({ min: 310, max: 900 }), { minLength: 1, maxLength: 7 }), (pauses) => {
				let atMs = 0;
				const heard = [0, ...pauses].map((pause, i) => {
					atMs += pause;
					return { atMs, bytes: Uint8Array.of(0xb0, 64, i % 2 === 0 ? 127 : 0) };
				});
				const { kind, doubt } = only(heard);
				expect(kind === 'toggle' || doubt !== null || pauses.length >= 7).toBe(true);
			})
		);
	});

	it('passes over dumps, which no control sends', () => {
		const dump = { atMs: 0, bytes: Uint8Array.from([0xf0, 0x7d, ...new Array<number>(4000).fill(1), 0xf7]) };
		expect(classify([dump, dump])).toEqual([]);
	});

	it('takes controllers that choose nothing for controllers', () => {
		const found = classify([...cc(range(0, 50), 20, 98), ...cc(range(0, 50), 20, 6)]);
		expect(found.map(({ kind, number }) => [kind, number])).toEqual([
			['absolute', 98],
			['absolute', 6]
		]);
	});

	it('lets a control of each kind that is played alone stand alone', () => {
		for (const kind of playable)
			for (let seed = 0; seed < 20; seed++) {
				const random = seededRandom(seed * 31 + 7);
				const played = play(kind, between(random, 1, 16), 70 + (seed % 20), random);
				expect(classify(played.heard)).toHaveLength(1);
			}
	});
});

describe('a recording', () => {
	/** A file of one track at so many ticks a beat. */
	const file = (division: number, ...events: (number | number[])[]) => {
		const track = Uint8Array.from(events.flat());
		return joinBytes([
			Uint8Array.from([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, division >> 8, division & 255]),
			Uint8Array.from([0x4d, 0x54, 0x72, 0x6b, 0, 0, track.length >> 8, track.length & 255]),
			track
		]);
	};
	const TEMPO = [0, 0xff, 0x51, 3, 0x03, 0xd0, 0x90];

	it('keeps the times of its own tempo, and running status', () => {
		const { heard, damage } = recordingOf(
			file(100, TEMPO, [100, 0xb0, 7, 1], [100, 7, 2], [0, 0xff, 0x2f, 0])
		);
		expect(damage).toEqual([]);
		expect(heard.map(({ atMs, bytes }) => [atMs, [...bytes]])).toEqual([
			[250, [0xb0, 7, 1]],
			[500, [0xb0, 7, 2]]
		]);
	});

	it('counts in time code where the file does', () => {
		// 25 frames a second, 40 ticks a frame: a tick is a millisecond.
		const { heard } = recordingOf(file(0xe728, [100, 0xb0, 7, 1], [0, 0xff, 0x2f, 0]));
		expect(heard.map(({ atMs }) => atMs)).toEqual([100]);
	});

	it('joins SysEx that goes over packets, and says what has no end', () => {
		const { heard, damage } = recordingOf(
			file(96, [0, 0xf0, 2, 0x7d, 1], [0, 0xf7, 2, 2, 0xf7], [0, 0xf0, 1, 0x7d], [0, 0xff, 0x2f, 0])
		);
		expect(heard.map(({ bytes }) => [...bytes])).toEqual([[0xf0, 0x7d, 1, 2, 0xf7]]);
		expect(damage).toEqual(['a SysEx message of track 1 has no end and was left out']);
	});

	it('reads what the app writes', () => {
		const messages = range(0, 30).map((value) => Uint8Array.of(0xf0, 0x7d, 5, value, 0xf7));
		const { heard } = recordingOf(writeSysexMidiFile(messages));
		expect(only(heard)).toMatchObject({ kind: 'sysex', channel: null, messages: 31, low: 0, high: 30 });
	});
});
