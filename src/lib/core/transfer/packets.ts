import { handshake, readHandshake } from '../sysex';
import type { Conversation } from './conversation';
import type { Reason } from './outcome';
import { CANCELLED, UNPLUGGED } from './reasons';

/** A sender waits this long for an answer before it goes on without (sample dump standard, “open loop”). */
const OPEN_LOOP_MS = 20;
const HEADER_MS = 2_000;
const SILENCE_MS = 3000;
const TRIES = 8;

const turnedDown: Reason = {
	code: 'rejected',
	says: 'The device called the transfer off.',
	remedy: 'Check that it has room for it, and that it accepts what it is sent now.'
};
const tooOften: Reason = {
	code: 'damaged',
	says: `One packet arrived damaged ${TRIES} times.`,
	remedy: 'Try another cable or adapter.'
};

type Status = 'complete' | 'incomplete' | 'refused';

/** How a kind of transfer in packets that are acknowledged is read. */
export interface PacketKind<H> {
	/** What asks for it; null where the device begins by itself. */
	ask: Uint8Array | null;
	header(bytes: Uint8Array): H | null;
	packet(bytes: Uint8Array): { number: number; data: Uint8Array; good: boolean } | null;
	/** How many packets a header promises; null where only the end says so. */
	count(header: H): number | null;
	/** Whether a message says that this was all. */
	isEnd?(bytes: Uint8Array): boolean;
	/** Why nothing came. */
	nothing: Reason;
	/** How long the first message may take, in ms. */
	patienceMs?: number;
}

export interface Received<H> {
	status: Status;
	reason: Reason | null;
	header: H | null;
	packets: Uint8Array[];
	resent: number;
}

/** Receives packet by packet; damaged ones are asked for again. */
export function* receivePackets<H>(
	deviceId: number,
	kind: PacketKind<H>,
	progress: (packets: number, of: number) => void
): Conversation<Received<H>> {
	const packets: Uint8Array[] = [];
	let header: H | null = null;
	let resent = 0;
	let bad = 0;
	const end = (status: Status, reason: Reason | null): Received<H> => ({
		status,
		reason,
		header,
		packets,
		resent
	});
	const begun = (): Status => (header === null ? 'refused' : 'incomplete');
	if (kind.ask) {
		const asked = yield { do: 'send', bytes: kind.ask };
		if (asked.heard === 'unplugged') return end('refused', UNPLUGGED);
	}
	for (;;) {
		const heard = yield {
			do: 'wait',
			idleMs: header === null ? (kind.patienceMs ?? SILENCE_MS) : SILENCE_MS
		};
		if (heard.heard === 'cancelled') return end(begun(), CANCELLED);
		if (heard.heard === 'unplugged') return end(begun(), UNPLUGGED);
		if (heard.heard === 'silence') {
			if (header === null) return end('refused', kind.nothing);
			if (++bad > TRIES) return end('incomplete', kind.nothing);
			// The sender waits for an answer that got lost.
			yield { do: 'send', bytes: handshake(deviceId, 'nak', packets.length) };
			continue;
		}
		if (heard.heard === 'broken') {
			if (header === null) continue;
			if (++bad > TRIES) return end('incomplete', tooOften);
			resent++;
			yield { do: 'send', bytes: handshake(deviceId, 'nak', packets.length) };
			continue;
		}
		if (heard.heard !== 'message') continue;
		if (readHandshake(heard.bytes)?.kind === 'cancel') return end(begun(), turnedDown);
		const found = kind.header(heard.bytes);
		if (found) {
			header = found;
			packets.length = 0;
			yield { do: 'send', bytes: handshake(deviceId, 'ack', 0) };
			if (kind.count(found) === 0) return end('complete', null);
			continue;
		}
		if (header !== null && kind.isEnd?.(heard.bytes)) {
			const wanted: number | null = kind.count(header);
			if (wanted === null || packets.length === wanted) return end('complete', null);
			return end('incomplete', { ...tooOften, says: 'It ended before all of it had come.' });
		}
		const packet = kind.packet(heard.bytes);
		if (!packet || header === null) continue;
		const expected = packets.length & 0x7f;
		const of: number | null = kind.count(header);
		if (packet.good && packet.number === expected) {
			packets.push(packet.data);
			bad = 0;
			progress(packets.length, of ?? packets.length);
			yield { do: 'send', bytes: handshake(deviceId, 'ack', packet.number) };
			if (packets.length === of && !kind.isEnd) return end('complete', null);
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

export interface Sent {
	status: Status;
	reason: Reason | null;
	/** Packets that went through. */
	through: number;
	resent: number;
}

/** Sends a header and its packets, and again what the device reports as damaged. */
export function* sendPackets(
	deviceId: number,
	header: Uint8Array,
	packets: readonly Uint8Array[],
	progress: (packets: number, of: number) => void
): Conversation<Sent> {
	let through = 0;
	let resent = 0;
	let answered = false;
	const end = (status: Status, reason: Reason | null): Sent => ({ status, reason, through, resent });
	const all = [header, ...packets];
	/** The number that a handshake about it carries; the header has none of its own. */
	const numberOf = (i: number) => (i === 0 ? null : (i - 1) & 0x7f);
	const tries = new Map<number, number>();
	for (let i = 0; i < all.length;) {
		const sent = yield { do: 'send', bytes: all[i] };
		if (sent.heard === 'unplugged') return end(through > 0 ? 'incomplete' : 'refused', UNPLUGGED);
		const answer = yield* hearAbout(numberOf(i), i === 0 || answered ? HEADER_MS : OPEN_LOOP_MS);
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
}

/** The next answer about a packet; what acknowledges another one says nothing of it. */
function* hearAbout(
	packet: number | null,
	idleMs: number
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
