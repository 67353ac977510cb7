import { describe, expect, it } from 'vitest';
import { workbench } from '../bench/bench.fixture';
import { fromHex, toHex } from '../midi';
import { decodeDump, makeSlot, type Slot } from '../profile';
import type { SafetyCopy } from '.';

type Bench = ReturnType<typeof workbench>;

/** A bench whose memory may be written, and the slots of another unit of the model. */
function ready(id: string): {
	bench: Bench;
	other: (...indices: number[]) => Slot[];
	held: (index: number) => string;
} {
	const bench = workbench(id, 21);
	bench.unit.state.settings.protect = 0;
	if (id === 'quillon-nadir') bench.unit.state.settings.exclusive = 1;
	const area = bench.profile.areas[0].id;
	const donor = workbench(id, 22).unit.state.memory[area];
	return {
		bench,
		other: (...indices) => indices.map((index) => makeSlot(bench.profile, area, index, donor[index])),
		held: (index) => toHex(bench.unit.state.memory[area][index])
	};
}

describe('the safety copy', () => {
	it.each(['vellbrook-orrery', 'tarnow-parallax', 'quillon-nadir', 'ternhill-umbra'])(
		'of a %s holds exactly what the restore overwrites',
		(id) => {
			const { bench, other, held } = ready(id);
			const before = [3, 4].map(held);
			const outcome = bench.restore({ wanted: other(3, 4) });
			expect(outcome.status).toBe('verified');
			const { outcome: copy } = bench.kept[0] as SafetyCopy;
			const kept = new Map(
				decodeDump(bench.profile, copy.messages).slots.map((slot) => [slot.index, toHex(slot.bytes)])
			);
			expect([3, 4].map((index) => kept.get(index))).toEqual(before);
			// And it brings the old sounds back.
			const back = decodeDump(bench.profile, copy.messages).slots;
			expect(bench.restore({ wanted: back }).status).toBe('verified');
			expect([3, 4].map(held)).toEqual(before);
		}
	);

	it('comes before the first byte that is written', () => {
		const { bench, other } = ready('tarnow-parallax');
		let keptAt = -1;
		const push = bench.kept.push.bind(bench.kept);
		bench.kept.push = (...what) => {
			keptAt = bench.trace.length;
			return push(...what);
		};
		bench.restore({ wanted: other(0, 1) });
		const firstWrite = bench.trace.findIndex(({ way, bytes }) => way === 'sent' && bytes[4] === 0x21);
		expect(keptAt).toBeGreaterThan(0);
		expect(firstWrite).toBeGreaterThanOrEqual(keptAt);
	});
});

describe('what is already there', () => {
	it('is not sent again', () => {
		const { bench } = ready('tarnow-parallax');
		const wanted = [5, 6].map((index) =>
			makeSlot(bench.profile, 'programs', index, bench.unit.state.memory.programs[index])
		);
		const outcome = bench.restore({ wanted });
		expect(outcome).toMatchObject({ status: 'verified', reason: null });
		expect(outcome.slots.map(({ result }) => result)).toEqual(['already there', 'already there']);
		expect(bench.trace.some(({ way, bytes }) => way === 'sent' && bytes[4] === 0x21)).toBe(false);
	});

	it('nothing chosen is nothing to do', () => {
		const { bench } = ready('tarnow-parallax');
		expect(bench.restore({ wanted: [] })).toMatchObject({
			status: 'refused',
			reason: { code: 'nothing to do' }
		});
		expect(bench.trace).toEqual([]);
	});
});

describe('a device that answers', () => {
	it('is waited for while it is busy', () => {
		const { bench, other } = ready('tarnow-parallax');
		// Every eighth slot fills a memory page, for which the device asks for patience.
		expect(bench.restore({ wanted: other(7, 15, 23) }).status).toBe('verified');
		expect(bench.trace.filter(({ way, bytes }) => way === 'received' && bytes[4] === 0x72)).toHaveLength(3);
	});

	it('is sent a message again when it rejects it, as often as the profile says', () => {
		const { bench, other } = ready('tarnow-parallax');
		bench.station.faults = [{ kind: 'flip bits', way: 'to device', share: 0.02 }];
		const outcome = bench.restore({ wanted: other(1, 2, 3, 4, 5, 6) });
		expect(bench.events.some((event) => event.event === 'retry')).toBe(true);
		for (const slot of outcome.slots) if (slot.result === 'verified') expect(slot.found).toBeUndefined();
	});

	it('that is protected half way leaves an honest list', () => {
		const { bench, other } = ready('tarnow-parallax');
		const wanted = other(0, 1, 2, 3, 4, 5);
		bench.unit.changed = () => {
			// Somebody flips the switch after the second program was stored.
			if (toHex(bench.unit.state.memory.programs[1]) === toHex(wanted[1].bytes))
				bench.unit.state.settings.protect = 1;
		};
		const outcome = bench.restore({ wanted });
		expect(outcome).toMatchObject({ status: 'incomplete', reason: { code: 'protected' } });
		expect(outcome.slots.map(({ result }) => result)).toEqual([
			'verified',
			'verified',
			'not sent',
			'not sent',
			'not sent',
			'not sent'
		]);
	});
});

describe('reading back', () => {
	it('names the slots that differ, with what they hold instead', () => {
		const { bench, other } = ready('ternhill-umbra');
		const wanted = other(8, 9);
		const store = bench.unit.state.memory.programs;
		bench.unit.changed = () => {
			// A worn memory cell: slot 9 never takes what it is sent.
			if (toHex(store[8]) === toHex(wanted[0].bytes)) bench.unit.state.memory.programs[9] = store[10].slice();
		};
		const outcome = bench.restore({ wanted });
		expect(outcome.status).toBe('differs');
		expect(outcome.reason!.says).toBe('1 slot differs from what was sent.');
		expect(outcome.slots[0]).toMatchObject({ index: 8, result: 'verified' });
		expect(outcome.slots[1]).toMatchObject({ index: 9, result: 'differs', found: expect.any(String) });
		// A retry takes just that one.
		bench.unit.changed = () => undefined;
		bench.trace.length = 0;
		expect(bench.restore({ wanted: [wanted[1]] }).status).toBe('verified');
		const written = bench.trace.filter(({ way, bytes }) => way === 'sent' && bytes[4] === 0x00);
		expect(written.map(({ bytes }) => bytes[5])).toEqual([9]);
	});

	it('notices a neighbour that was harmed along the way', () => {
		const { bench, other } = ready('vellbrook-orrery');
		const [wanted] = other(7);
		bench.unit.changed = () => {
			if (toHex(bench.unit.state.memory.programs[7]) === toHex(wanted.bytes))
				bench.unit.state.memory.programs[40] = wanted.bytes.slice();
		};
		const outcome = bench.restore({ wanted: [wanted] });
		expect(outcome.status).toBe('differs');
		expect(outcome.slots.map(({ index, result }) => [index, result])).toEqual([
			[7, 'verified'],
			[40, 'differs']
		]);
	});
});

it('a pace that is slower stretches the rests between messages', () => {
	const time = (paceFactor: number) => {
		const { bench, other } = ready('bessel-lantern');
		bench.restore({ wanted: other(0, 1, 2, 3), paceFactor });
		return bench.clock.now();
	};
	// Four messages with 40 ms after each.
	expect(time(5) - time(1)).toBeCloseTo(4 * 4 * 40, 0);
});

it('long messages go out in pieces where the profile says so', () => {
	const { bench, other } = ready('ternhill-umbra');
	const outcome = bench.restore({ wanted: other(...Array.from({ length: 50 }, (_, i) => i)) });
	expect(outcome.status).toBe('verified');
	const sizes = bench.trace
		.filter(({ way, bytes }) => way === 'sent' && bytes.length > 100)
		.map(({ bytes }) => bytes.length);
	expect(Math.max(...sizes, 0)).toBeLessThanOrEqual(256);
	// The first piece alone begins a message, the last alone ends it.
	const pieces = bench.trace.filter(({ way, bytes }) => way === 'sent' && bytes.length > 100);
	if (pieces.length > 0) expect(pieces[0].bytes.subarray(0, 5)).toEqual(fromHex('f0 7d 66 00 01'));
});

describe('what a restore was worked out from', () => {
	it.each(['vellbrook-orrery', 'harbeck-cairn', 'merrow-skiff'])(
		'of a %s: where a slot holds another sound by now, nothing is written, and what it holds is kept',
		(id) => {
			const { bench, other, held } = ready(id);
			const area = bench.profile.areas[0].id;
			const thought = [3, 4].map((index) =>
				makeSlot(bench.profile, area, index, bench.unit.state.memory[area][index].slice())
			);
			const saved = other(7)[0].bytes;
			bench.unit.state.memory[area][4] = saved.slice();
			const before = [3, 4].map(held);
			const outcome = bench.restore({ wanted: other(3, 4), expected: thought });
			expect(outcome).toMatchObject({ status: 'refused', reason: { code: 'changed since' }, touched: [] });
			expect([3, 4].map(held)).toEqual(before);
			const { outcome: copy } = bench.kept[0] as SafetyCopy;
			const kept = decodeDump(bench.profile, copy.messages).slots.find(({ index }) => index === 4);
			expect(toHex(kept!.bytes)).toBe(toHex(saved));
		}
	);

	it('goes on where a slot holds already what it shall hold: an earlier restore got that far', () => {
		const { bench, other, held } = ready('vellbrook-orrery');
		const area = bench.profile.areas[0].id;
		const expected = [3, 4].map((index) =>
			makeSlot(bench.profile, area, index, bench.unit.state.memory[area][index].slice())
		);
		const wanted = other(3, 4);
		bench.unit.state.memory[area][3] = wanted[0].bytes.slice();
		expect(bench.restore({ wanted, expected }).status).toBe('verified');
		expect([3, 4].map(held)).toEqual(wanted.map(({ bytes }) => toHex(bytes)));
	});
});
