import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
	fileScore,
	lineOf,
	networkOf,
	partsOf,
	patternScore,
	simulate,
	simulateLine,
	throughUsb,
	type Network
} from './index';
import { rigSchema } from '../../rig';

const line = (messages: [atUs: number, status: number, bytes: number][]) => ({
	atUs: Float64Array.from(messages, ([at]) => at),
	status: Uint8Array.from(messages, ([, status]) => status),
	bytes: Uint32Array.from(messages, ([, , bytes]) => bytes)
});
/** Devices on lines that begin at one interface, each on channels of its own. */
const plain = (devices: [device: string, line: string, ...channels: number[]][]): Network => {
	const ports = [...new Set(devices.map(([, port]) => port))];
	return {
		lines: ports.map((port) => lineOf(port, { pipe: 'ferry' })),
		hearings: devices.map(([device, port]) => ({ device, line: ports.indexOf(port), afterUs: 0 })),
		channels: new Map(devices.map(([device, , ...channels]) => [device, channels])),
		home: new Map(devices.map(([device, port]) => [device, ports.indexOf(port)]))
	};
};
const one = plain([['a', 'out', 1]]);
const alone = { runningStatus: true, usb: false };

describe('the formulas of the wire, to the microsecond', () => {
	it.each([1, 2, 3, 10, 17])(
		'a chord of %i notes spreads 3 bytes and then 2 a note with running status, else 3 a note',
		(notes) => {
			const chord = line(Array.from({ length: notes }, () => [1000, 0x90, 3]));
			expect(simulateLine(chord, true).endUs[notes - 1]).toBe(1000 + (3 + 2 * (notes - 1)) * 320);
			expect(simulateLine(chord, false).endUs[notes - 1]).toBe(1000 + 3 * notes * 320);
		}
	);

	it('a ten-note chord takes 6.72 ms, and 9.6 ms without running status', () => {
		const chord = patternScore('chords', [{ device: 'a', channel: 1 }], 0.4);
		expect(simulate(chord, one, alone).devices[0].chordSpreadMs).toBe(6.72);
		expect(simulate(chord, one, { ...alone, runningStatus: false }).devices[0].chordSpreadMs).toBe(9.6);
	});

	it('clock on an idle line does not jitter, and arrives 320 µs after it is due', () => {
		const pulses = line(Array.from({ length: 96 }, (_, i) => [Math.round((i * 60e6) / 120 / 24), 0xf8, 1]));
		const { startUs, endUs } = simulateLine(pulses, true);
		for (let i = 0; i < 96; i++)
			expect([startUs[i], endUs[i]]).toEqual([pulses.atUs[i], pulses.atUs[i] + 320]);
	});

	it('a real-time byte goes between the bytes of a message: it waits 320 µs at most, and the rest goes on 320 µs later', () => {
		const { startUs, endUs } = simulateLine(
			line([
				[0, 0x90, 3],
				[100, 0xf8, 1]
			]),
			true
		);
		expect([startUs[1], endUs[1], endUs[0]]).toEqual([320, 640, 1280]);
	});

	it('a dump of 32 KiB takes 10.48576 s, and what comes behind it waits', () => {
		const { endUs } = simulateLine(
			line([
				[0, 0xf0, 32_768],
				[10, 0x90, 3]
			]),
			true
		);
		expect(endUs[0]).toBe(10_485_760);
		expect(endUs[1]).toBe(10_485_760 + 960);
	});

	it('running status ends with another status or a SysEx, and survives real-time bytes', () => {
		const { endUs } = simulateLine(
			line([
				[0, 0x90, 3],
				[0, 0xf8, 1],
				[0, 0x90, 3],
				[0, 0x91, 3],
				[0, 0xf0, 4],
				[0, 0x91, 3]
			]),
			true
		);
		expect(endUs[5]).toBe((3 + 1 + 2 + 3 + 4 + 3) * 320);
	});
});

it('agrees byte for byte with a slow simulation of single bytes, for any traffic', () => {
	const message = fc.record({
		gap: fc.integer({ min: 0, max: 2000 }),
		status: fc.constantFrom(0x90, 0x91, 0xb0, 0xc0, 0xf0, 0xf8, 0xfa),
		extra: fc.integer({ min: 0, max: 9 })
	});
	fc.assert(
		fc.property(fc.array(message, { maxLength: 40 }), fc.boolean(), (messages, running) => {
			let at = 0;
			const traffic = line(
				messages.map(({ gap, status, extra }) => [
					(at += gap),
					status,
					status >= 0xf8 ? 1 : status === 0xf0 ? 2 + extra : status === 0xc0 ? 2 : 3
				])
			);
			expect([...simulateLine(traffic, running).endUs]).toEqual(slow(traffic, running));
		}),
		{ numRuns: 400 }
	);
});

/** One byte at a time: real time first, then the message under way, then the next. */
function slow({ atUs, status, bytes }: ReturnType<typeof line>, running: boolean): number[] {
	const ends = new Array<number>(atUs.length).fill(0);
	const real = [...atUs.keys()].filter((i) => status[i] >= 0xf8);
	const rest = [...atUs.keys()].filter((i) => status[i] < 0xf8);
	let [now, last] = [0, 0];
	let current: { i: number; left: number } | null = null;
	while (real.length > 0 || rest.length > 0 || current) {
		if (real.length > 0 && atUs[real[0]] <= now) {
			now += 320;
			ends[real.shift()!] = now;
		} else if (current) {
			now += 320;
			if (--current.left === 0) {
				ends[current.i] = now;
				current = null;
			}
		} else if (rest.length > 0 && atUs[rest[0]] <= now) {
			const i = rest.shift()!;
			current = { i, left: bytes[i] - (running && status[i] === last && status[i] < 0xf0 ? 1 : 0) };
			last = status[i] < 0xf0 ? status[i] : 0;
		} else now = Math.min(...[real[0], rest[0]].filter((i) => i !== undefined).map((i) => atUs[i]));
	}
	return ends;
}

it('USB takes 16 packets a millisecond, a SysEx packet for every three bytes', () => {
	const traffic = line([
		...Array.from({ length: 17 }, (): [number, number, number] => [100, 0x90, 3]),
		[5000, 0xf0, 100]
	]);
	const at = throughUsb(traffic);
	expect([at[0], at[15], at[16], at[17]]).toEqual([1000, 1000, 2000, 8000]);
});

it('makes the ports of one interface share its USB cable', () => {
	const chords = patternScore(
		'chords',
		[
			{ device: 'a', channel: 1 },
			{ device: 'b', channel: 2 }
		],
		0.4
	);
	const two = plain([
		['a', 'one', 1],
		['b', 'two', 2]
	]);
	const [a, b] = simulate(chords, two, { ...alone, usb: true }).devices;
	// Sixteen packets go with the next frame; the line is busy for longer than the other four wait.
	expect([a.worstMs, b.worstMs]).toEqual([7.72, 7.72]);
	const names = ['a', 'b', 'c', 'd', 'e'];
	const many = patternScore(
		'chords',
		names.map((device, i) => ({ device, channel: i + 1 })),
		0.4
	);
	const five = plain(names.map((name, i) => [name, name, i + 1]));
	expect(simulate(many, five, { ...alone, usb: true }).devices.map(({ worstMs }) => worstMs)).toEqual([
		7.72, 7.72, 8.72, 8.72, 9.72
	]);
});

describe('a studio', () => {
	const port = (id: string, direction: 'in' | 'out' | 'thru') => ({
		id,
		direction,
		connector: 'din' as const
	});
	const rig = rigSchema.parse({
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			{ id: 'i', name: 'Ferry', kind: 'interface', ports: [port('o1', 'out'), port('o2', 'out')] },
			{ id: 'a', name: 'a', kind: 'synthesiser', ports: [port('a.in', 'in'), port('a.thru', 'thru')] },
			{ id: 'b', name: 'b', kind: 'synthesiser', ports: [port('b.in', 'in')] },
			{ id: 'c', name: 'c', kind: 'synthesiser', ports: [port('c.in', 'in')] }
		],
		cables: [
			{ from: 'o1', to: 'a.in' },
			{ from: 'a.thru', to: 'b.in' }
		],
		settings: [
			{ device: 'a', channel: 1 },
			{ device: 'b', channel: 2 }
		]
	});

	it('makes devices on one port wait for each other, and names what nobody reaches', () => {
		const report = simulate(
			patternScore('chords', [...partsOf(rig), { device: 'c', channel: 3 }], 0.4),
			networkOf(rig),
			alone
		);
		expect(report.devices.map(({ device, worstMs }) => [device, worstMs])).toEqual([
			['a', 6.72],
			['b', 13.442]
		]);
		expect(report.unreached).toEqual(['c']);
		expect(report.histogram.counts.reduce((a, b) => a + b, 0)).toBe(20);
		expect(report.lines).toHaveLength(1);
	});

	it('plays a MIDI file by its own tempo, and tells which channels nobody hears', () => {
		const file = Uint8Array.from([
			...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
			...[0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 23],
			...[0, 0xff, 0x51, 3, 0x0f, 0x42, 0x40],
			...[96, 0x90, 60, 100, 0, 0x9f, 60, 100],
			...[96, 0x91, 62, 100, 0, 0xff, 0x2f, 0]
		]);
		const score = fileScore(file, partsOf(rig));
		expect([...score.atUs]).toEqual([1_000_000, 2_000_000]);
		expect(score.unheard).toEqual([{ channel: 16, messages: 1 }]);
		expect(() => fileScore(file, [])).toThrow('Nothing in this file is on a channel of your instruments');
	});
});
