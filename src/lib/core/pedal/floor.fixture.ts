import type { z } from 'zod';
import { floorSchema, type Floor } from './floor';
import { JACK_KINDS, PEDAL_KINDS } from './kinds';

const jack = (kind: string, id: string) => ({
	...JACK_KINDS.find((each) => each.id === kind)!.jack,
	id,
	name: id
});
const pedal = (kind: string, id: string) => ({
	...PEDAL_KINDS.find((each) => each.id === kind)!.pedal,
	id,
	name: id
});

/** A box with five jacks, pedals of most kinds, and a line or two for a test to add. */
export const floorOf = (more: z.input<typeof floorSchema> = {}): Floor =>
	floorSchema.parse({
		boxes: [
			{
				id: 'box',
				name: 'Treadle',
				slots: 4,
				jacks: [
					jack('switch-set', 'one'),
					jack('switches', 'two'),
					jack('expression', 'exp'),
					jack('any', 'any'),
					jack('switch', 'plain'),
					jack('switch-senses', 'senses')
				],
				menus: [{ setting: 'Long press', path: 'System › Feet › Long' }]
			}
		],
		pedals: [
			pedal('switch-open', 'open'),
			pedal('switch-closed', 'closed'),
			pedal('switch-flips', 'flips'),
			pedal('two-switches', 'pair'),
			pedal('pot-tip', 'tip-pot'),
			pedal('pot-ring', 'ring-pot'),
			pedal('pot-falling', 'falling')
		],
		cables: [
			{ id: 'ts', name: 'Grey TS', kind: 'ts' },
			{ id: 'trs', name: 'Black TRS', kind: 'trs' }
		],
		...more
	});

export const lineAt = (jackId: string, pedalId: string, cable: string | null = null) => ({
	id: 'line',
	jacks: [{ box: 'box', jack: jackId }],
	cable,
	pedals: [pedalId]
});
