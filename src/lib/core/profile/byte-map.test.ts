import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { workbench, shippedProfiles, profileNamed } from '../bench/bench.fixture';
import { factoryState, seededRandom } from '../bench';
import { sameBytes } from '../midi';
import {
	buildMessage,
	byteMap,
	isMatch,
	matchAny,
	meaningOf,
	makeSlot,
	messagesFor,
	parseProfile,
	readValue,
	writeParameter,
	type ByteSpan,
	type Slot
} from '.';

describe.each(shippedProfiles.map((profile) => [profile.id, profile] as const))(
	'the byte map of a %s',
	(_, profile) => {
		const area = profile.areas[0].id;
		const slots = factoryState(profile, seededRandom(8)).memory[area].map((bytes, i) =>
			makeSlot(profile, area, i, bytes)
		);
		const dumpOf = (of: Slot[]) =>
			messagesFor(profile, of, { deviceId: 1, channel: 1 }).filter((bytes) => {
				// What only calls a slot up says nothing of it.
				const match = matchAny(profile, bytes);
				return isMatch(match) && match.memory.length > 0;
			});
		const messages = dumpOf(slots);
		const [message] = messages;

		it('covers every byte exactly once, and reads names and checksum', () => {
			const map = byteMap(profile, message);
			expect(map.fault).toBeNull();
			let at = 0;
			for (const { start, length } of map.spans) {
				expect(start).toBe(at);
				at += length;
			}
			expect(at).toBe(message.length);
			expect(map.names[0]?.name ?? null).toBe(slots[0].name);
			for (const span of map.spans) if (span.kind === 'checksum') expect(span.right).toBe(true);
		});

		it('marks the bytes that a parameter changes as that parameter’s', () => {
			const record = profile.records[profile.areas[0].record];
			fc.assert(
				fc.property(fc.nat(record.parameters.length - 1), (p) => {
					const parameter = record.parameters[p];
					const now = readValue(parameter, slots[0].bytes);
					// The lowest bit: it travels in the byte that carries the low bits.
					const other = now === parameter.range[0] ? now + 1 : now - 1;
					const changed = dumpOf([
						makeSlot(profile, area, 0, writeParameter(parameter, slots[0].bytes, other)),
						...slots.slice(1)
					]);
					const at = messages.findIndex((bytes, i) => !sameBytes(bytes, changed[i]));
					const { name } = meaningOf(record, parameter, slots[0].bytes);
					const own = byteMap(profile, messages[at]).spans.filter(({ label }) => label.includes(name));
					const differs = ({ start, length }: ByteSpan) =>
						!sameBytes(
							messages[at].subarray(start, start + length),
							changed[at].subarray(start, start + length)
						);
					expect(own.some(differs)).toBe(true);
				}),
				{ numRuns: 30 }
			);
		});
	}
);

it('a byte map of a dump that names no slot does not say that it is of one', () => {
	const weir = profileNamed('osier-weir-9');
	const [setup] = factoryState(weir, seededRandom(8)).memory.setups;
	const map = byteMap(weir, buildMessage(weir, 'setup', { deviceId: 0 }, setup));
	expect(map.names.map(({ label }) => label)).toEqual(['setup on the panel']);
});

describe('a byte map of what does not fit', () => {
	const { profile, unit } = workbench('ternhill-umbra');
	const [message] = messagesFor(profile, [makeSlot(profile, 'programs', 0, unit.state.memory.programs[0])], {
		deviceId: 1,
		channel: 1
	});

	it('shows a wrong checksum as wrong, and what it should be', () => {
		const map = byteMap(profile, message.with(10, message[10] ^ 1));
		expect(map.spans.find(({ kind }) => kind === 'checksum')).toMatchObject({ right: false });
		expect(map.fault).toMatchObject({ why: 'checksum' });
	});

	it('claims of every record only what the profile describes of it, however many a message holds', () => {
		const json = JSON.parse(JSON.stringify(profileNamed('ternhill-umbra')));
		const { unit } = workbench('ternhill-umbra', 3);
		json.records.program.parameters = [];
		json.records.program.category = undefined;
		const bare = parseProfile(json);
		const slots = unit.state.memory.programs.map((bytes, i) => makeSlot(bare, 'programs', i, bytes));
		const [bank] = messagesFor(bare, slots, { deviceId: 0, channel: 1 });
		const { claimed, total, names } = byteMap(bare, bank);
		expect(names).toHaveLength(50);
		// Frame, device ID, command and checksum: eight bytes. Of each program its name of twelve letters, seven bytes as eight:
		// as it lies in its bank, 13 to 15 bytes carry some of it.
		expect(claimed).toBeGreaterThanOrEqual(8 + 50 * 13);
		expect(claimed).toBeLessThanOrEqual(8 + 50 * 15);
		expect(total).toBe(bank.length);
	});

	it('shows bytes too many as unclaimed', () => {
		const long = Uint8Array.of(...message.subarray(0, -1), 1, 2, 3, 0xf7);
		expect(byteMap(profile, long).claimed).toBeLessThan(long.length);
	});

	it('another model’s message is unclaimed altogether', () => {
		const map = byteMap(profileNamed('vellbrook-orrery'), message);
		expect(map.spans.every(({ kind }) => kind === 'unclaimed') || map.fault !== null).toBe(true);
	});
});
