import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { profileNamed, shippedProfiles } from '../bench/bench.fixture';
import { fromHex, joinBytes } from '../midi';
import { identityReply, identityRequest } from '../sysex';
import {
	buildMessage,
	decodeDump,
	describeWith,
	isMatch,
	layoutOf,
	makeSlot,
	matchMessage,
	messagesFor,
	recogniseDump,
	type Slot
} from '.';

const parallax = profileNamed('tarnow-parallax');
const umbra = profileNamed('ternhill-umbra');
const state = (profile: typeof parallax) => factoryState(profile, seededRandom(8));
const programs = (profile: typeof parallax, ...indices: number[]): Slot[] =>
	indices.map((index) => makeSlot(profile, 'programs', index, state(profile).memory.programs[index]));

describe('recognising', () => {
	it('counts what a profile reads, what is damaged and what is foreign', () => {
		const [a, b] = messagesFor(parallax, programs(parallax, 3, 4), { deviceId: 5 });
		const damaged = b.slice();
		damaged[30] ^= 1;
		const [best, ...rest] = recogniseDump(shippedProfiles, [a, damaged, fromHex('f0 7d 01 f7')]);
		expect(rest).toEqual([]);
		expect(best).toMatchObject({ read: 1, foreign: 1, deviceIds: [5] });
		expect(best.damaged).toBe(1);
		expect(best.firstDamaged).toMatchObject([{ index: 1, why: { why: 'checksum' } }]);
		expect(best.firstDamaged[0].why.says).toMatch(/checksum \d+, the data give \d+/);
	});

	it('finds nothing in what no model sends', () => {
		expect(recogniseDump(shippedProfiles, [fromHex('f0 43 00 f7')])).toEqual([]);
		expect(recogniseDump(shippedProfiles, [])).toEqual([]);
	});

	it('the last of several messages for one slot counts', () => {
		const [old] = messagesFor(parallax, programs(parallax, 3), { deviceId: 0 });
		const newer = buildMessage(
			parallax,
			'program-dump',
			{ deviceId: 0, slot: 3 },
			state(parallax).memory.programs[9]
		);
		const { slots, messages } = decodeDump(parallax, [old, newer]);
		expect(messages).toHaveLength(2);
		expect(slots).toHaveLength(1);
		expect(slots[0].bytes).toEqual(state(parallax).memory.programs[9]);
	});
});

describe('the fewest bytes for a set of slots', () => {
	it('single programs for a few, a bank for all', () => {
		expect(messagesFor(umbra, programs(umbra, 1, 2), { deviceId: 0 })).toHaveLength(2);
		const all = messagesFor(umbra, programs(umbra, ...Array.from({ length: 50 }, (_, i) => i)), {
			deviceId: 0
		});
		expect(all).toHaveLength(1);
		expect(decodeDump(umbra, all).slots).toHaveLength(50);
	});

	it('nothing where a bank would need slots that are not given', () => {
		const orrery = profileNamed('vellbrook-orrery');
		expect(messagesFor(orrery, programs(orrery, 1, 2), { deviceId: 0 })).toEqual([]);
	});
});

describe('a layout', () => {
	it('says why bytes are not its message', () => {
		const [message] = messagesFor(umbra, programs(umbra, 7), { deviceId: 0 });
		const why = (bytes: Uint8Array) => {
			const result = matchMessage(umbra, 'program-dump', bytes);
			return isMatch(result) ? 'match' : `${result.why} at ${result.at}`;
		};
		const change = (at: number, value: number) => message.map((byte, i) => (i === at ? value : byte));
		expect(why(message)).toBe('match');
		expect(why(change(2, 0x65))).toBe('other message at 2');
		expect(why(message.slice(0, 20))).toBe('length at 20');
		expect(why(Uint8Array.of(...message.slice(0, -1), 0, 0xf7))).toContain('length');
		expect(why(change(message.length - 2, message[message.length - 2] ^ 1))).toBe(
			`checksum at ${message.length - 2}`
		);
		expect(why(change(10, 0x90))).toBe('content at 10');
	});

	it('refuses to be built without its variables, and with records of another size', () => {
		expect(() => buildMessage(umbra, 'program-request', { deviceId: 0 })).toThrow('needs a slot');
		expect(() => buildMessage(umbra, 'program-request', { deviceId: 0, slot: 900 })).toThrow('does not fit');
		expect(() => buildMessage(umbra, 'program-dump', { deviceId: 0, slot: 0 }, new Uint8Array(3))).toThrow(
			'holds 42 bytes of memory, not 3'
		);
		expect(() => layoutOf(umbra, 'nothing')).toThrow('has no message “nothing”');
	});

	it('counts groups where the wire carries group numbers', () => {
		const nadir = profileNamed('quillon-nadir');
		const kits = state(nadir).memory.kits.slice(16, 24);
		const message = buildMessage(nadir, 'kit-dump', { deviceId: 0, slot: 16 }, joinBytes(kits));
		expect(message[5]).toBe(2);
		expect(matchMessage(nadir, 'kit-dump', message)).toMatchObject({
			pieces: kits.map((bytes, i) => ({ area: 'kits', slot: 16 + i, at: 0, bytes }))
		});
		expect(
			matchMessage(
				nadir,
				'kit-dump',
				message.map((byte, i) => (i === 5 ? 6 : byte))
			)
		).toMatchObject({ why: 'content' });
	});
});

describe('the meaning of a message, for the log', () => {
	const [dump] = messagesFor(parallax, programs(parallax, 7), { deviceId: 0 });
	const identity = {
		deviceId: 3,
		manufacturer: fromHex('7d'),
		family: fromHex('34 00'),
		member: fromHex('02 00'),
		version: fromHex('01 04 00 00')
	};
	it.each([
		[dump, 'Program dump 07'],
		[fromHex('f0 7d 34 00 20 07 f7'), 'Program request 07'],
		[fromHex('f0 7d 34 00 71 1f f7'), 'Rejected 31'],
		[dump.slice(0, -3), 'Damaged message: 135 bytes, “Program dump” has 136'],
		[identityRequest(), 'Identity request'],
		[identityReply(identity), 'Identity reply: family 34 00, member 02 00, device ID 3'],
		[fromHex('f0 7d 55 f7'), 'System exclusive of non-commercial, 4 bytes'],
		[fromHex('f0 00 20 33 01 f7'), 'System exclusive of manufacturer 00 20 33, 6 bytes'],
		[fromHex('90 3c 40'), 'Note on 60 velocity 64, channel 1'],
		[fromHex('91 3c 00'), 'Note off 60, channel 2'],
		[fromHex('bf 07 7f'), 'Control change 7 = 127, channel 16'],
		[fromHex('c0 05'), 'Program change 5, channel 1'],
		[fromHex('e0 00 40'), 'Pitch bend 0, channel 1'],
		[fromHex('f8'), 'Clock'],
		[fromHex('f2 01 02'), 'Song position'],
		[fromHex('f4'), 'Undefined message f4']
	])('%s', (bytes, meaning) => {
		const told = describeWith(parallax, bytes);
		expect(told.replace(/: \d+ bytes, “Program dump” has \d+/, '')).toBe(
			meaning.replace(/: \d+ bytes, “Program dump” has \d+/, '')
		);
	});
});
