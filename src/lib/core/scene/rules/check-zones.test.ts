import { describe, expect, it } from 'vitest';
import { applyEdits } from '../../edit';
import { setSchema } from '../set';
import { checkZones, ZONE_RULES } from './check-zones';
import type { SceneWiring } from './rule';

const keys = { id: 'keys', name: 'Upper keys', device: 'd-keys', sends: 1, keys: [36, 96] };
const lower = {
	id: 'lower',
	name: 'Lower keys',
	device: 'd-lower',
	sends: 2,
	keys: [21, 108],
	own: 'piano',
	local: false
};
const choir = { id: 'choir', name: 'Dome choir', device: 'd-choir', keys: [24, 108] };
const piano = { id: 'piano', name: 'Lower’s own', device: 'd-lower' };
const strings = { name: 'Strings', program: 4, from: 'drawer' };
const zone = (id: string, more: object = {}) => ({
	id,
	name: id,
	player: 'keys',
	keys: [36, 96],
	to: [{ instrument: 'choir', channel: 1 }],
	...more
});
const part = (more: object = {}) => ({ instrument: 'choir', channel: 1, sound: strings, ...more });
interface Parts {
	players?: object[];
	instruments?: object[];
	zones?: object[];
	parts?: object[];
}
const made = ({
	players = [keys, lower],
	instruments = [choir, piano],
	zones = [zone('Lead')],
	parts = [part()]
}: Parts) => setSchema.parse({ setup: { players, instruments, zones }, parts });

const open: SceneWiring = { stops: () => null, hears: () => [] };
const neighbour = (omni: boolean): SceneWiring => ({
	...open,
	hears: () => [
		{ device: 'd-choir', name: 'Dome choir', omni: false },
		{ device: 'd-x', name: 'Low brass', omni }
	]
});

/** A fault, how it is called, and whether its cure makes it go away by itself. */
const CASES: [rule: string, faulty: Parts, mended: boolean, wiring?: SceneWiring][] = [
	[
		'local and external',
		{
			players: [keys, { ...lower, local: true }],
			zones: [zone('Own', { player: 'lower', to: [{ instrument: 'piano', channel: 1 }] })],
			parts: [part({ instrument: 'piano' })]
		},
		true
	],
	['nothing there', { zones: [zone('Lead', { to: [] })] }, true],
	['nothing there', { zones: [zone('Lead', { to: [{ instrument: 'gone', channel: 1 }] })] }, true],
	['no way', {}, false, { ...open, stops: () => 'Nothing is plugged in.' }],
	[
		'more parts than there are',
		{
			instruments: [{ ...choir, parts: 1 }, piano],
			zones: [
				zone('Lead', { keys: [60, 96] }),
				zone('Bass', { keys: [36, 59], to: [{ instrument: 'choir', channel: 2 }] })
			],
			parts: [part(), part({ channel: 2 })]
		},
		false
	],
	['overlap', { zones: [zone('Bass', { keys: [36, 60] }), zone('Lead', { keys: [58, 96] })] }, true],
	['overlap', { zones: [zone('One'), zone('Other')] }, true],
	['floor above ceiling', { zones: [zone('Lead', { floor: 100, ceiling: 60 })] }, true],
	['away', { instruments: [{ ...choir, away: true }, piano] }, true],
	['channel played too', {}, false, neighbour(false)],
	['omni neighbour', {}, false, neighbour(true)],
	['two players on one channel', { players: [keys, { ...lower, sends: 1 }] }, true],
	['range', { zones: [zone('Lead', { octaves: 2 })] }, true],
	['range', { instruments: [{ ...choir, keys: [60, 72] }, piano] }, true],
	['beyond the player', { zones: [zone('Lead', { keys: [0, 20], octaves: 2 })] }, true],
	['gap', { zones: [zone('Bass', { keys: [36, 50] }), zone('Lead', { keys: [55, 96] })] }, true],
	['velocity gap', { zones: [zone('Soft', { struck: [1, 60] }), zone('Loud', { struck: [70, 127] })] }, true],
	['floor at full', { zones: [zone('Lead', { floor: 127 })] }, true],
	['pedal twice', { zones: [zone('Lead', { leaves: { controller: 64 } })] }, true],
	[
		'bank ignored',
		{
			instruments: [{ ...choir, banks: 'none' }, piano],
			parts: [part({ sound: { ...strings, msb: 1, lsb: 2 } })]
		},
		true
	],
	[
		'bank ignored',
		{
			instruments: [{ ...choir, banks: 'lsb' }, piano],
			parts: [part({ sound: { ...strings, msb: 1, lsb: 2 } })]
		},
		true
	],
	['bank wanted', { instruments: [{ ...choir, banks: 'both' }, piano] }, true],
	['bank wanted', { instruments: [{ ...choir, banks: 'msb' }, piano] }, true],
	['volume beyond 127', { parts: [part({ volume: 140 })] }, true],
	['counted from', { parts: [part({ sound: { ...strings, from: 'typed' } })] }, false],
	['no sound', { parts: [] }, false],
	['same section', { zones: [zone('Lead'), zone('Low', { player: 'lower' })] }, true],
	['a guess', { parts: [part({ sound: { ...strings, from: 'general midi' } })] }, false]
];

it('has a case for every rule, and finds nothing in what is as it should be', () => {
	expect([...new Set(CASES.map(([rule]) => rule))].sort()).toEqual([...ZONE_RULES].sort());
	expect(checkZones(made({}), open)).toEqual([]);
	expect(ZONE_RULES.length).toBeGreaterThanOrEqual(16);
});

describe.each(CASES)('%s', (rule, faulty, mended, wiring = open) => {
	it('is found, with a cure', () => {
		const set = made(faulty);
		const found = checkZones(set, wiring).filter((each) => each.rule === rule);
		expect(found.length).toBeGreaterThan(0);
		expect(found.every(({ cure }) => cure.edits.length > 0)).toBe(mended);
		if (!mended) return expect(found[0].cure.says).not.toBe('');
		// Each cure alone puts its finding right, and leaves a set that can be read.
		const after = setSchema.parse(applyEdits(set, found[0].cure.edits));
		expect(checkZones(after, wiring).filter((each) => each.rule === rule)).toHaveLength(found.length - 1);
	});
});

it('lets layers, crossfades and splits alone', () => {
	const zones = [
		zone('Soft', { struck: [1, 80], fadeOut: 20 }),
		zone('Loud', { struck: [61, 127], fadeIn: 20, to: [{ instrument: 'choir', channel: 2 }] }),
		zone('Drone', { keys: [36, 47], to: [{ instrument: 'choir', channel: 3 }] })
	];
	const set = made({ zones, parts: [part(), part({ channel: 2 }), part({ channel: 3 })] });
	expect(checkZones(set, open)).toEqual([]);
});

it('judges no ways where nobody knows the wiring, and no zone that is switched off', () => {
	const stops = { ...open, stops: () => 'Nothing is plugged in.' };
	expect(checkZones(made({}), null)).toEqual([]);
	expect(checkZones(made({ zones: [zone('Lead', { on: false, floor: 100, ceiling: 1 })] }), stops)).toEqual(
		[]
	);
});
