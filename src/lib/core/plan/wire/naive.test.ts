import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rigSchema, trace, type Rig } from '../../rig';
import { fileScore, networkOf, partsOf, simulate } from './index';
import { playNaively, type Played } from './naive.fixture';

const port = (id: string, direction: 'in' | 'out' | 'thru' | 'both', connector = 'din') => ({
	id,
	name: id,
	direction,
	connector
});

/** A studio whose cables lead from the computer on, never back: whatever `pick` (0 ≤ n < many) makes of it. */
function studio(pick: (many: number) => number): Rig {
	const chance = (percent: number) => pick(100) < percent;
	const outs = chance(20) ? 18 : 1 + pick(4);
	const free = Array.from({ length: outs }, (_, i) => `i.out${i + 1}`);
	const cables: { from: string; to: string }[] = [];
	const feed = (to: string) => {
		if (free.length > 0) cables.push({ from: free.splice(pick(free.length), 1)[0], to });
	};
	const devices: object[] = [];
	const many = 2 + pick(6);
	for (let n = 0; n < many; n++) {
		const id = `d${n}`;
		const kind = pick(10);
		const has = (port: string) => free.push(`${id}.${port}`);
		if (kind === 0) {
			devices.push({
				id,
				name: id,
				kind: 'thru box',
				ports: [port(`${id}.in`, 'in'), port(`${id}.a`, 'out'), port(`${id}.b`, 'out')]
			});
			feed(`${id}.in`);
			has('a');
			has('b');
		} else if (kind === 1) {
			devices.push({
				id,
				name: id,
				kind: 'merge box',
				ports: [port(`${id}.x`, 'in'), port(`${id}.y`, 'in'), port(`${id}.out`, 'out')]
			});
			feed(`${id}.x`);
			feed(`${id}.y`);
			has('out');
		} else {
			const usb = kind === 2;
			const [soft, leads] = [chance(25), chance(15)];
			devices.push({
				id,
				name: id,
				kind: 'sound module',
				ports: usb
					? [port(`${id}.usb`, 'both', 'usb-device')]
					: [port(`${id}.in`, 'in'), port(`${id}.out`, 'out'), port(`${id}.thru`, 'thru')],
				receive: { parts: chance(25) ? 3 : 1 },
				softThru: soft,
				clock: leads ? { mode: 'internal', sends: true } : { mode: 'auto' }
			});
			if (usb) continue;
			feed(`${id}.in`);
			has('thru');
			if (soft || leads) has('out');
		}
	}
	const hostOut = (socket: string, n: number) => ({
		id: `h${n}`,
		name: socket,
		number: n + 1,
		direction: 'out',
		port: socket,
		clockOut: chance(60)
	});
	const usbs = devices.flatMap((device) =>
		(device as { ports: { id: string; connector: string }[] }).ports.filter(
			({ connector }) => connector === 'usb-device'
		)
	);
	return rigSchema.parse({
		format: 'silent-drawer.rig',
		version: 1,
		devices: [
			{
				id: 'i',
				name: 'i',
				kind: 'interface',
				ports: Array.from({ length: outs }, (_, i) => port(`i.out${i + 1}`, 'out'))
			},
			...devices
		],
		cables,
		settings: devices
			.filter((device) => (device as { kind: string }).kind === 'sound module')
			.map((device) => ({ device: (device as { id: string }).id, channel: 1 + pick(6) })),
		host: {
			clock: chance(60),
			ports: [
				...Array.from({ length: outs }, (_, i) => hostOut(`i.out${i + 1}`, i)),
				...usbs.map(({ id }, i) => hostOut(id, outs + i))
			]
		}
	});
}

/** Music of whole milliseconds at 1,000 ticks a second, in tracks, and the same as a MIDI file. */
function music(pick: (many: number) => number): { played: Played[]; file: Uint8Array; pulsesMs: number[] } {
	const tracks = Array.from({ length: 1 + pick(3) }, () => {
		const own = [1 + pick(6), 1 + pick(8)];
		return Array.from({ length: pick(14) }, () => {
			const kind = pick(12);
			const status =
				kind === 0
					? 0xf0
					: kind === 1
						? 0xf8
						: (kind < 8 ? 0x90 : kind < 10 ? 0xb0 : 0xc0) | (own[pick(2)] - 1);
			return {
				ms: pick(5) * pick(20),
				status,
				bytes: status === 0xf0 ? 3 + pick(60) : status === 0xf8 ? 1 : status >= 0xc0 ? 2 : 3
			};
		}).sort((a, b) => a.ms - b.ms);
	});
	const number = (value: number) => (value < 128 ? [value] : [0x80 | (value >> 7), value & 127]);
	const chunks = tracks.map((events) => {
		let at = 0;
		const body = events.flatMap(({ ms, status, bytes }) => {
			const delta = number(ms - at);
			at = ms;
			const data = (length: number) => new Array<number>(length).fill(1);
			if (status === 0xf0) return [...delta, 0xf0, ...number(bytes - 1), ...data(bytes - 2), 0xf7];
			if (status === 0xf8) return [...delta, 0xf7, 1, 0xf8];
			return [...delta, status, ...data(bytes - 1)];
		});
		const whole = [...body, 0, 0xff, 0x2f, 0];
		return [0x4d, 0x54, 0x72, 0x6b, 0, 0, whole.length >> 8, whole.length & 255, ...whole];
	});
	// 480 ticks of a quarter note that takes 480 ms: a tick is a millisecond, a pulse comes every 20.
	const tempo = [0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 11, 0, 0xff, 0x51, 3, 0x07, 0x53, 0x00, 0, 0xff, 0x2f, 0];
	const endMs = Math.max(0, ...tracks.flatMap((events) => events.map(({ ms }) => ms)));
	return {
		played: tracks.flatMap((events) => {
			const track = [...new Set(events.flatMap(({ status }) => (status < 0xf0 ? [(status & 15) + 1] : [])))];
			return events.map((event) => ({ ...event, track }));
		}),
		file: Uint8Array.from([
			...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, tracks.length + 1, 480 >> 8, 480 & 255],
			...tempo,
			...chunks.flat()
		]),
		pulsesMs: Array.from({ length: Math.ceil(endMs / 20) }, (_, n) => n * 20)
	};
}

const studios = fc.gen().map((gen) => studio((many) => gen(fc.integer, { min: 0, max: many - 1 })));

describe('lateness', () => {
	it('is to the microsecond what a simulation of single bytes says, for random rigs and files', () => {
		let compared = 0;
		let [jittered, saved] = [0, 0];
		fc.assert(
			fc.property(studios, fc.gen(), fc.boolean(), (rig, gen, running) => {
				const { played, file, pulsesMs } = music((many) => gen(fc.integer, { min: 0, max: many - 1 }));
				const parts = partsOf(rig);
				const able = new Set(parts.map(({ channel }) => channel));
				const heard = played.filter(({ status }) => status >= 0xf0 || able.has((status & 15) + 1));
				if (!heard.some(({ status }) => status < 0xf0)) return;
				const report = simulate(fileScore(file, parts), networkOf(rig), {
					runningStatus: running,
					usb: true
				});
				const naive = playNaively(rig, heard, pulsesMs, running);
				for (const device of report.devices) {
					const late = naive.late.get(device.device)!;
					expect(device.messages).toBe(late.length);
					expect(device.worstMs).toBe((late.at(-1) ?? 0) / 1000);
					expect(device.p50Ms).toBe((late[Math.ceil(late.length / 2) - 1] ?? 0) / 1000);
					const jitter = naive.jitter.get(device.device)!;
					expect(device.clockJitterMs).toBe(jitter === null ? null : jitter / 1000);
					compared += late.length;
					if (jitter) jittered++;
				}
				for (const line of report.lines)
					if (naive.bytes.has(line.port)) {
						expect(line.bytes).toBe(naive.bytes.get(line.port));
						expect(line.share).toBeLessThanOrEqual(1);
						saved++;
					}
			}),
			{ numRuns: 600 }
		);
		expect(compared).toBeGreaterThan(1000);
		expect(jittered).toBeGreaterThan(50);
		expect(saved).toBeGreaterThan(300);
	}, 120_000);

	it('of one message in an idle studio is what the trace says of it', () => {
		let compared = 0;
		fc.assert(
			fc.property(studios, (rig) => {
				const network = networkOf({
					...rig,
					hosts: rig.hosts.map((host) => ({ ...host, clock: false }))
				});
				for (const { id, port: socket } of rig.hosts.flatMap(({ ports }) => ports))
					for (let channel = 1; channel <= 8; channel++) {
						const only = {
							...network,
							lines: network.lines.map((line) =>
								line.port === socket ? line : { ...line, pipe: null, ownClock: false }
							)
						};
						const score = {
							targets: rig.devices.map((device) => device.id),
							atUs: Float64Array.of(0),
							to: Int32Array.of(-1),
							channels: Uint16Array.of(1 << (channel - 1)),
							status: Uint8Array.of(0x90 | (channel - 1)),
							bytes: Uint32Array.of(3),
							clockUs: new Float64Array(),
							clockSupposed: false,
							unheard: []
						};
						const report = simulate(score, only, { runningStatus: true, usb: true });
						const traced = trace(rig, { port: id }, channel);
						const told = (list: { id: string; ms: number }[]) =>
							Object.fromEntries(list.map((entry) => [entry.id, Math.round(entry.ms * 1000)]));
						const reached = traced.reached
							.filter(({ soft }) => !soft)
							.map(({ id, delayMs }) => ({ id, ms: delayMs }));
						const played = report.devices
							.filter(({ messages }) => messages > 0)
							.map(({ device, worstMs }) => ({ id: device, ms: worstMs }));
						expect(told(played)).toEqual(told(reached));
						compared += reached.length;
					}
			}),
			{ numRuns: 60 }
		);
		expect(compared).toBeGreaterThan(200);
	}, 60_000);
});
