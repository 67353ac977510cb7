import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recordingOf } from '../control';
import { readMidiFile, toHex, writeMidiFile } from '../midi';
import { nothingHeld } from './held';
import { sceneChange } from './scene-change';
import { sceneFile } from './scene-file';
import { deskOf, setSchema } from './set';

const set = setSchema.parse({
	setup: {
		instruments: [
			{ id: 'a', name: 'A', restMs: 30 },
			{ id: 'b', name: 'B' },
			{ id: 'c', name: 'C' }
		],
		players: [{ id: 'p', name: 'P' }],
		zones: [
			{
				id: 'z',
				name: 'Z',
				player: 'p',
				to: ['a', 'b', 'c'].map((instrument, i) => ({ instrument, channel: i + 1 }))
			}
		]
	},
	parts: ['a', 'b', 'c'].map((instrument, i) => ({
		instrument,
		channel: i + 1,
		sound: { name: 'S', program: i, msb: 1, lsb: 2 },
		volume: 80
	})),
	messages: [{ instrument: 'a', channel: null, says: 'all', bytes: 'f07d010203f7' }]
});
const line = (id: string) => (id === 'c' ? null : id === 'a' ? 'Out 1' : 'Out 2');

describe('a scene as a file', () => {
	const change = sceneChange(set, nothingHeld, deskOf(set), { line });

	it('plays every message that is sent at its time, a track a wire', () => {
		const file = sceneFile(change, 'mid');
		const { heard, damage } = recordingOf(file);
		expect(damage).toEqual([]);
		const hex = (bytes: ArrayLike<number>) => toHex(Uint8Array.from(bytes));
		// A tick is about a millisecond.
		const rounded = (ms: number) => Math.round(ms * 0.96);
		expect(heard.map(({ atMs, bytes }) => `${rounded(atMs)} ${hex(bytes)}`).sort()).toEqual(
			change.messages.map(({ atMs, bytes }) => `${rounded(atMs)} ${hex(bytes)}`).sort()
		);
		expect(change.messages.length).toBeGreaterThan(8);
		const names = readMidiFile(file).tracks.map((track) =>
			track
				.filter(({ kind, data }) => kind === 'meta' && data[0] === 3)
				.map(({ data }) => new TextDecoder().decode(data.subarray(1)))
				.join()
		);
		expect(names).toEqual(['Out 1', 'Out 2']);
	});

	it('as bytes, in the order of time', () => {
		expect(toHex(sceneFile(change, 'syx'))).toBe(
			change.messages.map(({ bytes }) => toHex(Uint8Array.from(bytes))).join('')
		);
	});

	it('with nothing to send is a file that plays nothing', () => {
		const none = sceneChange(set, change.held, deskOf({ ...set, messages: [] }), { line });
		expect(none.messages).toEqual([]);
		expect(recordingOf(sceneFile(none, 'mid'))).toMatchObject({ heard: [], damage: [] });
	});
});

it('whatever is written is read back: channel messages, SysEx, system common, at their ticks', () => {
	const data = fc.integer({ min: 0, max: 127 });
	const message = fc.oneof(
		fc.tuple(fc.integer({ min: 0x80, max: 0xbf }), data, data).map((bytes) => bytes as number[]),
		fc.tuple(fc.integer({ min: 0xc0, max: 0xdf }), data).map((bytes) => bytes as number[]),
		fc.array(data, { maxLength: 300 }).map((bytes) => [0xf0, ...bytes, 0xf7])
	);
	fc.assert(
		fc.property(
			fc.array(fc.array(fc.tuple(fc.integer({ min: 0, max: 50_000 }), message), { maxLength: 8 }), {
				minLength: 1,
				maxLength: 4
			}),
			(tracks) => {
				const sorted = tracks.map((track) => [...track].sort(([a], [b]) => a - b));
				const file = writeMidiFile(
					sorted.map((track) => ({
						messages: track.map(([atMs, bytes]) => ({ atMs, bytes: Uint8Array.from(bytes) })),
						untilMs: 60_000
					}))
				);
				const { heard, untilMs, damage } = recordingOf(file);
				expect(damage).toEqual([]);
				expect(Math.round(untilMs)).toBe(60_000);
				const told = (atMs: number, bytes: ArrayLike<number>) =>
					`${Math.round(atMs * 0.96)} ${Array.from(bytes).join()}`;
				expect(heard.map(({ atMs, bytes }) => told(atMs, bytes)).sort()).toEqual(
					sorted.flatMap((track) => track.map(([atMs, bytes]) => told(atMs, bytes))).sort()
				);
			}
		)
	);
});
