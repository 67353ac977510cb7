import { describe, expect, it } from 'vitest';
import { fromHex, toHex } from '../midi';
import { VirtualClock } from '../transfer';
import { Cable } from './cable';
import { faultSchema } from './faults';
import { seededRandom } from './random';

const message = (length: number) =>
	Uint8Array.from({ length }, (_, i) => (i === 0 ? 0xf0 : i === length - 1 ? 0xf7 : i & 0x7f));

function cable(...faults: unknown[]) {
	const clock = new VirtualClock();
	const arrived: { at: number; bytes: Uint8Array }[] = [];
	const left: { at: number; ok: boolean }[] = [];
	const pulled: number[] = [];
	let starved = 0;
	const on: Cable = new Cable('from device', clock, seededRandom(4), {
		deliver: (bytes) => arrived.push({ at: clock.now(), bytes }),
		pulled: (forMs) => {
			pulled.push(forMs);
			on.plugged = false;
		},
		starved: () => starved++
	});
	on.faults = faults.map((fault) => faultSchema.parse(fault));
	return {
		clock,
		on,
		arrived,
		left,
		pulled,
		starved: () => starved,
		send: (bytes: Uint8Array) => on.transmit(bytes, (ok) => left.push({ at: clock.now(), ok })),
		total: () => arrived.reduce((sum, { bytes }) => sum + bytes.length, 0)
	};
}

describe('a supply that fails', () => {
	it('is felt once, and what was on its way is lost with it; what is sent later arrives', () => {
		const line = cable({ kind: 'power cut', way: 'from device', times: 1, afterBytes: 100 });
		line.send(message(1000));
		line.send(message(20));
		line.clock.run();
		expect(line.starved()).toBe(1);
		expect(line.total()).toBeLessThan(150);
		expect(toHex(line.arrived.at(-1)!.bytes)).toBe(toHex(message(20)));
	});
});

describe('a sound cable', () => {
	it('takes 0.32 ms a byte, first in first out', () => {
		const line = cable();
		line.send(message(1000));
		line.send(message(10));
		line.clock.run();
		expect(line.left.map(({ at, ok }) => [Math.round(at * 100) / 100, ok])).toEqual([
			[320, true],
			[323.2, true]
		]);
		expect(line.total()).toBe(1010);
		expect(toHex(line.arrived.at(-1)!.bytes)).toBe(toHex(message(10)));
	});

	it('carries nothing while it is out, not even what was under way', () => {
		const line = cable();
		line.send(message(1000));
		line.clock.runUntil(100);
		const before = line.total();
		line.on.plugged = false;
		line.on.plugged = true;
		line.send(message(20));
		line.clock.run();
		expect(before).toBeLessThan(1000);
		expect(line.total()).toBe(before + 20);
		expect(line.left.map(({ ok }) => ok)).toEqual([true, false]);
	});
});

describe('faults', () => {
	it('lost bytes and flipped bits change what arrives, never when', () => {
		const lossy = cable({ kind: 'lose bytes', share: 0.1 });
		lossy.send(message(1000));
		lossy.clock.run();
		expect(lossy.total()).toBeGreaterThan(850);
		expect(lossy.total()).toBeLessThan(950);
		expect(lossy.left[0].at).toBeCloseTo(320);
		const noisy = cable({ kind: 'flip bits', share: 0.1 });
		noisy.send(message(1000));
		noisy.clock.run();
		const bytes = noisy.arrived.flatMap(({ bytes: part }) => [...part]);
		const wrong = bytes.filter((byte, i) => byte !== message(1000)[i]);
		expect(bytes).toHaveLength(1000);
		expect(wrong.length).toBeGreaterThan(50);
		expect(bytes.slice(1, -1).every((byte) => byte < 0x80)).toBe(true);
	});

	it('a truncated message has no end; the next one is whole', () => {
		const line = cable({ kind: 'truncate', afterBytes: 50, times: 1 });
		line.send(message(200));
		line.send(message(200));
		line.clock.run();
		expect(line.total()).toBe(250);
	});

	it('an adapter swallows long messages whole and lets short ones through', () => {
		const line = cable({ kind: 'drop long messages', longerThan: 100 });
		line.send(message(101));
		line.send(message(100));
		line.clock.run();
		expect(line.total()).toBe(100);
	});

	it('the cable comes out after so many bytes, once', () => {
		const line = cable({ kind: 'unplug', afterBytes: 300, forMs: 700 });
		line.send(message(1000));
		line.clock.run();
		expect(line.pulled).toEqual([700]);
		expect(line.total()).toBeLessThan(340);
		line.on.plugged = true;
		line.send(message(1000));
		line.clock.run();
		expect(line.pulled).toEqual([700]);
	});

	it('strike one direction only', () => {
		const line = cable({ kind: 'lose bytes', share: 1, way: 'to device' });
		line.send(message(40));
		line.clock.run();
		expect(line.total()).toBe(40);
	});

	it('are refused where they make no sense', () => {
		for (const bad of [
			{ kind: 'lose bytes', share: 2 },
			{ kind: 'gremlins' },
			{ kind: 'truncate', afterBytes: 0 },
			{ kind: 'slow memory', factor: 2, colour: 1 }
		])
			expect(faultSchema.safeParse(bad).success).toBe(false);
	});
});

it('bytes of a note travel as well as those of a dump', () => {
	const line = cable();
	line.send(fromHex('90 3c 40'));
	line.clock.run();
	expect(toHex(line.arrived[0].bytes)).toBe('903c40');
	expect(line.arrived[0].at).toBeCloseTo(0.96);
});
