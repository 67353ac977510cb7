import { makeFirmware, seededRandom } from '../src/lib/core/bench';
import { dayAfter, powerOnSchema, serviceBookSchema } from '../src/lib/core/care';
import type { Studio } from '../src/lib/server/db/connection';
import { listDevices } from '../src/lib/server/gear';
import { keepFile } from '../src/lib/server/kept-files';
import { beginRun } from '../src/lib/server/procedure-runs';
import { takeServiceBook } from '../src/lib/server/service-book';
import { takePowerOn } from '../src/lib/server/switching';

/** Blocks of the made-up system file: a few seconds on the wire. */
const BLOCKS = 40;

/** The made-up system of the Parallax; `variant` 0 is the rack, 1 the desktop. */
export const parallaxSystem = (variant: 0 | 1, version: [number, number] = [1, 7]): Uint8Array =>
	makeFirmware(0x34, { variant, version, blocks: BLOCKS, random: seededRandom(107 + variant) });

/** The sound room's service book, its power-on list, and the system file that waits to be sent. */
export async function makeCare(studio: Studio, end: Date): Promise<void> {
	const devices = await listDevices(studio);
	const id = (name: string) => devices.find((device) => device.name === name)!.id;
	const on = (days: number) => dayAfter(end.toISOString(), days);
	const entry = (days: number, device: string, kind: string, says: string, by = '', firmware = '') => ({
		id: `entry-${-days}`,
		device: id(device),
		on: on(days),
		kind,
		says,
		by,
		firmware
	});
	const document = serviceBookSchema.parse({
		entries: [
			entry(-640, 'Umbra hall', 'repair', 'New feet and a fuse of the value on its label', 'Workshop Tarn'),
			entry(-410, 'Orrery', 'cleaning', 'Key contacts cleaned, dust taken out'),
			entry(-220, 'Nadir drums', 'calibration', 'Pads levelled, threshold 12'),
			entry(-88, 'Parallax west', 'firmware', 'Came up empty; restored the same afternoon', 'Ilse', '1.06'),
			entry(-30, 'Parallax east', 'inspection', 'Fan quiet, screws tight')
		],
		due: [
			{
				id: 'orrery-slider',
				device: id('Orrery'),
				on: on(9),
				kind: 'repair',
				says: 'Replace the third slider',
				procedure: ''
			},
			{
				id: 'west-107',
				device: id('Parallax west'),
				on: on(12),
				kind: 'firmware',
				says: 'Update to 1.07',
				procedure: 'firmware-update'
			},
			{
				id: 'umbra-fan',
				device: id('Umbra hall'),
				on: on(60),
				kind: 'inspection',
				says: 'Listen to the fan, clean its filter',
				everyMonths: 12
			}
		],
		faults: [
			{
				id: 'west-wipes',
				device: id('Parallax west'),
				since: on(-88),
				says: 'An update starts twice by itself and comes up with factory sounds',
				wayRound: 'Back up first, and leave it switched off for ten seconds before the update.',
				firmware: '1.06'
			}
		],
		worn: [
			{
				id: 'orrery-slider-3',
				device: id('Orrery'),
				control: 'Third slider',
				how: 'worn',
				says: 'crackles',
				needed: ['playing']
			},
			{
				id: 'nadir-dump',
				device: id('Nadir drums'),
				control: 'The key that sends the dump',
				how: 'worn',
				says: 'press it in the middle, and look that the display answers',
				needed: ['sending']
			}
		]
	});
	await takeServiceBook(studio, { revision: 0, document });
	await takePowerOn(studio, {
		revision: 0,
		document: powerOnSchema.parse({
			places: ['Floor', 'Rack', 'Desk'],
			items: [
				{
					id: 'template',
					device: id('Dome computer'),
					what: 'load',
					says: 'Open the template “The Slow Eclipse”, with the account of the dome',
					see: 'Sixteen tracks, the tempo at 72'
				},
				{
					id: 'opening',
					device: id('Parallax west'),
					what: 'send',
					says: 'Program 05 for the opening',
					see: 'Program 05 on its display',
					messages: ['C1 04']
				}
			]
		})
	});
	await keepFile(
		studio,
		{ device: id('Parallax west') },
		{ name: 'parallax-rack-1.07.syx', bytes: parallaxSystem(0), note: 'From its maker, for the rack' }
	);
}

/** The Orrery's battery is old: changing it was begun, and waits for an afternoon. */
export const beginBattery = async (studio: Studio): Promise<void> => {
	const orrery = (await listDevices(studio)).find(({ name }) => name === 'Orrery')!;
	await beginRun(studio, { procedure: 'memory-battery', device: orrery.id });
};
