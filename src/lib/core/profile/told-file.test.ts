import { describe, expect, it } from 'vitest';
import { profileNamed, shippedProfiles, workbench } from '../bench/bench.fixture';
import { joinBytes, wholeMessages, writeSysexMidiFile } from '../midi';
import { readDumpFile } from '../sysex';
import { PIECES } from '../steps';
import { decodeDump, lookingForTold, recogniseDump, splitDump, withToldStates } from '.';

const profile = profileNamed('corrie-sallow');

/** What its simulated panel sends when its button is pressed, as whole channel messages. */
function pressed(channel = 1): Uint8Array[] {
	const { unit, station, clock } = workbench('corrie-sallow', 6);
	unit.state.settings.channel = channel;
	const chunks: Uint8Array[] = [];
	station.listen({
		bytes: (chunk) => chunks.push(chunk.slice()),
		unplugged: () => undefined,
		plugged: () => undefined
	});
	unit.dump();
	clock.run(() => false);
	return [joinBytes(chunks)];
}
const memory = () => workbench('corrie-sallow', 6).unit.state.memory.panel[0];
const files = (channel?: number): [string, Uint8Array][] => {
	const bytes = joinBytes(pressed(channel));
	// Every message of a program change has two bytes, every other three.
	const messages: Uint8Array[] = [];
	for (let at = 0; at < bytes.length;) {
		const length = bytes[at] >> 4 === 0xc ? 2 : 3;
		messages.push(bytes.subarray(at, at + length));
		at += length;
	}
	return [
		['syx', bytes],
		['mid', writeSysexMidiFile(messages.flatMap(wholeMessages))]
	];
};
const read = (file: Uint8Array) => withToldStates(readDumpFile(file), shippedProfiles);

describe('a file with the state of an instrument that tells it value by value', () => {
	it.each(['syx', 'mid'])('is read as its panel stood: .%s', (kind) => {
		for (const channel of [1, 7]) {
			const { messages } = read(new Map(files(channel)).get(kind)!);
			const bytes = messages.map((message) => message.bytes);
			expect(decodeDump(profile, bytes).slots).toMatchObject([{ area: 'panel', index: 0, bytes: memory() }]);
			expect(recogniseDump(shippedProfiles, bytes)[0]).toMatchObject({
				profile: { id: 'corrie-sallow' },
				read: 18
			});
			expect(splitDump(shippedProfiles, bytes)).toHaveLength(1);
		}
	});

	it('is looked for in steps, however often a knob was turned', () => {
		const [[, whole]] = files();
		const turned = Uint8Array.from({ length: 3 * 99_500 }, (_, i) => [0xb4, 14, (i / 3) & 0x7f][i % 3]);
		const looking = lookingForTold(readDumpFile(joinBytes([whole, turned])), shippedProfiles);
		let steps = 0;
		let step = looking.next();
		for (; !step.done; step = looking.next()) steps++;
		// The one on its own channel is found all the same.
		expect(step.value.messages).toHaveLength(18);
		expect(steps).toBeGreaterThan(99_000 / PIECES);
	});

	it('is none where a value is missing, comes twice, or is spread over channels', () => {
		const [[, whole]] = files();
		const tune = [0xb0, 14, 3];
		expect(read(whole.subarray(3)).messages).toEqual([]);
		expect(read(Uint8Array.from([...whole, ...tune])).messages).toEqual([]);
		expect(read(Uint8Array.from([0xb4, ...whole.subarray(1)])).messages).toEqual([]);
		expect(read(whole).messages).toHaveLength(18);
	});

	it('stands beside exclusive messages, in the order of the file', () => {
		const [[, whole]] = files();
		const other = [0xf0, 0x7d, 1, 2, 0xf7];
		const { messages } = read(Uint8Array.from([...other, ...whole, ...other]));
		expect(messages).toHaveLength(20);
		expect(messages[0].bytes).toEqual(Uint8Array.from(other));
		expect(messages.at(-1)!.bytes).toEqual(Uint8Array.from(other));
	});
});
