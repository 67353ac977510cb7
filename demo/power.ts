import { loadOfDevice, powerSchema, type Power } from '../src/lib/core/power';
import type { Studio } from '../src/lib/server/db/connection';
import { listDevices } from '../src/lib/server/gear';
import { takePower } from '../src/lib/server/power';

const nine = { volts: [9, 9], kind: 'DC', polarity: 'negative' } as const;

/**
 * The sound room's power: a box that hosts the pads on an output that cannot carry both, a pedal with a label that nobody has
 * read, a digital delay beside a sensitive preamplifier, and a hub of which nobody knows whether its supply is in.
 */
export const demoPower = (devices: readonly { id: string; name: string; power: string }[]): Power => {
	const of = (name: string) => devices.find((device) => device.name === name) ?? { id: '', name, power: '' };
	const load = (name: string, id: string, more: object = {}) => ({
		...loadOfDevice(of(name), id),
		device: of(name).id || null,
		...more
	});
	const supply = (name: string, id: string) => ({ id, name, device: of(name).id || null });
	return powerSchema.parse({
		margin: 20,
		hours: 3,
		loads: [
			load('Lantern delay', 'lantern-delay', { audio: 'digital' }),
			load('Lantern swell', 'lantern-swell', { audio: 'digital', startMa: 180 }),
			load('Treadle', 'treadle', { audio: 'none', hosts: [] }),
			{
				id: 'ferryman',
				name: 'Ferryman host box',
				...nine,
				ma: 90,
				hosts: [{ load: 'tiles', mode: 'on' }]
			},
			load('Tiles', 'tiles', { on: 'usb', ma: 180, selfFeeds: false }),
			{
				id: 'murmur',
				name: 'Murmur preamplifier',
				...nine,
				ma: 30,
				audio: 'sensitive',
				isolated: true
			},
			{ id: 'tin', name: 'Old tin phaser', volts: [9, 9], kind: 'DC' },
			load('Ferry 2', 'ferry-2', { on: 'usb', ma: 120 }),
			...['Span 61', 'Orrery', 'Parallax west'].map((name) =>
				load(name, name.toLowerCase().replace(' ', '-'), { on: 'own' })
			)
		],
		supplies: [
			{
				...supply('Feed 8', 'feed-8'),
				outputs: Array.from({ length: 8 }, (_, i) => ({
					id: `out-${i + 1}`,
					name: `Out ${i + 1}`,
					volts: [9],
					kind: 'DC',
					polarity: 'negative',
					ma: 200,
					isolated: i > 1
				}))
			},
			{
				...supply('Feed 3', 'feed-3'),
				outputs: Array.from({ length: 3 }, (_, i) => ({
					id: `out-${i + 1}`,
					name: `Out ${i + 1}`,
					volts: [9, 12],
					kind: 'DC',
					polarity: 'negative',
					ma: 500,
					isolated: true,
					group: 'all'
				})),
				groups: [{ id: 'all', ma: 1000 }]
			},
			{
				id: 'reel',
				name: 'Reel hub',
				is: 'hub',
				powered: null,
				outputs: Array.from({ length: 4 }, (_, i) => ({ id: `usb-${i + 1}`, name: `USB ${i + 1}`, ma: 500 }))
			}
		],
		cables: [
			{ load: 'lantern-delay', supply: 'feed-8', output: 'out-1' },
			{ load: 'murmur', supply: 'feed-8', output: 'out-2' },
			{ load: 'lantern-swell', supply: 'feed-8', output: 'out-3' },
			{ load: 'treadle', supply: 'feed-8', output: 'out-4' },
			{ load: 'ferryman', supply: 'feed-8', output: 'out-5' },
			{ load: 'tin', supply: 'feed-8', output: 'out-6' },
			{ load: 'ferry-2', supply: 'reel', output: 'usb-1' }
		]
	});
};

/** Notes the sound room's power. */
export async function makePower(studio: Studio): Promise<void> {
	await takePower(studio, { revision: 0, document: demoPower(await listDevices(studio)) });
}
