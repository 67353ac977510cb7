import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom, between, type Random } from './bench';
import { shippedProfiles } from './bench/bench.fixture';
import { selfDescribed } from './ci/marl.fixture';
import { isMidiFile, readMidiFile, sameBytes, sysexOfMidiFile, writeSysexMidiFile, joinBytes } from './midi';
import { decodeDump, encodeDump, makeSlot, messagesFor, recogniseDump } from './profile';
import { Problem } from './problem';
import { frameAll, readDumpFile } from './sysex';

const RUNS = Number(process.env.FUZZ_RUNS ?? 120_000);
const seeds = [...shippedProfiles, selfDescribed()].map((profile) => {
	const state = factoryState(profile, seededRandom(12));
	// Some of every area: what it sends first, last and in the middle.
	const messages = profile.areas.map((area) => {
		const all = messagesFor(
			profile,
			state.memory[area.id].map((bytes, i) => makeSlot(profile, area.id, i, bytes)),
			{ deviceId: 0, channel: 1 }
		);
		return [0, all.length >> 1, all.length - 1].flatMap((at) => all[at] ?? []);
	});
	return { profile, messages };
});

/** Random bytes, or a real dump with a few bytes changed, cut out, doubled or put in. */
function input(random: Random): { bytes: Uint8Array; messages: Uint8Array[]; of: (typeof seeds)[number] } {
	const of = seeds[between(random, 0, seeds.length - 1)];
	const area = of.messages[between(random, 0, of.messages.length - 1)];
	const messages = area.slice(0, between(random, 1, area.length));
	let bytes = random() < 0.3 ? writeSysexMidiFile(messages) : joinBytes(messages);
	if (random() < 0.25)
		bytes = Uint8Array.from({ length: between(random, 0, 400) }, () => between(random, 0, 255));
	else if (bytes.length > 700) bytes = bytes.slice(0, between(random, 300, 700));
	for (let i = between(random, 0, 6); i > 0 && bytes.length > 0; i--) {
		const at = between(random, 0, bytes.length - 1);
		const kind = random();
		if (kind < 0.5) bytes[at] = between(random, 0, 255);
		else if (kind < 0.7)
			bytes = joinBytes([bytes.subarray(0, at), bytes.subarray(at + between(random, 1, 20))]);
		else if (kind < 0.85)
			bytes = joinBytes([bytes.subarray(0, at), Uint8Array.of(between(random, 0, 255)), bytes.subarray(at)]);
		else bytes = bytes.slice(0, at);
	}
	return { bytes, messages, of };
}

describe(`${RUNS} random and mutated inputs`, () => {
	it(
		'framer, file readers and decoder never crash, never hang, lose nothing silently',
		() => {
			const random = seededRandom(2026);
			const tally = { framed: 0, broken: 0, files: 0, refused: 0, decoded: 0 };
			for (let run = 0; run < RUNS; run++) {
				const { bytes, of } = input(random);
				// Every byte is in exactly one event.
				let counted = 0;
				for (const event of frameAll(bytes, { maxBytes: 300 })) {
					counted += event.bytes.length - (event.kind === 'message' && event.running ? 1 : 0);
					if (event.kind === 'broken') tally.broken++;
					else tally.framed++;
				}
				if (counted !== bytes.length)
					expect.fail(`run ${run}: ${counted} of ${bytes.length} bytes accounted for`);

				const file = readDumpFile(bytes);
				tally.files++;
				// A .syx file is messages and remarks, nothing left out; a .mid file that was cut says so.
				if (file.kind === 'syx') {
					for (const { offset, bytes: found, complete } of file.messages)
						if (complete && bytes[offset] !== 0xf0)
							expect.fail(`run ${run}: a message that does not begin at its offset`);
						else if (complete && (found[0] !== 0xf0 || found.at(-1) !== 0xf7))
							expect.fail(`run ${run}: a complete message without its end`);
				}
				if (isMidiFile(bytes)) sysexOfMidiFile(readMidiFile(bytes));
				else
					try {
						readMidiFile(bytes);
						expect.fail('a file without header was read');
					} catch (error) {
						if (!(error instanceof Problem)) throw error;
						tally.refused++;
					}

				const messages = file.messages.map((message) => message.bytes);
				const dump = decodeDump(of.profile, messages);
				const again = encodeDump(of.profile, dump);
				for (let i = 0; i < messages.length; i++)
					if (!sameBytes(again[i], messages[i])) expect.fail(`run ${run}: message ${i} did not come back`);
				for (const message of dump.messages) if (message.read) tally.decoded++;
				if (run % 16 === 0) recogniseDump(shippedProfiles, messages);
			}
			console.log(`fuzz: ${JSON.stringify(tally)}`);
			expect(tally.decoded).toBeGreaterThan(RUNS / 100);
			expect(tally.broken).toBeGreaterThan(RUNS / 10);
		},
		Math.max(240_000, 3 * RUNS)
	);
});
