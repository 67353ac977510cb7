import { BYTE_MS, isRealTime } from '../../midi';

/** Microseconds that a byte takes on a 31,250 bit/s wire: ten bits of 32 µs. */
export const BYTE_US = BYTE_MS * 1000;

/** Messages on their way to one port, in the order of their times. Columns, because there may be a million. */
export interface LineTraffic {
	/** When each is handed to the port, µs, counting up. */
	atUs: Float64Array;
	/** Its status byte. Real-time bytes (F8–FF) may go in between others' bytes. */
	status: Uint8Array;
	/** Its bytes, status included. */
	bytes: Uint32Array;
}

export interface LineTimes {
	/** When the first byte of each begins, µs. */
	startUs: Float64Array;
	/** When its last byte has gone, µs. */
	endUs: Float64Array;
	/** Bytes that travelled: one less where running status saved one. */
	sent: Uint32Array;
}

/**
 * A DIN port as a line of bytes, first in, first out (MIDI 1.0: 320 µs a byte). A channel message whose status is that
 * of the message before it goes without its status byte, if running status is on; a real-time byte takes the next place
 * between two bytes; everything else waits for the message before it to end.
 */
export function simulateLine({ atUs, status, bytes }: LineTraffic, runningStatus: boolean): LineTimes {
	const count = atUs.length;
	const startUs = new Float64Array(count);
	const endUs = new Float64Array(count);
	const sent = Uint32Array.from(bytes);
	let clock = 0;
	const nextRealTime = () => {
		while (clock < count && !isRealTime(status[clock])) clock++;
	};
	nextRealTime();
	let free = 0;
	let last = 0;
	const sendRealTime = (from: number) => {
		startUs[clock] = from;
		endUs[clock] = from + BYTE_US;
		free = endUs[clock];
		clock++;
		nextRealTime();
	};
	for (let i = 0; i < count; i++) {
		if (isRealTime(status[i])) continue;
		// Real-time bytes that find the line idle, or free before this message.
		while (clock < count && atUs[clock] <= Math.max(free, atUs[i])) sendRealTime(Math.max(free, atUs[clock]));
		const same = runningStatus && status[i] === last && status[i] < 0xf0;
		let left = same ? bytes[i] - 1 : bytes[i];
		sent[i] = left;
		last = status[i] < 0xf0 ? status[i] : 0;
		let at = Math.max(free, atUs[i]);
		startUs[i] = at;
		for (;;) {
			// Bytes that begin before the next real-time byte arrives.
			const before = clock < count ? Math.max(0, Math.ceil((atUs[clock] - at) / BYTE_US)) : left;
			if (before >= left) {
				at += left * BYTE_US;
				break;
			}
			at += before * BYTE_US;
			left -= before;
			sendRealTime(at);
			at = free;
		}
		endUs[i] = at;
		free = at;
	}
	while (clock < count) sendRealTime(Math.max(free, atUs[clock]));
	return { startUs, endUs, sent };
}

/** Events that one USB transfer of an interface holds: 64 bytes of 4-byte packets (USB-MIDI 1.0, full speed). */
export const PACKETS_PER_FRAME = 16;
export const FRAME_US = 1000;

/** Packets that a message takes: one for every 3 bytes of SysEx, one for anything else. */
export const packetsOf = (status: number, bytes: number): number =>
	status === 0xf0 ? Math.ceil(bytes / 3) : 1;

/** When messages arrive at an interface by USB: with the next 1 ms frame that begins after they are due and has room. */
export function throughUsb({ atUs, status, bytes }: LineTraffic): Float64Array {
	const arriveUs = new Float64Array(atUs.length);
	let frame = 0;
	let room = PACKETS_PER_FRAME;
	for (let i = 0; i < atUs.length; i++) {
		const earliest = Math.floor(atUs[i] / FRAME_US) + 1;
		if (earliest > frame) {
			frame = earliest;
			room = PACKETS_PER_FRAME;
		}
		let packets = packetsOf(status[i], bytes[i]);
		// A long message arrives with its last packet; what comes after it waits behind.
		while (packets > room) {
			packets -= room;
			frame++;
			room = PACKETS_PER_FRAME;
		}
		room -= packets;
		arriveUs[i] = frame * FRAME_US;
	}
	return arriveUs;
}
