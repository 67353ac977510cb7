import { describe, expect, it } from 'vitest';
import { profileNamed, workbench } from '../bench/bench.fixture';
import type { Profile } from '../profile';
import { faultsOfSpoilt } from '../profile/spoilt.fixture';
import { Framer } from '../sysex';
import { deskSchema, setSchema } from './set';
import { readBack } from './read-back';
import { toldItself, type ToldItself } from './told-itself';

/** What is understood of all that a unit says while a hand is at its panel. */
function heard(
	id: string,
	turns: number[],
	at: { deviceId: number; channel: number },
	settings = {}
): ToldItself[] {
	const { station, unit, clock, profile } = workbench(id, 2);
	Object.assign(unit.state.settings, settings);
	const ear = toldItself(profile, at)!;
	const framer = new Framer();
	const told: ToldItself[] = [];
	station.listen({
		bytes: (chunk) => {
			for (const { bytes } of framer.push(chunk)) {
				const said = ear(bytes);
				if (said) told.push(said);
			}
		},
		unplugged: () => undefined,
		plugged: () => undefined
	});
	for (const turn of turns) {
		unit.turnTo(turn);
		clock.run(() => false);
	}
	return told;
}

describe('an instrument that tells what a hand chose', () => {
	it('by its own message, which names a slot and no channel', () => {
		expect(heard('vellbrook-orrery', [5, 63, 0], { deviceId: 0, channel: 1 })).toEqual(
			[5, 63, 0].map((program) => ({ channel: null, plays: { msb: null, lsb: null, program } }))
		);
	});

	it('by a program change on its channel, with the bank that it said', () => {
		expect(heard('averill-sconce-2', [7, 40], { deviceId: 0, channel: 3 }, { channel: 3 })).toEqual(
			[7, 40].map((program) => ({ channel: 3, plays: { msb: 0, lsb: null, program } }))
		);
	});

	it('is not heard on another channel, nor under another device ID', () => {
		expect(heard('averill-sconce-2', [7], { deviceId: 0, channel: 2 }, { channel: 3 })).toEqual([]);
		expect(heard('vellbrook-orrery', [7], { deviceId: 1, channel: 1 })).toEqual([]);
	});

	it('says nothing where it is chosen from outside, or asked', () => {
		const { unit, station, clock } = workbench('averill-sconce-2', 2);
		const said: number[] = [];
		station.listen({
			bytes: (chunk) => said.push(...chunk),
			unplugged: () => undefined,
			plugged: () => undefined
		});
		unit.receive(Uint8Array.of(0xc0, 9));
		clock.run(() => false);
		expect(said).toEqual([]);
	});

	it('an ear for one that does not tell is none', () => {
		expect(toldItself(profileNamed('tarnow-parallax'), { deviceId: 0, channel: 1 })).toBeNull();
	});

	it('does not break into what is being read', () => {
		const bench = workbench('averill-sconce-2', 2);
		bench.clock.after(200, () => bench.unit.turnTo(12));
		bench.clock.after(700, () => bench.unit.turnTo(13));
		expect(bench.capture()).toMatchObject({ status: 'complete', missing: [] });
		const other = workbench('vellbrook-orrery', 2);
		other.clock.after(400, () => other.unit.turnTo(12));
		expect(other.capture().status).toBe('complete');
	});
});

describe('how it stands against the desk', () => {
	it('a channel that it names is believed, however many parts it has', () => {
		const none = setSchema.parse({});
		const desk = deskSchema.parse({
			zones: [1, 2].map((channel) => ({
				id: `z${channel}`,
				name: 'Zone',
				player: 'keys',
				to: [{ instrument: 'hall', channel }]
			})),
			parts: [1, 2].map((channel) => ({
				instrument: 'hall',
				channel,
				sound: { name: 'Glass', program: 4, msb: 0 }
			}))
		});
		const plays = { msb: 0, lsb: null, program: 5 };
		expect(readBack(none, desk, 'hall', plays, 2)).toEqual({
			instrument: 'hall',
			state: 'other',
			says: 'it says that it plays program 5, not 4, Glass.',
			said: { channel: 2, selected: plays }
		});
		expect(readBack(none, desk, 'hall', plays).said).toBeNull();
	});
});

describe('a profile that says so', () => {
	const faults = (playing: object, change: (profile: Profile) => void = () => undefined): string =>
		faultsOfSpoilt(profileNamed('vellbrook-orrery'), (profile) => {
			profile.areas[0].playing = playing as Profile['areas'][number]['playing'];
			change(profile);
		}).join(' ');
	it.each<[string, object]>([
		['neither asked, nor', { timeoutMs: 100 }],
		['what it answers is needed', { ask: 'plays-request' }],
		['nobody asks for it', { says: 'plays', tells: 'program-change' }],
		['no “says”', { tells: 'says' }]
	])('%s', (says, playing) => {
		expect(faults({ ask: 'plays-request', says: 'plays' })).toBe('');
		expect(faults({ says: 'plays', tells: 'says' })).toBe('');
		expect(faults(playing)).toContain(says);
	});
	it('needs version 2', () => {
		expect(
			faults({ ask: 'plays-request', says: 'plays', tells: 'says' }, (json) => (json.version = 1))
		).toContain('version');
	});
});
