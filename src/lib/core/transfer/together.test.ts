import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { decodeDump, makeSlot, messagesFor, parseProfile, type Profile } from '../profile';
import { faultsOfSpoilt } from '../profile/spoilt.fixture';
import { planCapture } from './asks';
import { slotsInScope } from './scope';
import { planRestore } from './writes';

/** The Thrift: names in a table of their own, kits in messages that only their last one has a checksum for. */
const bench = (seed = 5) => workbench('pellow-thrift', seed);
const { profile } = bench();
const kit = (of: ReturnType<typeof bench>, index: number) =>
	makeSlot(profile, 'kits', index, of.unit.state.memory.kits[index]);
const json = () => JSON.parse(JSON.stringify(profile)) as Profile;
const faultsOf = (spoil: (profile: Profile) => void): string[] => faultsOfSpoilt(profile, spoil);

describe('a name in another record than the sound', () => {
	it('is asked for once, for all slots', () => {
		const { asks } = planCapture(profile, slotsInScope(profile, { kind: 'all' }));
		expect(asks.filter(({ way }) => way.expect === 'names')).toHaveLength(1);
		expect(asks).toHaveLength(1 + 24);
		const { asks: one } = planCapture(profile, new Map([['kits', [7]]]));
		expect(one.map(({ way }) => way.expect)).toEqual(['names', ['voices', 'steps']]);
	});

	it('alone changed, is written in one message, and no kit', () => {
		const now = bench();
		const wanted = [2, 9].map((index) => kit(now, index));
		for (const index of [2, 9]) now.unit.rename('kits', index, 'Mislaid');
		const before = structuredClone(now.unit.state.memory.kits);
		now.trace.length = 0;
		expect(now.restore({ wanted })).toMatchObject({ status: 'verified' });
		expect(now.unit.state.memory.kits[2]).toEqual(wanted[0].bytes);
		expect(now.unit.state.memory.kits.filter((_, i) => ![2, 9].includes(i))).toEqual(
			before.filter((_, i) => ![2, 9].includes(i))
		);
		const written = now.trace.filter(
			({ way, bytes }) => way === 'sent' && [0x11, 0x12, 0x13, 0x20].includes(bytes[4])
		);
		expect(written.map(({ bytes }) => bytes[4])).toEqual([0x11]);
	});

	it('stays at home where only the sound changed', () => {
		const { writes } = planRestore(
			profile,
			new Map([['kits', [4]]]),
			() => true,
			(_, { at }) => at >= 10
		);
		expect(writes.map(({ way, parcels }) => [way.begin, parcels.length])).toEqual([['begin', 2]]);
	});

	it('cannot leave for one slot by itself: a file needs all of them', () => {
		const of = bench();
		expect(messagesFor(profile, [kit(of, 3)], { deviceId: 0, channel: 1 })).toEqual([]);
		const all = Array.from({ length: 24 }, (_, i) => kit(of, i));
		const messages = messagesFor(profile, all, { deviceId: 0, channel: 1 });
		expect(messages).toHaveLength(1 + 2 * 24);
		expect(decodeDump(profile, messages).slots.map(({ bytes }) => bytes)).toEqual(
			all.map(({ bytes }) => bytes)
		);
	});

	it('is said of by no other message', () => {
		expect(
			faultsOf(({ messages }) => Object.assign(messages.voices.parts[4], { section: 'name' }))
		).toContainEqual(expect.stringContaining('carries the same section of one slot'));
		expect(
			faultsOf(({ messages }) =>
				messages.voices.parts.splice(4, 1, {
					part: 'body',
					area: 'kits',
					records: 1,
					packing: '7in8-first-low'
				})
			)
		).toContainEqual(expect.stringContaining('carries whole records of this area'));
		expect(faultsOf(({ messages }) => Object.assign(messages.names.parts[3], { records: 5 }))).toContainEqual(
			expect.stringContaining('24 slots cannot be cut into messages of 5')
		);
		expect(
			faultsOf(({ messages }) => Object.assign(messages.names.parts[3], { section: 'nothing' }))
		).toContain('there is no section “nothing”');
	});
});

describe('a checksum over a whole dump', () => {
	it('finds what no message of it could, and the dump is asked for again', () => {
		let found = 0;
		let whole = 0;
		for (let seed = 1; seed <= 12; seed++) {
			const of = bench(seed);
			of.station.faults = [{ kind: 'flip bits', way: 'from device', share: 0.0006 }];
			const outcome = of.capture();
			for (const slot of decodeDump(profile, outcome.messages).slots)
				expect(slot.bytes).toEqual(of.unit.state.memory.kits[slot.index]);
			if (outcome.status === 'complete') whole++;
			if (of.events.some((event) => event.event === 'retry' && event.says.startsWith('checksum over all')))
				found++;
		}
		expect(found).toBeGreaterThan(3);
		expect(whole).toBeGreaterThan(3);
	});

	it('that never comes leaves the dump unread', () => {
		const of = bench();
		const short = json();
		// The device says its end by a message that this profile does not know.
		Object.assign(short.messages.end.parts[2], { bytes: '1E' });
		const outcome = of.capture({ profile: parseProfile(short) });
		expect(outcome.status).not.toBe('complete');
		expect(outcome.missing[0].why).toContain('did not come');
	});

	it('is sent with a dump, and a wrong one is not taken', () => {
		const of = bench();
		const wanted = [kit(bench(6), 5)];
		expect(of.restore({ wanted })).toMatchObject({ status: 'verified' });
		const wrong = json();
		for (const way of [...wrong.restore, ...wrong.capture])
			if (way.total) way.total = { checksum: 'sum-7', over: 'memory' };
		const spoilt = parseProfile({ ...wrong, capture: profile.capture });
		const before = structuredClone(of.unit.state.memory);
		expect(of.restore({ wanted: [kit(bench(7), 5)], profile: spoilt }).status).not.toBe('verified');
		expect(of.unit.state.memory.kits[5].subarray(10)).toEqual(before.kits[5].subarray(10));
	});

	it('is said by what ends the dump, or it is a fault', () => {
		const says = 'no message that ends the dump says it as “total”';
		expect(faultsOf(({ messages }) => messages.end.parts.splice(4, 1))).toContain(says);
		expect(faultsOf(({ restore }) => delete restore[1].end)).toContain(says);
		expect(
			faultsOf(({ capture }) =>
				Object.assign(capture[1], { start: { by: 'panel', instruction: 'Send.', waitMs: 100 } })
			)
		).toContain('what is started by hand says no checksum over all of it');
	});
});
