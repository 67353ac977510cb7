import { describe, expect, it } from 'vitest';
import { profileNamed, workbench } from '../core/bench/bench.fixture';
import { masterVolume } from '../core/sysex';
import { kindOf, meaning, ratesOf } from './monitor-words';

describe('the monitor', () => {
	it.each([
		[[0x90, 60, 100], 'notes', 'Note on 60 velocity 100, channel 1'],
		[[0xb2, 7, 90], 'control', 'Control change 7 = 90, channel 3'],
		[[0xf8], 'clock', 'Clock'],
		[[0xf2, 0, 0], 'other', 'Song position'],
		[[...masterVolume(0x7f, 16383)], 'exclusive', 'Master volume 100 %, all devices']
	])('%o is of the kind %s and means %s', (bytes, kind, says) => {
		expect(kindOf(Uint8Array.from(bytes))).toBe(kind);
		expect(meaning([], Uint8Array.from(bytes))).toBe(says);
	});

	it('knows the messages of profiles', () => {
		const bench = workbench('ternhill-umbra');
		const [dump] = bench.capture().messages;
		expect(meaning([profileNamed('vellbrook-orrery'), bench.profile], dump)).toBe('Umbra: Bank dump');
	});

	it('counts messages and bytes of the last second by port', () => {
		const passed = [0, 500, 1200, 1900].map((atMs, i) => ({
			number: i,
			atMs,
			port: i % 2 ? 'B' : 'A',
			way: 'received' as const,
			bytes: new Uint8Array(3)
		}));
		expect(ratesOf(passed, 2000)).toEqual([
			{ port: 'A', messages: 1, bytes: 3 },
			{ port: 'B', messages: 1, bytes: 3 }
		]);
	});
});
