import { describe, expect, it } from 'vitest';
import { matchPorts, nameLikeness, type PresentPort, type RememberedPort } from '.';

const port = (id: string, name: string, manufacturer = 'Ferrow'): PresentPort => ({
	id,
	name,
	manufacturer,
	direction: 'out'
});
const memory = (key: string, id: string, name: string, manufacturer = 'Ferrow'): RememberedPort => ({
	key,
	id,
	name,
	manufacturer,
	direction: 'out'
});
const found = (remembered: RememberedPort[], present: PresentPort[]) =>
	matchPorts(remembered, present).map(({ key, port: at, how }) => [key, at?.id ?? null, how]);

describe('ports that were seen before', () => {
	it('are found by id, by name after a re-plug, and by a like name after a rename', () => {
		const remembered = [memory('1', 'a', 'Ferry 8 Port 1'), memory('2', 'b', 'Ferry 8 Port 2')];
		expect(found(remembered, [port('a', 'Ferry 8 Port 1'), port('b', 'Ferry 8 Port 2')])).toEqual([
			['1', 'a', 'same'],
			['2', 'b', 'same']
		]);
		expect(found(remembered, [port('x', 'Ferry 8 Port 2'), port('y', 'Ferry 8 Port 1')])).toEqual([
			['1', 'y', 'by name'],
			['2', 'x', 'by name']
		]);
		expect(found(remembered, [port('x', '2- Ferry 8 Port 1'), port('y', '2- Ferry 8 Port 2')])).toEqual([
			['1', 'x', 'renamed'],
			['2', 'y', 'renamed']
		]);
	});

	it('an id that now belongs to another name is not trusted over the name', () => {
		expect(
			found([memory('1', 'a', 'Ferry 8 Port 1')], [port('a', 'Ferry 8 Port 2'), port('b', 'Ferry 8 Port 1')])
		).toEqual([['1', 'b', 'by name']]);
	});

	it('what is not there is absent, and nothing is guessed between equals', () => {
		expect(found([memory('1', 'a', 'Ferry 8 Port 1')], [port('z', 'Skua Control')])).toEqual([
			['1', null, 'absent']
		]);
		expect(
			found([memory('1', 'a', 'Ferry Port')], [port('x', 'Ferry Port A'), port('y', 'Ferry Port B')])
		).toEqual([['1', null, 'absent']]);
	});

	it('likeness is by words, numbers apart', () => {
		expect(nameLikeness('Ferry 8 Port 1', '2- Ferry 8 Port 1')).toBeGreaterThan(
			nameLikeness('Ferry 8 Port 2', '2- Ferry 8 Port 1')
		);
		expect(nameLikeness('', 'Ferry')).toBe(0);
	});

	it('a two-way socket is its in for one direction and its out for the other', () => {
		const both = [
			memory('usb', 'o', 'Pebble'),
			{ ...memory('usb', 'i', 'Pebble'), direction: 'in' as const }
		];
		const present = [port('o', 'Pebble'), { ...port('i', 'Pebble'), direction: 'in' as const }];
		expect(matchPorts(both, present).map(({ port: at }) => [at?.direction, at?.id])).toEqual([
			['out', 'o'],
			['in', 'i']
		]);
		expect(matchPorts(both, present.slice(0, 1)).map(({ how }) => how)).toEqual(['same', 'absent']);
	});
});
