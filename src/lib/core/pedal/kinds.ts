import { jackSchema, pedalSchema, type Jack, type Pedal } from './floor';
import type { z } from 'zod';

/** A pedal of a usual kind, to begin with: what is inside, by its contacts. */
export interface PedalKind {
	id: string;
	title: string;
	pedal: Omit<z.input<typeof pedalSchema>, 'id' | 'name'>;
}

export const PEDAL_KINDS: readonly PedalKind[] = [
	{
		id: 'switch-open',
		title: 'Foot switch, normally open, own TS plug',
		pedal: { plug: 'own-ts', parts: [{ is: 'switch' }] }
	},
	{
		id: 'switch-closed',
		title: 'Foot switch, normally closed, own TS plug',
		pedal: { plug: 'own-ts', parts: [{ is: 'switch', rest: 'closed' }] }
	},
	{
		id: 'switch-flips',
		title: 'Foot switch that exchanges open and closed, own TS plug',
		pedal: { plug: 'own-ts', parts: [{ is: 'switch' }], flips: true }
	},
	{
		id: 'switch-latching',
		title: 'Foot switch that latches, TS socket',
		pedal: { plug: 'socket-ts', parts: [{ is: 'switch', acts: 'latching' }] }
	},
	{
		id: 'two-switches',
		title: 'Two foot switches, TRS socket',
		pedal: {
			plug: 'socket-trs',
			parts: [
				{ is: 'switch', name: 'left', between: ['tip', 'sleeve'] },
				{ is: 'switch', name: 'right', between: ['ring', 'sleeve'] }
			]
		}
	},
	{
		id: 'two-switches-closed',
		title: 'Two foot switches, normally closed, TRS socket',
		pedal: {
			plug: 'socket-trs',
			parts: [
				{ is: 'switch', name: 'left', between: ['tip', 'sleeve'], rest: 'closed' },
				{ is: 'switch', name: 'right', between: ['ring', 'sleeve'], rest: 'closed' }
			]
		}
	},
	{
		id: 'pot-tip',
		title: 'Expression pedal, wiper on the tip, TRS socket',
		pedal: { plug: 'socket-trs', parts: [{ is: 'pot', ends: ['ring', 'sleeve'], wiper: 'tip' }] }
	},
	{
		id: 'pot-ring',
		title: 'Expression pedal, wiper on the ring, own TRS plug',
		pedal: { plug: 'own-trs', parts: [{ is: 'pot', ends: ['tip', 'sleeve'], wiper: 'ring' }] }
	},
	{
		id: 'pot-falling',
		title: 'Expression pedal that falls, wiper on the tip, own TRS plug',
		pedal: {
			plug: 'own-trs',
			parts: [{ is: 'pot', ends: ['ring', 'sleeve'], wiper: 'tip', heel: 1, toe: 0 }]
		}
	},
	{
		id: 'knob',
		title: 'Knob instead of a pedal, TRS socket',
		pedal: {
			plug: 'socket-trs',
			knob: true,
			parts: [{ is: 'pot', ends: ['ring', 'sleeve'], wiper: 'tip', kohm: 10 }]
		}
	}
];

/** A jack of a usual kind, to begin with. */
export interface JackKind {
	id: string;
	title: string;
	jack: Omit<z.input<typeof jackSchema>, 'id' | 'name'>;
}

const SWITCH = { id: 'switch', takes: 'switch' } as const;
const SWITCHES = { id: 'switches', takes: 'switches' } as const;
const ON_TIP = { id: 'expression', takes: 'expression', wiper: 'tip' } as const;
const ON_RING = { id: 'expression-ring', takes: 'expression', wiper: 'ring' } as const;

export const JACK_KINDS: readonly JackKind[] = [
	{ id: 'switch', title: 'One switch', jack: { socket: 'ts', modes: [SWITCH] } },
	{
		id: 'switch-set',
		title: 'One switch, open or closed in the menu',
		jack: { socket: 'ts', modes: [{ ...SWITCH, rest: 'set' }] }
	},
	{
		id: 'switch-senses',
		title: 'One switch, sensed when switched on',
		jack: { socket: 'ts', modes: [{ ...SWITCH, rest: 'at-power-on' }] }
	},
	{ id: 'switches', title: 'Two switches, tip and ring', jack: { modes: [{ ...SWITCHES, rest: 'set' }] } },
	{
		id: 'expression',
		title: 'Expression, wiper on the tip',
		jack: { modes: [{ ...ON_TIP, calibrates: true }] }
	},
	{
		id: 'expression-ring',
		title: 'Expression, wiper on the ring',
		jack: { modes: [{ ...ON_RING, calibrates: true }] }
	},
	{
		id: 'any',
		title: 'Switches or expression, as the menu says',
		jack: {
			modes: [
				{ ...ON_TIP, calibrates: true, reverses: true },
				{ ...ON_RING, calibrates: true, reverses: true },
				{ ...SWITCHES, rest: 'set' },
				{ ...SWITCH, rest: 'set', latching: true }
			]
		}
	}
];

/** A pedal of a usual kind. */
export const pedalOf = (kind: PedalKind, id: string, name: string): Pedal =>
	pedalSchema.parse({ ...kind.pedal, id, name });

/** A jack of a usual kind. */
export const jackOfKind = (kind: JackKind, id: string, name: string): Jack =>
	jackSchema.parse({ ...kind.jack, id, name });
