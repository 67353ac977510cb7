import { describe, expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { fromHex } from '../midi';
import { fileExpects, programsToDesk } from './file-expects';
import { setSchema } from './set';

const heard = (...lines: string[]) =>
	lines.map((line, i) => {
		const [at, hex] = line.includes(':') ? line.split(':') : [String(i), line];
		return { atMs: Number(at), bytes: fromHex(hex) };
	});

describe('what a file expects', () => {
	it('is told by channel: programs with the bank that stood there, range, and notes at once', () => {
		const { channels } = fileExpects(
			heard('0:b00001', '0:b02002', '0:c005', '10:903c40', '20:904840', '30:803c00', '40:c007', '50:913040'),
			60
		);
		expect(channels).toEqual([
			{
				channel: 1,
				programs: [
					{ atMs: 0, msb: 1, lsb: 2, program: 5 },
					{ atMs: 40, msb: 1, lsb: 2, program: 7 }
				],
				notes: 2,
				keys: [60, 72],
				most: 2,
				unsaid: false
			},
			{ channel: 2, programs: [], notes: 1, keys: [48, 48], most: 1, unsaid: true }
		]);
	});

	it('goes beyond General MIDI by banks, notes at once, drums without a place, and makers’ messages, each named', () => {
		const says = (...lines: string[]) => fileExpects(heard(...lines), 1000).beyondGeneralMidi.join(' ');
		const many = (n: number) => Array.from({ length: n }, (_, i) => `0:90${(30 + i).toString(16)}40`);
		expect(says('b00000', 'c005', '992340', '995140', ...many(22))).toBe('');
		expect(says('b00001', 'c005')).toContain('banks on channel 1');
		expect(says('c005', 'b00001')).toBe('');
		expect(says(...many(25))).toContain('25 notes at once');
		expect(says('992240')).toContain('35–81');
		expect(says('995240')).toContain('35–81');
		expect(says('902240')).toBe('');
		expect(says('f07d0102f7')).toContain('1 messages of makers');
		expect(says('f07e7f0903f7')).toContain('General MIDI 2');
	});

	it('says whether it turns General MIDI on, by the last word', () => {
		const on = (...lines: string[]) => fileExpects(heard(...lines), 10).turnsOn;
		expect(on('c005')).toBeNull();
		expect(on('f07e7f0901f7')).toBe(true);
		expect(on('f07e7f0901f7', 'f07e7f0902f7')).toBe(false);
	});
});

describe('its first programs on the desk', () => {
	const set = setSchema.parse({
		setup: {
			players: [{ id: 'p', name: 'Span' }],
			instruments: [
				{ id: 'a', name: 'A' },
				{ id: 'b', name: 'B' }
			],
			zones: [
				{
					id: 'z',
					name: 'Z',
					player: 'p',
					to: [
						{ instrument: 'a', channel: 1 },
						{ instrument: 'a', channel: 2 },
						{ instrument: 'a', channel: 3 },
						{ instrument: 'b', channel: 3 }
					]
				}
			]
		},
		parts: [{ instrument: 'a', channel: 1, volume: 80 }]
	});

	it('go where exactly one instrument plays on the channel, and leave its volume', () => {
		const expects = fileExpects(heard('c005', 'c006', 'c107', 'c208', 'c309'), 10);
		const after = setSchema.parse(applyEdits(set, programsToDesk(set, expects)));
		expect(
			after.parts.map(({ instrument, channel, sound, volume }) => [
				instrument,
				channel,
				sound?.program,
				sound?.from,
				volume
			])
		).toEqual([
			['a', 1, 5, 'general midi', 80],
			['a', 2, 7, 'general midi', null]
		]);
	});
});
