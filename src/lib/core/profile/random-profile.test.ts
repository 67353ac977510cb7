import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { toHex } from '../midi';
import { PACKINGS } from '../sysex';
import {
	areaOf,
	decodeDump,
	encodeDump,
	isMatch,
	layoutsOf,
	makeSlot,
	matchAny,
	messagesFor,
	readValue,
	writeParameter,
	type Profile,
	type Slot
} from '.';
import { anyMessage } from './message.fixture';
import { anyProfile } from './random-profile.fixture';

const RUNS = Number(process.env.FUZZ_RUNS ?? 120_000) / 100;

/** What may stand in the memory of an area: no value that its packing cannot carry. */
function anyByte(profile: Profile, area: string): (byte: number) => number {
	const parts = layoutsOf(profile).flatMap(({ carrier }) => carrier?.part ?? []);
	const { packing } = (parts.find((part) => part.part !== 'memory' && part.area === area) ??
		parts.find(({ part }) => part === 'memory'))!;
	if (packing === 'plain') return (byte) => byte & 0x7f;
	// A word of two bytes may begin in one record and end in the next.
	return packing.startsWith('pairs') ? (byte) => byte & 0x3f : (byte) => byte;
}

const anySlots = (profile: Profile): fc.Arbitrary<Slot[]> =>
	fc
		.tuple(
			...profile.areas.flatMap(({ id, slots, record }) => {
				const { size } = profile.records[record];
				const fit = anyByte(profile, id);
				return Array.from({ length: slots }, (_, index) =>
					fc
						.uint8Array({ minLength: size, maxLength: size })
						.map((bytes) => makeSlot(profile, id, index, bytes.map(fit)))
				);
			})
		)
		.map((slots) => slots);

const said = ({ area, index, bytes }: Slot) => `${area} ${index} ${toHex(bytes)}`;

describe('any profile', () => {
	it('reads back exactly the memory that it was told to write', () => {
		fc.assert(
			fc.property(
				anyProfile.chain((profile) => fc.tuple(fc.constant(profile), anySlots(profile), fc.nat(15))),
				([profile, slots, deviceId]) => {
					const messages = messagesFor(profile, slots, { deviceId });
					const dump = decodeDump(profile, messages);
					expect(dump.messages.every(({ read }) => read)).toBe(true);
					expect(dump.slots.map(said)).toEqual(slots.map(said));
					expect(encodeDump(profile, dump).map((bytes) => toHex(bytes))).toEqual(
						messages.map((bytes) => toHex(bytes))
					);
				}
			),
			{ numRuns: RUNS }
		);
	});

	it('builds any message that it reads to the same bytes again', () => {
		fc.assert(
			fc.property(
				anyProfile.chain((profile) => fc.tuple(fc.constant(profile), anyMessage(profile))),
				([profile, message]) => {
					const dump = decodeDump(profile, [message]);
					expect(dump.messages[0].read).toBe(true);
					expect(toHex(encodeDump(profile, dump)[0])).toBe(toHex(message));
				}
			),
			{ numRuns: RUNS }
		);
	});

	it('reads no message of another model, and none that was cut, stretched or changed in its frame', () => {
		fc.assert(
			fc.property(
				fc
					.tuple(anyProfile, anyProfile)
					.chain(([one, other]) =>
						fc.tuple(
							fc.constant(one),
							fc.constant(other),
							anyMessage(one),
							anyMessage(other),
							fc.nat(),
							fc.nat(127)
						)
					),
				([one, other, own, foreign, at, byte]) => {
					if (one.model !== other.model) expect(isMatch(matchAny(one, foreign))).toBe(false);
					const place = 1 + (at % (own.length - 2));
					for (const damaged of [
						own.with(place, byte),
						Uint8Array.from([...own.subarray(0, place), ...own.subarray(place + 1)]),
						Uint8Array.from([...own.subarray(0, place), byte, ...own.subarray(place)])
					]) {
						const dump = decodeDump(one, [damaged]);
						// What is read says every byte of it; what is not is kept.
						expect(toHex(encodeDump(one, dump)[0])).toBe(toHex(damaged));
						for (const { area, index } of dump.slots) expect(index).toBeLessThan(areaOf(one, area).slots);
					}
				}
			),
			{ numRuns: RUNS }
		);
	});

	it('writes a value and reads it, and no bit that is not its own', () => {
		fc.assert(
			fc.property(
				anyProfile.chain((profile) =>
					fc.tuple(
						fc.constant(profile),
						fc.constantFrom(...Object.values(profile.records)),
						fc.nat(2),
						fc.nat(),
						fc.infiniteStream(fc.nat(255))
					)
				),
				([, record, which, number, noise]) => {
					const parameter = record.parameters[which];
					const bytes = Uint8Array.from({ length: record.size }, () => noise.next().value as number);
					const [low, high] = parameter.range;
					const value = low + (number % (high - low + 1));
					const written = writeParameter(parameter, bytes, value);
					expect(readValue(parameter, written)).toBe(value);
					// Written back it is as it was, so nothing else was touched.
					const before = readValue(parameter, bytes);
					if (before >= low && before <= high)
						expect(toHex(writeParameter(parameter, written, before))).toBe(toHex(bytes));
				}
			),
			{ numRuns: RUNS }
		);
	});
});

it('has shapes of all kinds in it', () => {
	const kinds = new Set<string>();
	for (const profile of fc.sample(anyProfile, 300))
		for (const { carrier } of layoutsOf(profile)) kinds.add(`${carrier!.part.part} ${carrier!.part.packing}`);
	expect(new Set([...kinds].map((kind) => kind.split(' ')[0]))).toEqual(
		new Set(['body', 'column', 'listed', 'section', 'stream', 'memory'])
	);
	expect(new Set([...kinds].map((kind) => kind.split(' ')[1]))).toEqual(new Set(Object.keys(PACKINGS)));
});
