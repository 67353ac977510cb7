import { describe, expect, it } from 'vitest';
import { profileNamed } from '../bench/bench.fixture';
import { factoryState, seededRandom } from '../bench';
import { readValue, writeName, writeParameter } from '../profile';
import { contentHash, lifeOf, type Stay } from '.';

const profile = profileNamed('ternhill-umbra');
const record = profile.records[profile.areas[0].record];
const known = new Map<string, Uint8Array>();
const keep = (bytes: Uint8Array) => {
	const hash = contentHash(bytes);
	known.set(hash, bytes);
	return hash;
};
const sounds = factoryState(profile, seededRandom(5)).memory.programs;
const a = keep(sounds[0]);
const [first] = record.parameters;
const turned = readValue(first, sounds[0]) === first.range[0] ? first.range[1] : first.range[0];
const a2 = keep(writeParameter(first, sounds[0], turned));
const a3 = keep(writeName(profile, record, known.get(a2)!, 'Renamed'));
const b = keep(sounds[17]);

let next = 1;
const stay = (
	slot: number,
	of: string,
	fromAt: string,
	toAt: string | null,
	device = 'hall',
	imported = false
): Stay => ({
	id: next++,
	deviceId: device,
	area: 'programs',
	slot,
	label: String(slot + 1),
	name: null,
	record: of,
	versionId: `v${next}`,
	fromAt: `2026-0${fromAt}-01T00:00:00.000Z`,
	toAt: toAt && `2026-0${toAt}-01T00:00:00.000Z`,
	imported
});
const life = (stays: Stay[], of = a) => lifeOf(profile, stays, of, (hash) => known.get(hash));
const told = (stays: Stay[], of = a) =>
	life(stays, of).events.map(({ kind, stay: { slot } }) => [kind, slot]);

describe('the life of a sound', () => {
	it('is told from its creation over edits and names to where it is now', () => {
		const stays = [
			stay(3, a, '1', '2'),
			stay(3, a2, '2', '3'),
			stay(3, a3, '3', null),
			stay(5, b, '1', null)
		];
		expect(told(stays)).toEqual([
			['created', 3],
			['edited', 3],
			['renamed', 3]
		]);
		// Any of its forms leads to the same life.
		expect(told(stays, a3)).toEqual(told(stays));
		expect(life(stays).now.map(({ slot }) => slot)).toEqual([3]);
		const [, edit] = life(stays).events;
		expect(edit.change!.parameters.map(({ id }) => id)).toEqual([first.id]);
	});

	it('follows moves and copies, to other devices too', () => {
		const stays = [
			stay(3, a, '1', '2'),
			stay(9, a, '2', null),
			stay(3, b, '2', null),
			stay(12, a, '4', null),
			stay(0, a, '5', null, 'stage')
		];
		expect(told(stays)).toEqual([
			['created', 3],
			['moved', 9],
			['copied', 12],
			['copied', 0]
		]);
		expect(life(stays).now.map(({ deviceId, slot }) => [deviceId, slot])).toEqual([
			['hall', 9],
			['hall', 12],
			['stage', 0]
		]);
		expect(told(stays, b)).toEqual([['created', 3]]);
	});

	it('finds a sound that was edited on its way to another slot', () => {
		expect(told([stay(3, a, '1', '2'), stay(3, b, '2', null), stay(8, a2, '2', null)], a2)).toEqual([
			['created', 3],
			['edited and moved', 8]
		]);
	});

	it('says when it was lost, and when it was brought back', () => {
		const lost = [stay(3, a, '1', '2'), stay(3, b, '2', null)];
		expect(told(lost)).toEqual([
			['created', 3],
			['lost', 3]
		]);
		expect(life(lost).now).toEqual([]);
		const back = [stay(3, a, '1', '2'), stay(3, b, '2', '3'), stay(3, a, '3', null)];
		expect(told(back)).toEqual([
			['created', 3],
			['brought back', 3]
		]);
	});

	it('a sound that was only ever seen in a file was not lost', () => {
		expect(told([stay(3, a, '1', '1', 'hall', true)])).toEqual([['created', 3]]);
	});
});
