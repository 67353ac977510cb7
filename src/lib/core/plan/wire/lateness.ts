import { isRealTime, WIRE_BYTES_PER_SECOND } from '../../midi';
import { DELAY_MS, firstFeeds, heardBy, indexRig, isUsb, type Rig } from '../../rig';
import { simulateLine, throughUsb, type LineTraffic } from './line';
import type { Part, Score } from './score';

/** How a device is reached from the host. */
export interface Route {
	device: string;
	/** Port of the interface (or its own USB port) whose line it shares. */
	line: string;
	/** Device whose USB cable it shares. */
	pipe: string;
	din: boolean;
	/** Delay behind the line: thru sockets and boxes, µs. */
	afterUs: number;
}

export interface Lateness {
	device: string;
	messages: number;
	/** From when a message is due to when its last byte is there, ms. */
	p50Ms: number;
	p95Ms: number;
	worstMs: number;
	/** From the first byte to the last of notes that are due at once, the widest, ms; 0 when there are none. */
	chordSpreadMs: number;
	/** How far the time between two clock pulses strays from what it should be, at most, ms; `null` without clock. */
	clockJitterMs: number | null;
}

export interface LineReport {
	port: string;
	messages: number;
	bytes: number;
	/** Of the wire while anything is played. */
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

/** Routes from the host to every device of a rig, by today's cables. */
export function routesOf(rig: Rig): Route[] {
	const routes = new Map<string, Route>();
	for (const { out, hearers } of firstFeeds(rig)) {
		if (out.role !== 'interface' && !(isUsb(out.port) && hearers.some(({ device }) => device === out.device)))
			continue;
		for (const { device, hop } of hearers)
			if (!routes.has(device.id))
				routes.set(device.id, {
					device: device.id,
					line: out.port.id,
					pipe: out.device.id,
					din: !isUsb(out.port),
					afterUs: (hop - 1) * DELAY_MS.thru * 1000
				});
	}
	return [...routes.values()];
}

/** The first channel of every device that is reached. */
export const partsOf = (rig: Rig): Part[] => {
	const index = indexRig(rig);
	return routesOf(rig).flatMap(({ device }) => {
		const [channel] = heardBy(index, index.devices.get(device)!);
		return channel === undefined ? [] : [{ device, channel }];
	});
};

const quantile = (sorted: Float64Array, share: number) =>
	sorted.length === 0 ? 0 : sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)];

/** Plays a score over the lines of some routes, and says how late everything is. */
export function simulate(
	score: Score,
	routes: readonly Route[],
	{ runningStatus, usb, slots = 400 }: LatenessOptions
): LatenessReport {
	const routeOf = new Map(routes.map((route) => [route.device, route]));
	const count = score.atUs.length;
	const lines = [...new Set(routes.map(({ line }) => line))];
	const lineIndex = new Map(lines.map((line, i) => [line, i]));
	const targetRoute = score.targets.map((device) => routeOf.get(device) ?? null);
	const targetLine = Int32Array.from(targetRoute, (route) => (route ? lineIndex.get(route.line)! : -1));
	const members: Int32Array[] = split(count, lines.length, (i) => targetLine[score.target[i]]);
	const arrivalUs = new Float64Array(count).fill(NaN);
	const firstUs = new Float64Array(count);
	const handedUs = overUsb(score, targetRoute, usb);
	const report: LineReport[] = [];
	const timeline: Slot[] = [];
	lines.forEach((line, l) => {
		const own = clocksOnce(members[l], score);
		const traffic = trafficOf(score, own);
		const din = routes.find((route) => route.line === line)!.din;
		const handed = picked(handedUs, own, new Float64Array(own.length));
		const { startUs, endUs } = din
			? simulateLine({ ...traffic, atUs: handed }, runningStatus)
			: { startUs: handed, endUs: handed };
		let [bytes, longest] = [0, 0];
		for (let n = 0; n < own.length; n++) {
			const i = own[n];
			arrivalUs[i] = endUs[n] + targetRoute[score.target[i]]!.afterUs;
			firstUs[i] = startUs[n];
			bytes += traffic.bytes[n];
			longest = Math.max(longest, startUs[n] - handed[n]);
			if (n < slots / lines.length)
				timeline.push({
					port: line,
					device: score.targets[score.target[i]],
					dueMs: traffic.atUs[n] / 1000,
					startMs: startUs[n] / 1000,
					endMs: endUs[n] / 1000
				});
		}
		const lastUs = endUs.length > 0 ? endUs[endUs.length - 1] : 0;
		if (own.length > 0)
			report.push({
				port: line,
				messages: own.length,
				bytes,
				share: lastUs > 0 ? bytes / ((lastUs / 1e6) * WIRE_BYTES_PER_SECOND) : 0,
				longestQueueMs: longest / 1000
			});
	});
	const byTarget = split(count, score.targets.length, (i) => score.target[i]);
	const late = new Float64Array(count);
	let heard = 0;
	for (let i = 0; i < count; i++)
		if (!Number.isNaN(arrivalUs[i])) late[heard++] = arrivalUs[i] - score.atUs[i];
	return {
		devices: score.targets.flatMap((device, t) =>
			targetRoute[t] ? [latenessOf(device, byTarget[t], score, arrivalUs, firstUs)] : []
		),
		lines: report,
		histogram: histogram(late.subarray(0, heard)),
		timeline,
		unreached: score.targets.filter((_, t) => targetRoute[t] === null)
	};
}

/** The entries of a column that some messages have. */
function picked<T extends Float64Array | Uint8Array | Uint32Array>(column: T, own: Int32Array, into: T): T {
	for (let n = 0; n < own.length; n++) into[n] = column[own[n]];
	return into;
}

const trafficOf = (score: Score, own: Int32Array): LineTraffic => ({
	atUs: picked(score.atUs, own, new Float64Array(own.length)),
	status: picked(score.status, own, new Uint8Array(own.length)),
	bytes: picked(score.bytes, own, new Uint32Array(own.length))
});

/** When each message is at its interface: all ports of one share its USB cable. A USB instrument always takes that way. */
function overUsb(score: Score, routes: readonly (Route | null)[], usb: boolean): Float64Array {
	const handed = Float64Array.from(score.atUs);
	const pipes = [...new Set(routes.flatMap((route) => (route && (usb || !route.din) ? [route.pipe] : [])))];
	const pipeOf = routes.map((route) => (route && (usb || !route.din) ? pipes.indexOf(route.pipe) : -1));
	for (const own of split(score.atUs.length, pipes.length, (i) => pipeOf[score.target[i]])) {
		const arrive = throughUsb(trafficOf(score, own));
		for (let n = 0; n < own.length; n++) handed[own[n]] = arrive[n];
	}
	return handed;
}

/** Indices of `0…count` by group; -1 belongs to none. */
function split(count: number, groups: number, groupOf: (i: number) => number): Int32Array[] {
	const sizes = new Int32Array(groups);
	for (let i = 0; i < count; i++) {
		const group = groupOf(i);
		if (group >= 0) sizes[group]++;
	}
	const lists = Array.from(sizes, (size) => new Int32Array(size));
	const at = new Int32Array(groups);
	for (let i = 0; i < count; i++) {
		const group = groupOf(i);
		if (group >= 0) lists[group][at[group]++] = i;
	}
	return lists;
}

/** A clock pulse is sent once to a line, however many of its devices follow it. */
function clocksOnce(own: Int32Array, score: Score): Int32Array {
	if (!own.some((i) => isRealTime(score.status[i]))) return own;
	const seen = new Set<number>();
	return own.filter((i) => {
		if (!isRealTime(score.status[i])) return true;
		if (seen.has(score.atUs[i])) return false;
		seen.add(score.atUs[i]);
		return true;
	});
}

function latenessOf(
	device: string,
	own: Int32Array,
	score: Score,
	arrivalUs: Float64Array,
	firstUs: Float64Array
): Lateness {
	const late = new Float64Array(own.length);
	let heard = 0;
	let spread = 0;
	let jitter: number | null = null;
	let [chordAt, chordFirst, chordNotes] = [NaN, 0, 0];
	let [pulseAt, pulseDue] = [NaN, 0];
	for (const i of own) {
		if (Number.isNaN(arrivalUs[i])) continue;
		late[heard++] = arrivalUs[i] - score.atUs[i];
		if (isRealTime(score.status[i])) {
			if (!Number.isNaN(pulseAt))
				jitter = Math.max(jitter ?? 0, Math.abs(arrivalUs[i] - pulseAt - (score.atUs[i] - pulseDue)));
			[pulseAt, pulseDue] = [arrivalUs[i], score.atUs[i]];
		} else if ((score.status[i] & 0xf0) === 0x90) {
			if (score.atUs[i] !== chordAt) [chordAt, chordFirst, chordNotes] = [score.atUs[i], firstUs[i], 0];
			if (++chordNotes > 1) spread = Math.max(spread, arrivalUs[i] - chordFirst);
		}
	}
	const sorted = late.subarray(0, heard).sort();
	return {
		device,
		messages: sorted.length,
		p50Ms: quantile(sorted, 0.5) / 1000,
		p95Ms: quantile(sorted, 0.95) / 1000,
		worstMs: sorted.length > 0 ? sorted[sorted.length - 1] / 1000 : 0,
		chordSpreadMs: spread / 1000,
		clockJitterMs: jitter === null ? null : jitter / 1000
	};
}

/** At most 40 bins of a round width. */
function histogram(lateUs: Float64Array): LatenessReport['histogram'] {
	let most = 0;
	for (const value of lateUs) if (value > most) most = value;
	const wide = most / 1000 / 40;
	const binMs =
		[0.25, 0.5, 1, 2, 5, 10, 20, 50, 100, 500, 1000, 5000].find((width) => width >= wide) ?? Math.ceil(wide);
	const counts = new Array<number>(Math.max(1, Math.ceil(most / 1000 / binMs - 1e-9))).fill(0);
	for (const value of lateUs)
		counts[Math.min(counts.length - 1, Math.max(0, Math.ceil(value / 1000 / binMs - 1e-9) - 1))]++;
	return { binMs, counts };
}
