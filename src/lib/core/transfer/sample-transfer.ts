import {
	handshake,
	joinSample,
	packetCount,
	readHandshake,
	readSampleHeader,
	readSamplePacket,
	sampleHeader,
	samplePackets,
	sampleRequest,
	type Sample,
	type SampleHeader
} from '../sysex';
import type { Conversation } from './conversation';
import type { Reason } from './outcome';
import { CANCELLED, UNPLUGGED } from './reasons';

export interface SampleOutcome {
	status: 'complete' | 'incomplete' | 'refused';
	reason: Reason | null;
	sample: Sample | null;
	packets: number;
	resent: number;
}

/** A sender waits this long for an answer before it goes on without (sample dump standard, “open loop”). */
const OPEN_LOOP_MS = 20;
const HEADER_MS = 2_000;
const SILENCE_MS = 3000;
const TRIES = 8;

const noSample: Reason = {
	code: 'no answer',
	says: 'No sample came.',
	remedy: 'Check the device ID and the sample number, and that the device sends sample dumps.'
};
const turnedDown: Reason = {
	code: 'rejected',
	says: 'The device called the transfer off.',
	remedy: 'Check that it has room for the sample and accepts this number.'
};
const tooOften: Reason = {
	code: 'damaged',
	says: `One packet arrived damaged ${TRIES} times.`,
	remedy: 'Try another cable or adapter.'
};

/** Asks for a sample and receives it packet by packet; damaged packets are asked for again. */
export function* receiveSample(
	deviceId: number,
	number: number,
	progress: (packets: number, of: number) => void
): Conversation<SampleOutcome> {
	const packets: Uint8Array[] = [];
	let header: SampleHeader | null = null;
	let resent = 0;
	let bad = 0;
	const end = (status: SampleOutcome['status'], reason: Reason | null, sample: Sample | null = null) => ({
		status,
		reason,
		sample,
		packets: packets.length,
		resent
	});
	const asked = yield { do: 'send', bytes: sampleRequest(deviceId, number) };
	if (asked.heard === 'unplugged') return end('refused', UNPLUGGED);
	for (;;) {
		const heard = yield { do: 'wait', idleMs: SILENCE_MS };
		if (heard.heard === 'cancelled') return end(header ? 'incomplete' : 'refused', CANCELLED);
		if (heard.heard === 'unplugged') return end(header ? 'incomplete' : 'refused', UNPLUGGED);
		if (heard.heard === 'silence') {
			if (!header) return end('refused', noSample);
			if (++bad > TRIES) return end('incomplete', noSample);
			// The sender waits for an answer that got lost.
			yield { do: 'send', bytes: handshake(deviceId, 'nak', packets.length) };
			continue;
		}
		if (heard.heard === 'broken') {
			if (!header) continue;
			if (++bad > TRIES) return end('incomplete', tooOften);
			resent++;
			yield { do: 'send', bytes: handshake(deviceId, 'nak', packets.length) };
			continue;
		}
		if (heard.heard !== 'message') continue;
		const sign = readHandshake(heard.bytes);
		if (sign?.kind === 'cancel') return end(header ? 'incomplete' : 'refused', turnedDown);
		const found = readSampleHeader(heard.bytes);
		if (found) {
			header = found;
			packets.length = 0;
			yield { do: 'send', bytes: handshake(deviceId, 'ack', 0) };
			if (packetCount(header) === 0) return end('complete', null, joinSample(header, packets));
			continue;
		}
		const packet = readSamplePacket(heard.bytes);
		if (!packet || !header) continue;
		const expected = packets.length & 0x7f;
		if (packet.good && packet.number === expected) {
			packets.push(packet.data);
			bad = 0;
			progress(packets.length, packetCount(header));
			yield { do: 'send', bytes: handshake(deviceId, 'ack', packet.number) };
			if (packets.length === packetCount(header)) return end('complete', null, joinSample(header, packets));
		} else if (packet.good && packet.number === ((packets.length - 1) & 0x7f)) {
			// Sent again because our answer was lost.
			yield { do: 'send', bytes: handshake(deviceId, 'ack', packet.number) };
		} else {
			if (++bad > TRIES) {
				yield { do: 'send', bytes: handshake(deviceId, 'cancel', expected) };
				return end('incomplete', tooOften);
			}
			resent++;
			yield { do: 'send', bytes: handshake(deviceId, 'nak', expected) };
		}
	}
}

/** Sends a sample packet by packet, and again what the device reports as damaged. */
export function* sendSample(
	deviceId: number,
	sample: Sample,
	progress: (packets: number, of: number) => void
): Conversation<SampleOutcome> {
	const packets = samplePackets(deviceId, sample);
	const header = sampleHeader(deviceId, { ...sample, length: sample.words.length });
	let through = 0;
	let resent = 0;
	let answered = false;
	const end = (status: SampleOutcome['status'], reason: Reason | null) => ({
		status,
		reason,
		sample: null,
		packets: through,
		resent
	});
	const all = [header, ...packets];
	/** The number that a handshake about it carries; the header has none of its own. */
	const numberOf = (i: number) => (i === 0 ? null : (i - 1) & 0x7f);
	const tries = new Map<number, number>();
	for (let i = 0; i < all.length;) {
		const sent = yield { do: 'send', bytes: all[i] };
		if (sent.heard === 'unplugged') return end(through > 0 ? 'incomplete' : 'refused', UNPLUGGED);
		const answer = yield* hear(i === 0 ? HEADER_MS : answered ? HEADER_MS : OPEN_LOOP_MS, numberOf(i));
		if (answer.says === 'unplugged') return end('incomplete', UNPLUGGED);
		if (answer.says === 'cancelled') {
			yield { do: 'send', bytes: handshake(deviceId, 'cancel', 0) };
			return end(through > 0 ? 'incomplete' : 'refused', CANCELLED);
		}
		if (answer.says === 'cancel') return end(through > 0 ? 'incomplete' : 'refused', turnedDown);
		if (answer.says === 'ack') answered = true;
		// A device that has answered once is expected to answer always: silence means that a packet was lost.
		if (answer.says === 'ack' || (answer.says === 'silence' && !answered)) {
			if (i > through) progress((through = i), packets.length);
			i++;
			continue;
		}
		resent++;
		tries.set(i, (tries.get(i) ?? 0) + 1);
		if (tries.get(i)! >= TRIES) return end('incomplete', tooOften);
		// What is asked for again may be an earlier packet than this one.
		if (answer.says === 'nak' && i > 0) {
			const back = ((numberOf(i)! - answer.packet) & 0x7f) % 128;
			if (back < i) i -= back;
		}
	}
	return end('complete', null);

	/** The next answer about this packet; what acknowledges another one says nothing of it. */
	function* hear(
		idleMs: number,
		packet: number | null
	): Conversation<{
		says: 'ack' | 'nak' | 'cancel' | 'silence' | 'cancelled' | 'unplugged';
		packet: number;
	}> {
		let patience = idleMs;
		for (;;) {
			const heard = yield { do: 'wait', idleMs: patience };
			if (heard.heard === 'cancelled' || heard.heard === 'unplugged' || heard.heard === 'silence')
				return { says: heard.heard, packet: 0 };
			if (heard.heard !== 'message') continue;
			const sign = readHandshake(heard.bytes);
			if (!sign) continue;
			if (sign.kind === 'wait') patience = 60_000;
			else if (sign.kind !== 'ack' || packet === null || sign.packet === packet)
				return { says: sign.kind, packet: sign.packet };
		}
	}
}
