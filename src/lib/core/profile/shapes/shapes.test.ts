import { describe, expect, it } from 'vitest';
import { workbench } from '../../bench/bench.fixture';
import { decodeDump, makeSlot, meaningOf, parseProfile, readValue, writeParameter, type Profile } from '..';
import { MANUAL_PAGES } from './manual-pages.fixture';
import { patternParts, type Carries } from './pattern';
import { firstAnswers, SHAPE_IDS, SHAPES } from './questions';
import { writeProfile } from './write';

const pageOf = ({ shape, typed }: (typeof MANUAL_PAGES)[number]): Profile => {
	const { profile, faults } = writeProfile(shape, { ...firstAnswers(shape), ...typed });
	expect(faults).toEqual({});
	return parseProfile(profile);
};

describe('a profile that is written from answers', () => {
	it('is one from the start, for every shape: what was not answered yet is an example', () => {
		for (const id of SHAPE_IDS) {
			const { profile, faults } = writeProfile(id, firstAnswers(id));
			expect(faults, id).toEqual({});
			expect(() => parseProfile(profile), id).not.toThrow();
		}
	});

	it('has a manual page for every shape', () => {
		expect(new Set(MANUAL_PAGES.map(({ shape }) => shape))).toEqual(new Set(SHAPE_IDS));
		for (const { shape, typed } of MANUAL_PAGES) {
			const asked = SHAPES.find(({ id }) => id === shape)!.questions.map(({ id }) => id);
			for (const id of Object.keys(typed)) expect(asked).toContain(id);
		}
	});

	it.each(MANUAL_PAGES.map((page) => [page.unit, page] as const))(
		'from the manual page of the %s: reads it, brings a changed sound back to it, and proves it',
		(unit, page) => {
			const profile = pageOf(page);
			const bench = workbench(unit, 7);
			Object.assign(bench.unit.state.settings, { protect: 0, exclusive: 1 });
			const target = { deviceId: profile.addressing.deviceId?.default ?? 0, channel: 1 };
			const area = bench.profile.areas[0].id;
			const memory = () => bench.unit.state.memory[area].map((bytes) => [...bytes]);
			const before = memory();
			const read = bench.capture({ profile, target });
			expect(read.status).toBe('complete');
			const { slots, messages } = decodeDump(profile, read.messages);
			expect(messages.every((message) => message.read)).toBe(true);
			expect(slots.map(({ bytes }) => [...bytes])).toEqual(before);

			const [{ id: own, record }] = profile.areas;
			const parameter = profile.records[record].parameters.find(({ name }) => name === page.turns)!;
			const at = Math.min(3, slots.length - 1);
			const meaning = meaningOf(profile.records[record], parameter, slots[at].bytes);
			const value = readValue(meaning, slots[at].bytes);
			const bytes = writeParameter(
				meaning,
				slots[at].bytes,
				value === meaning.range[1] ? value - 1 : value + 1
			);
			expect(bench.restore({ profile, target, wanted: [makeSlot(profile, own, at, bytes)] }).status).toBe(
				'verified'
			);
			expect(memory()).toEqual(before.with(at, [...bytes]));
			expect(bench.restore({ profile, target, wanted: [slots[at]] }).status).toBe('verified');
			expect(memory()).toEqual(before);
		}
	);
});

describe('what cannot be read', () => {
	const faults = (typed: Record<string, string>, shape: (typeof SHAPE_IDS)[number] = 'by-slot') =>
		writeProfile(shape, { ...firstAnswers(shape), ...typed });

	it.each<[string, Record<string, string>, string]>([
		['identity', { identity: '7D 66 00' }, 'three groups'],
		['deviceIds', { deviceIds: '15-0' }, '0-15'],
		['slots', { slots: 'many' }, 'a whole number'],
		['request', { request: '7D 10 F7' }, 'begins with F0'],
		['request', { request: 'F0 7D <program> F7' }, 'is no place'],
		['dump', { dump: 'F0 7D <slot> <sum> F7' }, 'carries <data> once'],
		['dump', { dump: 'F0 7D <data> <sum>' }, 'ends with F7'],
		['dump', { dump: 'F0 7D G1 <data> F7' }, 'is no byte'],
		['dump', { dump: 'F0 7D [ <data> <sum> F7' }, 'the [ has no ]'],
		['dump', { dump: 'F0 <data> <sum> <sum> F7' }, 'one <sum>'],
		['dump', { checksum: 'none' }, 'no checksum is chosen'],
		['name', { name: '30, 8' }, '32 bytes'],
		['parameters', { parameters: '40: Cutoff: 0-127' }, '32 bytes'],
		['parameters', { parameters: '4: Cutoff' }, 'values are missing'],
		['parameters', { parameters: 'x: Cutoff: 0-127' }, 'begins with its byte']
	])('%s: %o', (id, typed, says) => {
		const { profile, faults: found } = faults(typed);
		expect(profile).toBeNull();
		expect(Object.keys(found)).toEqual([id]);
		expect(found[id]).toContain(says);
	});

	it.each<[Record<string, string>, string]>([
		[{ told: 'cc: Cutoff: 0-127' }, 'one number'],
		[{ told: 'nrpn 1: Tune: 0-127' }, 'two halves'],
		[{ told: 'knob 1: Tune: 0-127' }, 'begins with cc'],
		[{ told: '' }, 'at least one'],
		[{ told: 'cc 1: A: 5-5' }, 'upwards']
	])('a told value: %o', (typed, says) => {
		expect(faults(typed, 'told').faults.told).toContain(says);
	});

	it.each<[Record<string, string>, string]>([
		[{ sections: 'Common: 32: at zero' }, 'is written as in'],
		[{ sections: 'Layer: 32 x4: at 01 00' }, 'of several'],
		[{ sections: '' }, 'at least one'],
		[{ sections: 'Common: many: at 00 00' }, 'how many bytes']
	])('a block of addressed memory: %o', (typed, says) => {
		expect(faults(typed, 'addressed').faults.sections).toContain(says);
	});
});

describe('a message as a manual writes it', () => {
	const carries: Carries = {
		data: { part: 'memory', packing: 'plain' },
		checksum: 'sum-7',
		over: 'wire',
		together: 8
	};
	it('has its bytes joined, its places with widths, orders and offsets, and its checksum over what stands in brackets', () => {
		expect(patternParts('f0 7d [ 01 <slot 2 low> <30+part> <data> ] <sum> f7', carries).parts).toEqual([
			{ part: 'bytes', bytes: 'F0 7D' },
			{ part: 'bytes', bytes: '01', name: 'covered' },
			{ part: 'variable', variable: 'slot', width: 2, order: 'low-first', add: 0, divide: 8 },
			{ part: 'variable', variable: 'part', width: 1, add: 0x30, divide: 1 },
			{ part: 'memory', packing: 'plain', name: 'data' },
			{ part: 'checksum', checksum: 'sum-7', from: 'covered', to: 'data' },
			{ part: 'bytes', bytes: 'F7' }
		]);
	});
});
