import { expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { decodeDump } from './dump';
import { editBufferMessage, recallMessages, recallOf } from './recall';
import { parseProfile } from './parse';
import { areaOf } from './slots';

const orrery = profileNamed('vellbrook-orrery');
const [programs] = orrery.areas;

it('counts program changes from the bank that a slot is in', () => {
	const area = {
		...programs,
		recall: [
			{ from: 0, program: 0, msb: 1, lsb: 0 },
			{ from: 40, program: 8, lsb: 3 }
		]
	};
	expect(recallOf(area, 39)).toEqual({ msb: 1, lsb: 0, program: 39 });
	expect(recallOf(area, 40)).toEqual({ msb: null, lsb: 3, program: 8 });
	expect(recallOf(area, 63)).toEqual({ msb: null, lsb: 3, program: 31 });
	expect(recallOf(area, 64)).toBeNull();
	expect(recallOf({ ...programs, recall: undefined }, 0)).toBeNull();
});

it('sends bank select before program change, on the channel', () => {
	expect(recallMessages({ msb: 1, lsb: 2, program: 3 }, 16).map((bytes) => [...bytes])).toEqual([
		[0xbf, 0, 1],
		[0xbf, 32, 2],
		[0xcf, 3]
	]);
	expect(recallMessages({ msb: null, lsb: null, program: 127 }, 1).map((bytes) => [...bytes])).toEqual([
		[0xc0, 127]
	]);
});

it('puts a record into the edit buffer, which no dump takes for a slot', () => {
	const record = Uint8Array.from({ length: 128 }, (_, i) => (i * 7) % 256);
	const message = editBufferMessage(orrery, areaOf(orrery, 'programs'), record, { deviceId: 5 })!;
	expect([...message.slice(0, 5)]).toEqual([0xf0, 0x7d, 0x21, 5, 3]);
	const dump = decodeDump(orrery, [message]);
	expect(dump.messages[0]).toMatchObject({ read: true, match: { pieces: [], memory: record } });
	expect(dump.slots).toEqual([]);
	expect(editBufferMessage(orrery, areaOf(orrery, 'system'), record, {})).toBeNull();
});

it.each([
	[{ recall: [{ from: 1 }] }, 'the first begins at slot 0'],
	[{ recall: [{ from: 0 }, { from: 64 }] }, 'none begins past the last slot'],
	[{ recall: [{ from: 0, program: 100 }] }, 'reaches 163'],
	[{ editBuffer: { send: 'bank-dump' } }, 'holds no single record'],
	[{ editBuffer: { send: 'nothing' } }, 'there is no message'],
	[{ recall: [] }, '>=1']
])('refuses %j', (change, says) => {
	const faulty = { ...orrery, areas: [{ ...programs, ...change }, ...orrery.areas.slice(1)] };
	let said = '';
	try {
		parseProfile(faulty);
	} catch (problem) {
		said = JSON.stringify(problem);
	}
	expect(said).toContain(says);
});
