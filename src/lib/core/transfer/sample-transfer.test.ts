import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faultSchema } from '../bench';
import {
	Framer,
	describeUniversal,
	handshake,
	joinSample,
	readSamplePacket,
	samplePackets,
	type Sample
} from '../sysex';
import { receiveSample, sendSample } from '.';
import { bareLine } from './line.fixture';

const sample = (length: number, bits = 16, number = 5): Sample => ({
	number,
	bits,
	periodNs: 22_675,
	loop: { start: 0, end: Math.max(0, length - 1), kind: 'off' },
	words: Uint32Array.from({ length }, (_, i) => (i * 7919) % 2 ** Math.min(bits, 24))
});

describe('sample packets', () => {
	it('carry every word of every width', () => {
		fc.assert(
			fc.property(fc.integer({ min: 8, max: 28 }), fc.integer({ min: 1, max: 400 }), (bits, length) => {
				const before = sample(length, bits);
				const packets = samplePackets(1, before);
				const data = packets.map((bytes) => readSamplePacket(bytes)!);
				expect(data.every(({ good }) => good)).toBe(true);
				expect(describeUniversal(packets[0])).toContain('Sample dump packet 0');
				expect(
					joinSample(
						{ ...before, length },
						data.map((packet) => packet.data)
					)
				).toEqual(before);
			})
		);
	});
});

describe('samples over the wire', () => {
	it.each([
		['a clean line', []],
		['lost bytes on the way here', [{ kind: 'lose bytes', share: 0.0006 }]],
		['flipped bits on the way there', [{ kind: 'flip bits', share: 0.0004, way: 'to device' }]]
	])('are received and sent whole over %s', (_, faults) => {
		const { line, run } = bareLine(3);
		const sampler = line.attachSampler(1);
		sampler.samples.set(5, sample(3000));
		line.faults = faults.map((fault) => faultSchema.parse(fault));
		const received = run(receiveSample(1, 5, () => undefined));
		expect(received.status).toBe('complete');
		expect(received.sample).toEqual(sampler.samples.get(5));
		const sent = run(sendSample(1, sample(3000, 16, 9), () => undefined));
		expect(sent.status).toBe('complete');
		expect(sampler.samples.get(9)).toEqual(sample(3000, 16, 9));
		if (faults.length > 0) expect(received.resent + sent.resent).toBeGreaterThan(0);
	});

	it('what the receiver asks for again is the packet that it names, and acknowledging another one does not count', () => {
		const { line, clock, run } = bareLine();
		const heard: number[] = [];
		let lost = true;
		const framer = new Framer();
		const answer = (kind: 'ack' | 'nak', packet: number) =>
			clock.after(0, () => line.speak(handshake(1, kind, packet)));
		const sampler = {
			receive: (bytes: Uint8Array) => framer.push(bytes).forEach(({ bytes: of }) => take(of))
		};
		function take(message: Uint8Array): void {
			const packet = readSamplePacket(message);
			if (!packet) return void answer('ack', 0);
			heard.push(packet.number);
			// The second packet is acknowledged although it was lost; at the fourth the receiver asks for it.
			if (packet.number === 3 && lost) {
				lost = false;
				return void answer('nak', 1);
			}
			if (packet.number === 5) answer('ack', 4);
			answer('ack', packet.number);
		}
		line.others.push(sampler);
		expect(run(sendSample(1, sample(300), () => undefined))).toMatchObject({ status: 'complete', resent: 1 });
		expect(heard).toEqual([0, 1, 2, 3, 1, 2, 3, 4, 5, 6, 7]);
	});

	it('a sample that is not there is refused', () => {
		const { line, run } = bareLine();
		line.attachSampler(1);
		expect(run(receiveSample(1, 3, () => undefined))).toMatchObject({
			status: 'refused',
			reason: { code: 'rejected' }
		});
		expect(bareLine().run(receiveSample(1, 3, () => undefined))).toMatchObject({
			status: 'refused',
			reason: { code: 'no answer' }
		});
	});

	it('a device that never answers is sent to without waiting', () => {
		const { run } = bareLine();
		expect(run(sendSample(1, sample(500), () => undefined))).toMatchObject({ status: 'complete', resent: 0 });
	});

	it('a line that damages everything ends, and says so', () => {
		const { line, run } = bareLine();
		line.attachSampler(1).samples.set(5, sample(500));
		line.faults = [faultSchema.parse({ kind: 'truncate', afterBytes: 60 })];
		expect(run(receiveSample(1, 5, () => undefined)).status).toBe('incomplete');
	});
});
