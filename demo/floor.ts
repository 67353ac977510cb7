import { floorSchema, type Floor } from '../src/lib/core/pedal';
import type { Studio } from '../src/lib/server/db/connection';
import { takeFloor } from '../src/lib/server/floor';
import { listDevices } from '../src/lib/server/gear';

const expression = (wiper: 'tip' | 'ring', more: object = {}) => ({
	id: `expression-${wiper}`,
	takes: 'expression',
	wiper,
	feedKohm: 1,
	loadKohm: 1000,
	...more
});
const foot = (name: string, contact: 'tip' | 'ring', more: object = {}) => ({
	is: 'switch',
	name,
	between: [contact, 'sleeve'],
	...more
});
const sweep = (
	parameter: string,
	unit: string,
	from: object,
	least: number,
	most: number,
	more: object = {}
) => ({
	parameter,
	unit,
	from,
	least,
	most,
	...more
});

/**
 * The sound room's floor: a switch that acts when it is let go, two switches behind a cable with two contacts, a pedal that
 * is worn, one whose wiper lies on the other contact, and a knob instead of a pedal. `ids`: of the devices in Gear.
 */
export const demoFloor = (ids: ReadonlyMap<string, string>): Floor =>
	floorSchema.parse({
		boxes: [
			{
				id: 'treadle',
				name: 'Treadle',
				device: ids.get('Treadle') ?? null,
				slots: 4,
				jacks: [
					{
						id: 'feet-a',
						name: 'Feet A',
						modes: [
							{
								id: 'switches',
								takes: 'switches',
								rest: 'set',
								latching: true,
								pullKohm: 10,
								menu: 'Hold Pages › Feet A › Two',
								settingMenu: 'Hold Pages › Feet A › Rest'
							},
							{
								id: 'switch',
								takes: 'switch',
								rest: 'set',
								latching: true,
								pullKohm: 10,
								menu: 'Hold Pages › Feet A › One',
								settingMenu: 'Hold Pages › Feet A › Rest'
							}
						]
					},
					{
						id: 'sweep-b',
						name: 'Sweep B',
						modes: [
							expression('tip', {
								calibrates: true,
								reverses: true,
								menu: 'Hold Pages › Sweep B › Tip',
								settingMenu: 'Hold Pages › Sweep B › Learn'
							}),
							expression('ring', {
								calibrates: true,
								reverses: true,
								menu: 'Hold Pages › Sweep B › Ring',
								settingMenu: 'Hold Pages › Sweep B › Learn'
							})
						]
					},
					{
						id: 'sweep-c',
						name: 'Sweep C',
						modes: [
							expression('tip', {
								calibrates: true,
								reverses: true,
								menu: 'Hold Pages › Sweep C › Tip',
								settingMenu: 'Hold Pages › Sweep C › Learn'
							})
						]
					}
				],
				pages: [
					{
						id: 'show',
						name: 'Show',
						buttons: [
							{ id: 'b1', name: '1', short: 'Next song', long: 'First song' },
							{ id: 'b2', name: '2', short: 'Song before' },
							{ id: 'b3', name: '3', short: 'Tap tempo', long: 'Tempo to 60' },
							{ id: 'b4', name: '4', short: 'Lantern delay on', long: 'Lantern delay, long tail' },
							{ id: 'b5', name: '5', short: 'Lantern swell on' },
							{ id: 'b6', name: '6', short: 'House light up', long: 'House light down' }
						]
					},
					{
						id: 'doors',
						name: 'Doors',
						buttons: [
							{ id: 'b1', name: '1', short: 'Doors cue' },
							{ id: 'b2', name: '2', short: 'Stop all notes' },
							{ id: 'b3', name: '3' }
						]
					},
					{ id: 'encore', name: 'Encore', follows: 'show' }
				],
				spares: [
					{ id: 'left', name: 'left foot of Feet A' },
					{ id: 'right', name: 'right foot of Feet A' }
				],
				deputies: [{ spare: 'left', page: 'doors', button: 'b2' }],
				menus: [
					{ setting: 'Deputy of a button', path: 'Hold Pages › Deputies' },
					{ setting: 'Long press, how long', path: 'Hold Pages › Feel › Long' },
					{ setting: 'Slot of a pedal', path: 'Hold Pages › Slots' }
				]
			},
			{
				id: 'lantern-delay',
				name: 'Lantern delay',
				device: ids.get('Lantern delay') ?? null,
				jacks: [
					{
						id: 'foot',
						name: 'Foot',
						socket: 'ts',
						modes: [
							{
								id: 'switch',
								takes: 'switch',
								rest: 'set',
								pullKohm: 47,
								settingMenu: 'second press of Glow, then Foot'
							}
						]
					}
				],
				menus: [
					{ setting: 'Long press, how long', path: 'second press of Glow, then Hold' },
					{ setting: 'What the foot does', path: 'second press of Glow, then Task' }
				]
			},
			{
				id: 'orrery',
				name: 'Orrery',
				device: ids.get('Orrery') ?? null,
				jacks: [
					{
						id: 'hold',
						name: 'Hold',
						socket: 'ts',
						modes: [{ id: 'switch', takes: 'switch', rest: 'at-power-on' }]
					},
					{
						id: 'swell',
						name: 'Swell',
						modes: [expression('tip', { feedKohm: null, loadKohm: null })]
					}
				]
			}
		],
		pedals: [
			{
				id: 'hold',
				name: 'Brass hold pedal',
				plug: 'own-ts',
				flips: true,
				parts: [foot('', 'tip', { rest: 'closed' })],
				note: 'The small switch is under the rubber.'
			},
			{
				id: 'stomp',
				name: 'Grey stomp switch',
				plug: 'own-ts',
				parts: [foot('', 'tip', { rest: 'closed' })]
			},
			{
				id: 'twins',
				name: 'Twin feet',
				plug: 'socket-trs',
				parts: [foot('left', 'tip'), foot('right', 'ring')]
			},
			{
				id: 'old-sweep',
				name: 'Old sweep pedal',
				plug: 'socket-trs',
				parts: [{ is: 'pot', ends: ['ring', 'sleeve'], wiper: 'tip', kohm: 10, heel: 0.04, toe: 0.9 }],
				bench: { reads: [0.02, 0.93], noise: 1.4, holes: [[0.58, 0.61]] },
				note: 'Since the school shows it jumps on the way up.'
			},
			{
				id: 'slim-sweep',
				name: 'Slim sweep pedal',
				plug: 'own-trs',
				parts: [{ is: 'pot', ends: ['tip', 'sleeve'], wiper: 'ring', kohm: 25 }]
			},
			{
				id: 'knob',
				name: 'Knob at the desk',
				plug: 'socket-trs',
				knob: true,
				parts: [{ is: 'pot', ends: ['ring', 'sleeve'], wiper: 'tip', kohm: 10 }]
			}
		],
		cables: [
			{ id: 'thin', name: 'Thin grey cable', kind: 'ts' },
			{ id: 'black', name: 'Black cable, two rings', kind: 'trs' },
			{ id: 'red', name: 'Red cable, two rings', kind: 'trs' }
		],
		lines: [
			{ id: 'twins', jacks: [{ box: 'treadle', jack: 'feet-a' }], cable: 'thin', pedals: ['twins'] },
			{
				id: 'old',
				jacks: [{ box: 'treadle', jack: 'sweep-b' }],
				cable: 'black',
				pedals: ['old-sweep'],
				sends: { controller: 11, channel: 16 }
			},
			{
				id: 'slim',
				jacks: [{ box: 'treadle', jack: 'sweep-c' }],
				pedals: ['slim-sweep'],
				sends: { controller: 4, channel: 16 }
			},
			{ id: 'stomp', jacks: [{ box: 'lantern-delay', jack: 'foot' }], pedals: ['stomp'] },
			{ id: 'hold', jacks: [{ box: 'orrery', jack: 'hold' }], pedals: ['hold'] }
		],
		feeds: [
			{ box: 'treadle', slot: 1, line: 'old' },
			{ box: 'treadle', slot: 2, line: 'old' },
			{ box: 'treadle', slot: 3, line: 'slim' }
		],
		presets: [
			{
				id: 'dusk',
				box: 'treadle',
				name: 'Dusk',
				reads: [
					sweep('Level of the hall', 'dB', { slot: 1 }, -18, -6),
					sweep('Delay mix', '%', { slot: 2 }, 20, 65, {
						response: { shape: 'slow start' },
						engages: { above: 0.04, waitMs: 60, releaseMs: 900 }
					})
				]
			},
			{
				id: 'comet',
				box: 'treadle',
				name: 'Comet',
				reads: [sweep('Level of the hall', 'dB', { slot: 1 }, -12, 0)]
			},
			{
				id: 'eclipse',
				box: 'treadle',
				name: 'Eclipse',
				reads: [sweep('Cutoff', 'Hz', { jack: 'sweep-c' }, 200, 4000, { response: { shape: 'slow start' } })]
			},
			{
				id: 'dawn',
				box: 'treadle',
				name: 'Dawn',
				reads: [
					sweep('Cutoff', 'Hz', { jack: 'sweep-c' }, 400, 9000),
					sweep('Level of the hall', 'dB', { slot: 1 }, -24, -6)
				]
			}
		]
	});

/** Lays the sound room's floor out. */
export async function makeFloor(studio: Studio): Promise<void> {
	const ids = new Map((await listDevices(studio)).map(({ id, name }) => [name, id]));
	await takeFloor(studio, { revision: 0, document: demoFloor(ids) });
}
