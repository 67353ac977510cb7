import { describe, expect, it } from 'vitest';
import { wireMs } from '../core/midi';
import { VirtualClock } from '../core/transfer';
import { MidiLink, type PortPair } from './midi-link';

class FakeInput {
	state: 'connected' | 'disconnected' = 'connected';
	onmidimessage: ((event: MIDIMessageEvent) => unknown) | null = null;
	say(...bytes: number[]) {
		this.onmidimessage?.({ data: Uint8Array.from(bytes) } as unknown as MIDIMessageEvent);
	}
}
class FakeOutput {
	state: 'connected' | 'disconnected' = 'connected';
	sent: { bytes: number[]; at: number }[] = [];
	broken = false;
	send(bytes: Uint8Array | number[], at = 0) {
		if (this.broken) throw new Error('InvalidStateError');
		this.sent.push({ bytes: [...bytes], at });
	}
}

function linked(gapMs = 0) {
	const clock = new VirtualClock();
	const input = new FakeInput();
	const output = new FakeOutput();
	const pair = { input, output } as unknown as PortPair;
	const found = { pair };
	const link = new MidiLink('Port', clock, () => found.pair, gapMs);
	const heard: string[] = [];
	const stop = link.listen({
		bytes: (chunk) => heard.push([...chunk].join(' ')),
		unplugged: () => heard.push('unplugged'),
		plugged: () => heard.push('plugged')
	});
	return { clock, input, output, link, heard, found, pair, stop };
}
const message = (length: number, n = 0) =>
	Uint8Array.from([0xf0, 0x7d, ...Array.from({ length: length - 3 }, () => n), 0xf7]);

describe('a link over the browser’s ports', () => {
	it('paces messages at the speed of the wire, with the rest that the adapter needs', () => {
		const { clock, output, link } = linked(10);
		const done: number[] = [];
		for (const n of [1, 2]) link.send(message(100, n), (left) => left && done.push(clock.now()));
		clock.run();
		expect(done.map((at) => Math.round(at * 100) / 100)).toEqual([wireMs(100), 2 * wireMs(100) + 10]);
		expect(output.sent.map(({ bytes }) => bytes.length)).toEqual([100, 100]);
		expect(output.sent[1].at).toBeGreaterThanOrEqual(output.sent[0].at);
	});

	it('gathers pieces until their message is whole', () => {
		const { clock, output, link } = linked();
		const whole = message(50);
		const left: boolean[] = [];
		for (const piece of [whole.subarray(0, 20), whole.subarray(20, 40), whole.subarray(40)]) {
			link.send(piece, (ok) => left.push(ok));
			clock.run();
		}
		expect(left).toEqual([true, true, true]);
		expect(output.sent).toHaveLength(1);
		expect(output.sent[0].bytes).toEqual([...whole]);
	});

	it('hears, and no longer hears after it was closed', () => {
		const { input, link, heard } = linked();
		input.say(0xf0, 1, 0xf7);
		link.close();
		input.say(0xf0, 2, 0xf7);
		expect(heard).toEqual(['240 1 247']);
		expect(link.uses(input)).toBe(true);
	});

	it('tells of ports that go and come back under another id, and forgets what was under way', () => {
		const { clock, link, heard, found, pair } = linked();
		let left: boolean | null = null;
		link.send(message(500), (ok) => (left = ok));
		found.pair = { input: null, output: null };
		link.refresh();
		expect(link.connected).toBe(false);
		clock.run();
		expect(left).toBe(false);
		let refused: boolean | null = null;
		link.send(message(5), (ok) => (refused = ok));
		expect(refused).toBe(false);
		found.pair = pair;
		link.refresh();
		expect(heard).toEqual(['unplugged', 'plugged']);
		const again = { input: new FakeInput(), output: new FakeOutput() };
		found.pair = again as unknown as PortPair;
		link.refresh();
		expect(heard).toEqual(['unplugged', 'plugged', 'unplugged', 'plugged']);
		again.input.say(0xf8);
		expect(heard.at(-1)).toBe('248');
	});

	it('a change that does not concern it changes nothing', () => {
		const { link, heard } = linked();
		link.refresh();
		expect(heard).toEqual([]);
	});

	it('a port that closes between the look and the send counts as gone', () => {
		const { output, link } = linked();
		output.broken = true;
		let left: boolean | null = null;
		link.send(message(5), (ok) => (left = ok));
		expect(left).toBe(false);
	});

	it('tells the monitor of both ways', () => {
		const { input, link } = linked();
		const seen: string[] = [];
		link.watch = (way, bytes) => seen.push(`${way} ${bytes.length}`);
		link.send(message(5), () => undefined);
		input.say(0x90, 60, 1);
		expect(seen).toEqual(['sent 5', 'received 3']);
	});
});
