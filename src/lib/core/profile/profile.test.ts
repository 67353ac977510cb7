import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { profileNamed, shippedProfiles } from '../bench/bench.fixture';
import { factoryState, seededRandom } from '../bench';
import { joinBytes, toHex } from '../midi';
import {
	areaLabels,
	buildMessage,
	decodeDump,
	encodeDump,
	formatValue,
	isMatch,
	layoutOf,
	layoutsOf,
	messagesOf,
	slotsTogether,
	makeSlot,
	matchAny,
	messagesFor,
	parseProfile,
	readValue,
	recogniseDump,
	sameFamily,
	writeName,
	writeParameter,
	readName,
	type Profile
} from '.';
import { anyMessage } from './message.fixture';

describe.each(shippedProfiles.map((profile) => [profile.id, profile] as const))(
	'profile %s',
	(_, profile) => {
		it('encodes what it decoded to the same bytes', () => {
			fc.assert(
				fc.property(fc.array(anyMessage(profile), { minLength: 1, maxLength: 4 }), (messages) => {
					const dump = decodeDump(profile, messages);
					expect(dump.messages.every(({ read }) => read)).toBe(true);
					expect(encodeDump(profile, dump).map((bytes) => toHex(bytes))).toEqual(
						messages.map((bytes) => toHex(bytes))
					);
				}),
				{ numRuns: 60 }
			);
		});

		it('keeps damaged messages as they are, and says why', () => {
			fc.assert(
				fc.property(anyMessage(profile), fc.nat(), fc.integer({ min: 0, max: 127 }), (message, at, value) => {
					const damaged = message.slice();
					damaged[1 + (at % (message.length - 2))] = value;
					const dump = decodeDump(profile, [damaged]);
					expect(toHex(encodeDump(profile, dump)[0])).toBe(toHex(damaged));
					const [first] = dump.messages;
					if (!first.read) expect(first.why.says).not.toBe('');
				}),
				{ numRuns: 200 }
			);
		});

		it('notices a lost byte and a changed data byte', () => {
			const state = factoryState(profile, seededRandom(9));
			const slots = profile.areas.flatMap((area) =>
				state.memory[area.id].map((bytes, index) => makeSlot(profile, area.id, index, bytes))
			);
			for (const message of messagesFor(profile, slots, { deviceId: 0, channel: 1 })) {
				// What only calls a slot up has no checksum.
				if (message.length < 20) continue;
				const middle = message.length >> 1;
				const lost = Uint8Array.from([...message.subarray(0, middle), ...message.subarray(middle + 1)]);
				const shorter = matchAny(profile, lost);
				const sent = matchAny(profile, message);
				// Where a message may have any length, a byte that adds nothing to its checksum is not missed by it: it holds less.
				if (isMatch(shorter)) {
					expect(layoutOf(profile, shorter.messageId).varies).toBe(true);
					expect(shorter.memory).toHaveLength(isMatch(sent) ? sent.memory.length - 1 : NaN);
				} else if (isMatch(sent) && !layoutOf(profile, sent.messageId).varies)
					expect(shorter.why).toBe('length');
				// Where the checksum is over a whole dump, one message of it has none.
				const overAll = profile.capture.some(
					(way) => way.total && isMatch(sent) && messagesOf(way.expect).includes(sent.messageId)
				);
				if (overAll) continue;
				const flipped = message.slice();
				flipped[middle] ^= 0x04;
				const result = matchAny(profile, flipped);
				expect(isMatch(result)).toBe(false);
			}
		});

		it('gives each slot of an area a label of its own', () => {
			for (const area of profile.areas) expect(new Set(areaLabels(area)).size).toBe(area.slots);
		});

		it('writes a parameter and reads it back, touching no other', () => {
			for (const record of Object.values(profile.records)) {
				const bytes = new Uint8Array(record.size).fill(0);
				for (const parameter of record.parameters) {
					for (const raw of [parameter.range[0], parameter.range[1]]) {
						const written = writeParameter(parameter, bytes, raw);
						expect(readValue(parameter, written)).toBe(raw);
						const disturbed = record.parameters.filter(
							(other) => other !== parameter && readValue(other, written) !== readValue(other, bytes)
						);
						expect(
							disturbed.map(({ id }) => id),
							parameter.id
						).toEqual([]);
					}
					expect(() => writeParameter(parameter, bytes, parameter.range[1] + 1)).toThrow(parameter.name);
				}
			}
		});

		it('recognises its own dump among all profiles', () => {
			const messages = messagesFor(
				profile,
				// Of every slot, since some sections travel for all of them at once.
				Array.from({ length: profile.areas[0].slots }, (_, index) =>
					makeSlot(
						profile,
						profile.areas[0].id,
						index,
						new Uint8Array(profile.records[profile.areas[0].record].size)
					)
				),
				{ deviceId: 0, channel: 1 }
			);
			const all =
				messages.length > 0
					? messages
					: [
							buildMessage(
								profile,
								layoutsOf(profile)[0].id,
								{ deviceId: 0, slot: 0 },
								joinBytes(
									factoryState(profile, seededRandom(2)).memory[profile.areas[0].id].slice(
										0,
										slotsTogether(profile, layoutsOf(profile)[0].id)
									)
								)
							)
						];
			const found = recogniseDump(shippedProfiles, all);
			// Variants of a model begin their messages alike; none reads more than the one that they are of.
			expect(found[0].read).toBe(found.find(({ profile: one }) => one.id === profile.id)!.read);
			expect(found.filter(({ profile: one }) => !sameFamily(one, profile))).toEqual([]);
			if (!profile.variant) expect(found.map(({ profile: one }) => one.id)).toEqual([profile.id]);
		});
	}
);

describe('the panel’s own way of counting', () => {
	it.each([
		['vellbrook-orrery', 0, '11'],
		['vellbrook-orrery', 63, '88'],
		['tarnow-parallax', 0, '00'],
		['quillon-nadir', 47, '48'],
		['bessel-lantern', 5, '2B']
	])('%s calls slot %i “%s”', (id, index, label) => {
		expect(areaLabels(profileNamed(id).areas[0])[index]).toBe(label);
	});

	it('shows values in units and by name', () => {
		const orrery = profileNamed('vellbrook-orrery').records.program;
		const by = (id: string) => orrery.parameters.find((parameter) => parameter.id === id)!;
		expect(formatValue(by('osc1-tune'), 38)).toBe('\u221212\u00a0ct');
		expect(formatValue(by('osc1-wave'), 2)).toBe('Saw');
		expect(formatValue(by('amp-attack'), 127)).toBe('10.00\u00a0s');
	});

	it('refuses names that the display cannot show', () => {
		const nadir = profileNamed('quillon-nadir');
		const record = nadir.records.kit;
		const blank = new Uint8Array(record.size);
		expect(readName(nadir, record, writeName(nadir, record, blank, 'DUST 2'))).toBe('DUST 2');
		expect(() => writeName(nadir, record, blank, 'NINE SIGNS')).toThrow('display holds 8');
		expect(() => writeName(nadir, record, blank, 'café')).toThrow('cannot show “c”');
	});
});

describe('a faulty profile', () => {
	const good = () => JSON.parse(JSON.stringify(profileNamed('vellbrook-orrery')));
	it.each([
		[
			'an unknown checksum',
			(p: Profile) => Object.assign(p.messages['bank-dump'].parts[4], { checksum: 'magic' }),
			'messages.bank-dump.parts[4].checksum'
		],
		[
			'a checksum over a part that is not there',
			(p: Profile) => Object.assign(p.messages['bank-dump'].parts[4], { from: 'nowhere' }),
			'messages.bank-dump.parts[4].from'
		],
		[
			'a parameter outside its record',
			(p: Profile) => Object.assign(p.records.program.parameters[0], { offset: 400 }),
			'records.program.parameters[0].offset'
		],
		[
			'a message without its end',
			(p: Profile) => p.messages['bank-request'].parts.pop(),
			'messages.bank-request.parts[2]'
		],
		[
			'a way with a message that is not there',
			(p: Profile) => Object.assign(p.capture[0], { expect: 'nothing' }),
			'capture[0].expect'
		],
		['too few labels', (p: Profile) => Object.assign(p.areas[0], { slots: 80 }), 'areas[0].labels'],
		['a word that is not known', (p: Profile) => Object.assign(p, { colour: 'red' }), '(the whole file)']
	])('with %s is told where', (_, spoil, at) => {
		const profile = good();
		spoil(profile);
		try {
			parseProfile(profile);
			expect.unreachable();
		} catch (error) {
			expect(
				(error as { detail: { faults: { at: string }[] } }).detail.faults.map((fault) => fault.at)
			).toContain(at);
		}
	});
});

it('a record whose rows come to more fields than anybody can mean is refused, at once', () => {
	const profile = structuredClone(profileNamed('osier-weir-9')) as unknown as {
		records: { setup: { rows?: object; parameters: object[] } };
	};
	const of = Array.from({ length: 1000 }, (_, i) => ({ id: `x${i}`, name: `X${i}` }));
	profile.records.setup.rows = { a: { stride: 1, of }, b: { stride: 1, of }, c: { stride: 1, of } };
	profile.records.setup.parameters = [
		{ id: 'p', name: 'P', offset: 0, bits: 1, range: [0, 1], each: ['a', 'b', 'c'] }
	];
	expect(() => parseProfile(profile)).toThrow(/more than 20,000 fields/);
});

it('a profile with more packets than it can number is refused: nothing could be sent by it', () => {
	const numbered = (bytes: number, ...packet: object[]) => {
		const profile = structuredClone(profileNamed('keld-tally')) as unknown as {
			messages: { packet: { parts: { part: string; variable?: string }[] } };
		};
		const { parts } = profile.messages.packet;
		const at = parts.findIndex(({ variable }) => variable === 'packet');
		parts.splice(at, 1, ...(packet as typeof parts), { part: 'bytes', bytes: '00', name: 'packet' } as never);
		Object.assign(
			parts.find(({ part }) => part === 'stream')!,
			{ bytes }
		);
		return () => parseProfile(profile);
	};
	const inBits = (bits: number, more: object) => ({
		part: 'bits',
		fields: [
			{ bits: 7 - bits, value: 0 },
			{ bits, variable: 'packet', ...more }
		]
	});
	const one = { part: 'variable', variable: 'packet' };
	// Patterns of 200 bytes.
	expect(numbered(2, one)).not.toThrow();
	expect(numbered(1, one)).toThrow(/there are 200 packets, and their number does not fit/);
	expect(numbered(2, { ...one, add: 28 })).not.toThrow();
	expect(numbered(2, { ...one, add: 29 })).toThrow(/100 packets/);
	expect(numbered(1, { ...one, divide: 2 }, inBits(1, { modulo: 2 }))).not.toThrow();
	expect(numbered(1, inBits(6, { divide: 3 }), { ...one, modulo: 3 })).toThrow(/200 packets/);
});
