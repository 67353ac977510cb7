import { describe, expect, it } from 'vitest';
import { playThrough } from './play-through';
import { setupSchema } from './setup';

const setup = setupSchema.parse({
	players: [
		{ id: 'upper', name: 'Upper', sends: 1 },
		{ id: 'lower', name: 'Lower', sends: 3 }
	],
	instruments: [
		{ id: 'm', name: 'Module', voices: 2 },
		{ id: 'd', name: 'Drone' }
	],
	zones: [
		{ id: 'lead', name: 'Lead', player: 'upper', to: [{ instrument: 'm', channel: 1 }] },
		{ id: 'drone', name: 'Drone', player: 'lower', struck: [90, 127], to: [{ instrument: 'd', channel: 1 }] }
	]
});
const at = (atMs: number, ...message: number[]) => ({ atMs, bytes: Uint8Array.from(message) });

describe('a stream played through a setup', () => {
	it('says which instrument sounds what, from when until when, and what made no note', () => {
		const played = [
			at(0, 0x90, 60, 100),
			at(10, 0x92, 40, 60),
			at(20, 0x92, 40, 110),
			at(30, 0xb0, 64, 127),
			at(40, 0x80, 60, 0),
			at(50, 0x99, 36, 100),
			at(60, 0xb0, 64, 0),
			at(70, 0x90, 62, 80),
			at(80, 0x90, 64, 80),
			at(90, 0x90, 65, 80),
			at(100, 0x82, 40, 0),
			at(150, 0xf8)
		];
		const { notes, dropped, nobodys, unplayed } = playThrough(setup, played, 200);
		expect(
			notes.map(({ atMs, untilMs, instrument, note, cut }) => [instrument, note, atMs, untilMs, cut])
		).toEqual([
			['m', 60, 0, 60, false],
			['d', 40, 20, 100, false],
			['m', 62, 70, 90, true],
			['m', 64, 80, 200, false],
			['m', 65, 90, 200, false]
		]);
		expect(dropped).toEqual([
			{ atMs: 10, player: 'lower', key: 40, zone: 'drone', instrument: null, why: 'softer' }
		]);
		expect([nobodys, unplayed]).toEqual([1, 0]);
		const aside = { ...setup, zones: setup.zones.map((zone) => ({ ...zone, keys: [61, 127] as const })) };
		expect(playThrough(aside, played, 200)).toMatchObject({ nobodys: 1, unplayed: 3 });
	});
});
