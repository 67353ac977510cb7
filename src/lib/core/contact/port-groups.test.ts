import { describe, expect, it } from 'vitest';
import type { PresentPort } from '../gear';
import { groupPorts, isOwnPort, portCount } from '.';

const ports = (direction: 'in' | 'out', names: string[], manufacturer = 'Kestwick'): PresentPort[] =>
	names.map((name, i) => ({ id: `${direction}${i}${name}`, name, manufacturer, direction }));
const told = (present: PresentPort[]) =>
	groupPorts(present).map(({ name, ins, outs }) => [
		name,
		ins.map(({ number }) => number),
		outs.map(({ number }) => number)
	]);

describe('ports of the computer, as the things that are plugged in', () => {
	it.each([
		[
			'a word before the number',
			['Ferry 8 Port 1', 'Ferry 8 Port 2', 'Ferry 8 Port 3'],
			'Ferry 8',
			[1, 2, 3]
		],
		['the usual MIDI n', ['Ferry 8 MIDI 1', 'Ferry 8 MIDI 2'], 'Ferry 8', [1, 2]],
		[
			'brackets for all but the first',
			['Ferry 8', 'MIDIIN2 (Ferry 8)', 'MIDIIN3 (Ferry 8)'],
			'Ferry 8',
			[1, 2, 3]
		],
		[
			'bare numbers that run from one',
			['Cutter 1', 'Cutter 2', 'Cutter 3', 'Cutter 4'],
			'Cutter',
			[1, 2, 3, 4]
		],
		['none for the first', ['Cutter', 'Cutter 2', 'Cutter 3'], 'Cutter', [1, 2, 3]],
		['numbers from nought', ['Cutter Port 0', 'Cutter Port 1'], 'Cutter', [1, 2]],
		['a unit’s number in front', ['2- Ferry 8 Port 1', '2- Ferry 8 Port 2'], 'Ferry 8', [1, 2]],
		['one port, with a number in the model', ['Ferry 8'], 'Ferry 8', [1]],
		['one port, with the word for its direction', ['Halloran MIDI Out'], 'Halloran', [1]]
	])('%s', (_, names, name, numbers) => {
		expect(told(ports('in', names))).toEqual([[name, numbers, []]]);
	});

	it('keeps two interfaces of one maker apart where the numbers are those of the models', () => {
		expect(told(ports('in', ['Ferry 8', 'Ferry 2']))).toEqual([
			['Ferry 8', [1], []],
			['Ferry 2', [1], []]
		]);
	});

	it('makes two of two units that show equal names', () => {
		const names = ['Ferry 2 Port 1', 'Ferry 2 Port 2', 'Ferry 2 Port 1', 'Ferry 2 Port 2'];
		expect(told([...ports('in', names), ...ports('out', names)])).toEqual([
			['Ferry 2', [1, 2], [1, 2]],
			['Ferry 2 (2)', [1, 2], [1, 2]]
		]);
	});

	it('does not join makers, and counts the ways', () => {
		const groups = groupPorts([
			...ports('in', ['Port 1', 'Port 2'], 'Kestwick'),
			...ports('out', ['Port 1'], 'Aldous')
		]);
		expect(groups.map(({ maker }) => maker)).toEqual(['Kestwick', 'Aldous']);
		expect(groups.map(portCount)).toEqual(['2 in', '1 out']);
	});

	it('takes a lone port that is named as the model for the instrument’s own', () => {
		const [own] = groupPorts([...ports('in', ['Orrery MIDI']), ...ports('out', ['Orrery MIDI'])]);
		expect(isOwnPort(own, ['Orrery', 'Vellbrook Orrery'])).toBe(true);
		expect(isOwnPort(own, ['Parallax'])).toBe(false);
		const [ferry] = groupPorts(ports('in', ['Orrery Port 1', 'Orrery Port 2']));
		expect(isOwnPort(ferry, ['Orrery'])).toBe(false);
	});
});
