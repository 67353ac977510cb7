import { TIMING_CLOCK, WIRE_BYTES_PER_SECOND } from '../../midi';
import { channelsOf, indexRig, type Rig } from '../../rig';
import {
	FRAME_US,
	packetsOf,
	PACKETS_PER_FRAME,
	simulateLine,
	throughUsb,
	type LineTimes,
	type LineTraffic
} from './line';
import { networkOf, type Line, type Network } from './network';
import { BY_CHANNEL, type Part, type Score } from './score';

export interface Lateness {
	device: string;
	messages: number;
	/** From when a message is due to when its last byte is there, ms. */
	p50Ms: number;
	p95Ms: number;
	worstMs: number;
	/** From the first byte to the last of notes that are due at once, the widest, ms; 0 when there are none. */
	chordSpreadMs: number;
	/** How far the time between two clock pulses strays from what it should be, at most, ms; `null` where no clock comes. */
	clockJitterMs: number | null;
}

export interface LineReport {
	port: string;
	messages: number;
	/** Bytes that travelled, running status taken off. */
	bytes: number;
	/** Of what the line can carry until its last byte: of the wire, or of the packets of USB. */
	share: number;
	/** How long the last message waited for its turn, ms. */
	longestQueueMs: number;
}

/** One message for the timeline: when it was due, and when it was on the wire. */
export interface Slot {
	port: string;
	device: string;
	dueMs: number;
	startMs: number;
	endMs: number;
}

export interface LatenessReport {
	devices: Lateness[];
	lines: LineReport[];
	/** Counts of messages by lateness: `counts[i]` are later than `i` and at most `i + 1` times `binMs`. */
	histogram: { binMs: number; counts: number[] };
	/** The first messages, for drawing. */
	timeline: Slot[];
	/** Devices that no port of the host reaches. */
	unreached: string[];
}

export interface LatenessOptions {
	runningStatus: boolean;
	/** Whether the way from the computer to the interface counts. */
	usb: boolean;
	/** Messages of the timeline, at most. */
	slots?: number;
}

/** Every channel of every device that the computer reaches. What answers to all is played on its own, or on the first. */
export const partsOf = (rig: Rig): Part[] => {
	const index = indexRig(rig);
	const { home } = networkOf(rig);
	return [...home.keys()].flatMap((id) => {
		const device = index.devices.get(id)!;
		const set = channelsOf(device, index.settings.get(id));
		const channels = device.receive.omni && set.length === 0 ? [1] : set;
		return channels.map((channel) => ({ device: id, channel }));
	});
};

const quantile = (sorted: Float64Array, share: number) =>
	sorted.length === 0 ? 0 : sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)];

/** What travels on a line: the messages by their place in the score, those of the clock behind them. */
interface Traffic {
	message: Int32Array;
	/** When each is handed to the line. */
	atUs: Float64Array;
	startUs: Float64Array;
	endUs: Float64Array;
}

/** Plays a score over the lines of a network, and says how late everything is. */
export function simulate(
	score: Score,
	network: Network,
	{ runningStatus, usb, slots = 400 }: LatenessOptions
): LatenessReport {
	const all = withClock(score);
	const begun = beginnings(all, score, network);
	const handed = overUsb(all, network, begun, usb);
	const traffic: Traffic[] = [];
	const lines: LineReport[] = [];
	const timeline: Slot[] = [];
	const starts = network.lines.filter(({ from }) => from.length === 0).length;
	network.lines.forEach((line, l) => {
		const fed = merged(all.turn, [
			{ message: begun[l], atUs: handed[l] },
			...line.from.map((feed) => ({
				message: traffic[feed.line].message,
				atUs: traffic[feed.line].endUs.map((end) => end + feed.delayUs)
			}))
		]);
		const own = {
			atUs: fed.atUs,
			status: picked(all.status, fed.message, new Uint8Array(fed.message.length)),
			bytes: picked(all.bytes, fed.message, new Uint32Array(fed.message.length))
		};
		const { startUs, endUs, sent } = line.din
			? simulateLine(own, runningStatus)
			: { startUs: fed.atUs, endUs: fed.atUs, sent: own.bytes };
		traffic.push({ ...fed, startUs, endUs });
		if (fed.message.length === 0) return;
		lines.push(reportOf(line, own, { startUs, endUs, sent }));
		if (line.from.length === 0)
			for (let n = 0; n < fed.message.length && n < slots / starts; n++)
				timeline.push({
					port: line.port,
					device: score.targets[all.to[fed.message[n]]] ?? '',
					dueMs: all.atUs[fed.message[n]] / 1000,
					startMs: startUs[n] / 1000,
					endMs: endUs[n] / 1000
				});
	});
	const late: Float64Array[] = [];
	const devices = score.targets.flatMap((device, target) => {
		const heard = heardBy(device, target, network, traffic, all);
		if (!heard) return [];
		const found = latenessOf(device, heard, all);
		late.push(found.late);
		return [found.lateness];
	});
	return {
		devices,
		lines,
		histogram: histogram(late),
		timeline,
		unreached: score.targets.filter(
			(device) => !network.hearings.some((hearing) => hearing.device === device)
		)
	};
}

/** The score with the pulses of its clock behind it, as columns. */
interface Columns extends Pick<Score, 'atUs' | 'to' | 'channels' | 'status' | 'bytes'> {
	pulses: number;
	/** Which of all a message is in the order of times; of what is due at once, the clock goes first. */
	turn: Int32Array;
}

function withClock(score: Score): Columns {
	const [count, pulses] = [score.atUs.length, score.clockUs.length];
	const more = <T extends Float64Array | Int32Array | Uint16Array | Uint8Array | Uint32Array>(
		column: T,
		into: T,
		value: number
	): T => {
		into.set(column as never);
		into.fill(value as never, count);
		return into;
	};
	const atUs = more(score.atUs, new Float64Array(count + pulses), 0);
	atUs.set(score.clockUs, count);
	const turn = new Int32Array(count + pulses);
	for (let i = 0, pulse = 0, next = 0; next < turn.length; next++)
		turn[pulse < pulses && (i >= count || score.clockUs[pulse] <= score.atUs[i]) ? count + pulse++ : i++] =
			next;
	return {
		atUs,
		to: more(score.to, new Int32Array(count + pulses), BY_CHANNEL),
		channels: more(score.channels, new Uint16Array(count + pulses), 0),
		status: more(score.status, new Uint8Array(count + pulses), TIMING_CLOCK),
		bytes: more(score.bytes, new Uint32Array(count + pulses), 1),
		pulses,
		turn
	};
}

/** A bit for each channel, as scores have them. */
const bitsOf = (channels: readonly number[]): number =>
	channels.reduce((sum, channel) => sum | (1 << (channel - 1)), 0);

/** Channels (a bit for each) to which anybody answers on a line or on what it feeds. */
function listened(network: Network): Uint16Array {
	const mask = new Uint16Array(network.lines.length);
	for (const { device, line } of network.hearings) mask[line] |= bitsOf(network.channels.get(device) ?? []);
	for (let l = network.lines.length - 1; l >= 0; l--)
		for (const { line } of network.lines[l].from) mask[line] |= mask[l];
	return mask;
}

/** Lines on which, or on what they feed, anybody is. */
function listening(network: Network): Set<number> {
	const lines = new Set(network.hearings.map(({ line }) => line));
	for (let l = network.lines.length - 1; l >= 0; l--)
		if (lines.has(l)) for (const { line } of network.lines[l].from) lines.add(line);
	return lines;
}

/** Which messages begin on which line, in the order of their times: once on a line, however many hear them there. */
function beginnings(all: Columns, score: Score, network: Network): Int32Array[] {
	const [mask, heard] = [listened(network), listening(network)];
	const homes = score.targets.map((device) => network.home.get(device) ?? -1);
	const count = all.atUs.length - all.pulses;
	const clocks = network.lines.some(({ clockOut, ownClock }) => clockOut || ownClock);
	return network.lines.map(({ pipe, clockOut, ownClock }, l) => {
		const own: number[] = [];
		if (pipe !== null)
			for (let i = 0; i < count; i++) {
				const mine =
					all.to[i] !== BY_CHANNEL
						? homes[all.to[i]] === l
						: all.channels[i] === 0
							? heard.has(l)
							: (all.channels[i] & mask[l]) !== 0;
				if (mine) own.push(i);
			}
		const pulsed = clockOut || ownClock || (!clocks && score.clockSupposed && pipe !== null);
		const pulses = pulsed ? Array.from({ length: all.pulses }, (_, n) => count + n) : [];
		if (pulses.length === 0) return Int32Array.from(own);
		return Int32Array.from([...pulses, ...own]).sort((a, b) => all.turn[a] - all.turn[b]);
	});
}

/** When each message is at its line: what shares a USB endpoint waits for its frames. */
function overUsb(all: Columns, network: Network, begun: readonly Int32Array[], usb: boolean): Float64Array[] {
	const handed = begun.map((own) => picked(all.atUs, own, new Float64Array(own.length)));
	const pipes = new Map<string, number[]>();
	network.lines.forEach(({ pipe, din }, l) => {
		if (pipe !== null && (usb || !din)) pipes.set(pipe, [...(pipes.get(pipe) ?? []), l]);
	});
	for (const lines of pipes.values()) {
		lines.sort((a, b) => network.lines[a].rank - network.lines[b].rank);
		// All that is sent there by the turns of the messages, those of one message line by line.
		const first = new Int32Array(all.turn.length + 1);
		for (const l of lines) for (const i of begun[l]) first[all.turn[i] + 1]++;
		for (let turn = 0; turn < all.turn.length; turn++) first[turn + 1] += first[turn];
		const size = first[all.turn.length];
		const [lineOf, placeOf] = [new Int32Array(size), new Int32Array(size)];
		for (const l of lines)
			begun[l].forEach((i, n) => {
				const at = first[all.turn[i]]++;
				lineOf[at] = l;
				placeOf[at] = n;
			});
		const sent = Int32Array.from(lineOf, (l, at) => begun[l][placeOf[at]]);
		const arrive = throughUsb({
			atUs: picked(all.atUs, sent, new Float64Array(size)),
			status: picked(all.status, sent, new Uint8Array(size)),
			bytes: picked(all.bytes, sent, new Uint32Array(size))
		});
		for (let at = 0; at < size; at++) handed[lineOf[at]][placeOf[at]] = arrive[at];
	}
	return handed;
}

/** Several streams as one, by time; of what comes at once, what was due earlier goes first. */
function merged(
	turn: Int32Array,
	streams: readonly Pick<Traffic, 'message' | 'atUs'>[]
): Pick<Traffic, 'message' | 'atUs'> {
	// What begins here is in order; what was sent on another line is not: real-time bytes overtook the rest there.
	if (streams.length === 1) return streams[0];
	const order = streams
		.flatMap(({ message, atUs }) => Array.from(message, (i, n) => ({ i, at: atUs[n] })))
		.sort((a, b) => a.at - b.at || turn[a.i] - turn[b.i]);
	return {
		message: Int32Array.from(order, ({ i }) => i),
		atUs: Float64Array.from(order, ({ at }) => at)
	};
}

function reportOf(line: Line, own: LineTraffic, { startUs, endUs, sent }: LineTimes): LineReport {
	let [bytes, packets, longest, last] = [0, 0, 0, 0];
	for (let n = 0; n < sent.length; n++) {
		bytes += sent[n];
		packets += packetsOf(own.status[n], own.bytes[n]);
		longest = Math.max(longest, startUs[n] - own.atUs[n]);
		last = Math.max(last, endUs[n]);
	}
	const most = line.din ? (last / 1e6) * WIRE_BYTES_PER_SECOND : (last / FRAME_US) * PACKETS_PER_FRAME;
	return {
		port: line.port,
		messages: sent.length,
		bytes,
		share: most > 0 ? (line.din ? bytes : packets) / most : 0,
		longestQueueMs: longest / 1000
	};
}

/** The entries of a column that some messages have. */
function picked<T extends Float64Array | Uint8Array | Uint32Array>(column: T, own: Int32Array, into: T): T {
	for (let n = 0; n < own.length; n++) into[n] = column[own[n]];
	return into;
}

/** What comes to a device, a message of its own or of a clock: when its first byte began and when its last was there. */
interface Heard {
	i: number;
	first: number;
	arrival: number;
}

/** What a device hears, in the order in which it was due; by the quicker way, where there are two. `null` for what nobody reaches. */
function heardBy(
	device: string,
	target: number,
	network: Network,
	traffic: readonly Traffic[],
	all: Columns
): Heard[] | null {
	const hearings = network.hearings.filter((hearing) => hearing.device === device);
	if (hearings.length === 0) return null;
	const mask = bitsOf(network.channels.get(device) ?? []);
	const heard: { i: number; first: number; arrival: number }[] = [];
	for (const { line, afterUs } of hearings) {
		const { message, startUs, endUs } = traffic[line];
		for (let n = 0; n < message.length; n++) {
			const i = message[n];
			const status = all.status[i];
			const mine =
				status === TIMING_CLOCK ||
				(all.to[i] === BY_CHANNEL ? status < 0xf0 && (all.channels[i] & mask) !== 0 : all.to[i] === target);
			if (mine) heard.push({ i, first: startUs[n] + afterUs, arrival: endUs[n] + afterUs });
		}
	}
	heard.sort((a, b) => all.turn[a.i] - all.turn[b.i] || a.arrival - b.arrival);
	return heard.filter(({ i }, n) => n === 0 || heard[n - 1].i !== i);
}

function latenessOf(
	device: string,
	heard: readonly Heard[],
	all: Columns
): { lateness: Lateness; late: Float64Array } {
	const late = new Float64Array(heard.length);
	let count = 0;
	let spread = 0;
	let jitter: number | null = null;
	let [chordAt, chordFirst, chordNotes] = [NaN, 0, 0];
	let [pulseAt, pulseDue] = [NaN, 0];
	for (const { i, first, arrival } of heard) {
		if (all.status[i] === TIMING_CLOCK) {
			if (!Number.isNaN(pulseAt))
				jitter = Math.max(jitter ?? 0, Math.abs(arrival - pulseAt - (all.atUs[i] - pulseDue)));
			[pulseAt, pulseDue] = [arrival, all.atUs[i]];
			continue;
		}
		late[count++] = arrival - all.atUs[i];
		if ((all.status[i] & 0xf0) !== 0x90) continue;
		if (all.atUs[i] !== chordAt) [chordAt, chordFirst, chordNotes] = [all.atUs[i], first, 0];
		if (++chordNotes > 1) spread = Math.max(spread, arrival - chordFirst);
	}
	const sorted = late.subarray(0, count).sort();
	return {
		late: sorted,
		lateness: {
			device,
			messages: count,
			p50Ms: quantile(sorted, 0.5) / 1000,
			p95Ms: quantile(sorted, 0.95) / 1000,
			worstMs: count > 0 ? sorted[count - 1] / 1000 : 0,
			chordSpreadMs: spread / 1000,
			clockJitterMs: jitter === null ? null : jitter / 1000
		}
	};
}

/** At most 40 bins of a round width. */
function histogram(lateUs: readonly Float64Array[]): LatenessReport['histogram'] {
	let most = 0;
	for (const sorted of lateUs) most = Math.max(most, sorted.at(-1) ?? 0);
	const wide = most / 1000 / 40;
	const binMs =
		[0.25, 0.5, 1, 2, 5, 10, 20, 50, 100, 500, 1000, 5000].find((width) => width >= wide) ?? Math.ceil(wide);
	const counts = new Array<number>(Math.max(1, Math.ceil(most / 1000 / binMs - 1e-9))).fill(0);
	for (const sorted of lateUs)
		for (const value of sorted)
			counts[Math.min(counts.length - 1, Math.max(0, Math.ceil(value / 1000 / binMs - 1e-9) - 1))]++;
	return { binMs, counts };
}
