import { describe, expect, it } from 'vitest';
import { profileNamed, workbench, shippedProfiles } from '../bench/bench.fixture';
import { fromHex } from '../midi';
import { decodeDump, makeSlot, type Profile } from '../profile';
import { matchRoll } from '../rig';
import { identityReply, type Identity } from '../sysex';
import { capture } from './capture';
import { identify } from './identify';
import { restore } from './restore';

const IDS = ['averill-sconce', 'averill-sconce-2', 'averill-sconce-2-card'] as const;

const identityOf = (version: string): Identity => ({
	deviceId: 0,
	manufacturer: fromHex('7D'),
	family: fromHex('72 00'),
	member: fromHex('01 00'),
	version: fromHex(version)
});

describe.each(IDS)('an instrument that is a %s', (own) => {
	it.each(IDS)('is read and written with the profile %s where that is its own, and else refused', (id) => {
		const bench = workbench(own, 4);
		const profile: Profile = profileNamed(id);
		const before = structuredClone(bench.unit.state.memory);
		const read = bench.run((emit) =>
			capture({ profile, target: bench.target, scope: { kind: 'all' } }, emit)
		);
		const bytes = before.programs[1].slice(0, profile.records.program.size);
		const wanted = [
			makeSlot(profile, 'programs', 0, Uint8Array.from({ ...bytes, length: profile.records.program.size }))
		];
		const wrote = bench.run((emit) => restore({ profile, target: bench.target, wanted }, emit));
		if (id === own) {
			expect(read.status).toBe('complete');
			expect(decodeDump(profile, read.messages).slots.map(({ bytes: held }) => held)).toEqual(
				profile.areas.flatMap(({ id: area }) => before[area])
			);
			expect(wrote.status).toBe('verified');
			return;
		}
		expect(read).toMatchObject({ status: 'refused', messages: [], reason: { code: 'other variant' } });
		expect(wrote).toMatchObject({ status: 'refused', reason: { code: 'other variant' } });
		expect(bench.unit.state.memory).toEqual(before);
	});
});

/** What asking comes to where an identity is answered, and the question after it is followed by this each time. */
function heardAfterQuestion(...comes: Uint8Array[]): string | undefined {
	const asks = identify(profileNamed('averill-sconce-2-card'), { deviceId: 0, channel: 1 });
	let due: Uint8Array[] = [];
	for (let step = asks.next({ heard: 'done' }); ;) {
		if (step.done) return step.value.reason?.code;
		const { value } = step;
		if (value.do === 'send')
			due = value.bytes[1] === 0x7e ? [identityReply(identityOf('02 00 00 00'))] : [...comes];
		const bytes = due.length > 0 && value.do === 'wait' ? due.shift()! : null;
		step = asks.next(
			bytes ? { heard: 'message', bytes } : { heard: value.do === 'wait' ? 'silence' : 'done' }
		);
	}
}

it('calls it another variant by its maker’s word alone: what comes from others while it is silent is no answer', () => {
	expect(heardAfterQuestion()).toBe('no answer');
	expect(heardAfterQuestion(Uint8Array.of(0x90, 60, 1), fromHex('F0 7E 00 06 03 F7'))).toBe('no answer');
	expect(heardAfterQuestion(fromHex('F0 7D 01 F7'))).toBe('other variant');
});

describe('which variant answers the roll', () => {
	const call = (version: string, profileId: string) =>
		matchRoll(
			[{ port: 'Out 1', answer: { identity: identityOf(version), units: 1 } }],
			[{ id: 'd', name: 'Hall keys', profileId, deviceId: 0, port: 'Out 1' }],
			shippedProfiles
		);

	it.each([
		['01 7F 00 00', 'averill-sconce', 'as planned', 'averill-sconce'],
		['02 00 00 00', 'averill-sconce-2', 'as planned', 'averill-sconce-2'],
		// The same versions: which of them it is, was said when it was taken.
		['02 05 00 00', 'averill-sconce-2-card', 'as planned', 'averill-sconce-2-card'],
		['02 00 00 00', 'averill-sconce', 'another variant', 'averill-sconce-2'],
		['01 04 00 00', 'averill-sconce-2-card', 'another variant', 'averill-sconce']
	])('version %s of a device noted as %s: %s, to be read as %s', (version, noted, state, profileId) => {
		expect(call(version, noted).entries).toMatchObject([{ state, profileId, device: { id: 'd' } }]);
		expect(call(version, noted).silent).toEqual([]);
	});

	it('says which it is now, and which its profile is for', () => {
		expect(call('02 00 00 00', 'averill-sconce').entries[0].says).toBe(
			'This is your Hall keys, and it is “firmware 2” now: its profile is for “firmware 1”.'
		);
	});

	it('takes what answers at its port for itself, also where one as it was answers elsewhere', () => {
		const { entries } = matchRoll(
			[
				{ port: 'Out 2', answer: { identity: identityOf('01 04 00 00'), units: 1 } },
				{ port: 'Out 1', answer: { identity: identityOf('02 00 00 00'), units: 1 } }
			],
			[{ id: 'd', name: 'Hall keys', profileId: 'averill-sconce', deviceId: 0, port: 'Out 1' }],
			shippedProfiles
		);
		expect(entries).toMatchObject([
			{ device: null, state: 'unknown' },
			{ device: { id: 'd' }, state: 'another variant' }
		]);
	});

	it('gives an answer to the device that is that variant, not to one that was', () => {
		const { entries } = matchRoll(
			[{ port: 'Out 1', answer: { identity: identityOf('02 00 00 00'), units: 1 } }],
			[
				{ id: 'old', name: 'Old', profileId: 'averill-sconce', deviceId: 0, port: 'Out 1' },
				{ id: 'new', name: 'New', profileId: 'averill-sconce-2', deviceId: 0, port: 'Out 1' }
			],
			shippedProfiles
		);
		expect(entries).toMatchObject([{ device: { id: 'new' }, state: 'as planned' }]);
	});
});
