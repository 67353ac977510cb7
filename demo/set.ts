import {
	instrumentSchema,
	playerSchema,
	recallScene,
	sceneNumbered,
	setSchema,
	songSchema,
	soundIn,
	storeScene,
	zoneSchema,
	type Part,
	type ShowSet,
	type SlotSeen
} from '../src/lib/core/scene';
import { applyEdits } from '../src/lib/core/edit';
import type { Studio } from '../src/lib/server/db/connection';
import { listDevices } from '../src/lib/server/gear';
import { soundsToChoose, takeSet } from '../src/lib/server/set';

/** A station of the show: which zones are on, which program each instrument plays, and how loud. */
interface Station {
	name: string;
	on: string[];
	west: number;
	orrery: number;
	volume: number;
	tempo?: number;
	hands?: string[];
	notes?: string;
}

const STATIONS: readonly Station[] = [
	{ name: 'Doors', on: ['air'], west: 0, orrery: 0, volume: 60 },
	{
		name: 'Moonrise',
		on: ['air', 'bass'],
		west: 3,
		orrery: 4,
		volume: 80,
		notes: 'The dome goes dark; wait for the first star.'
	},
	{ name: 'Inner planets', on: ['lead', 'bass'], west: 5, orrery: 9, volume: 90, tempo: 96 },
	{ name: 'The belt', on: ['lead', 'bass'], west: 5, orrery: 12, volume: 100, tempo: 112 },
	// The Span's keys do not arrive at the Orrery: no track passes them on.
	{ name: 'Giants', on: ['air', 'bass', 'choir'], west: 8, orrery: 17, volume: 100 },
	{ name: 'Rings', on: ['lead'], west: 11, orrery: 17, volume: 90 },
	{
		name: 'Comets',
		on: ['lead'],
		west: 12,
		orrery: 21,
		volume: 100,
		tempo: 132,
		hands: ['Lantern delay: Glow to the right end.']
	},
	{ name: 'Deep field', on: ['air'], west: 14, orrery: 30, volume: 50 },
	{ name: 'Home', on: ['bass', 'lead'], west: 3, orrery: 4, volume: 80 }
];

/** The nine stations of the star show, with two honest faults: keys that do not arrive, and a sound that has moved. */
export async function makeSet(studio: Studio): Promise<void> {
	const ids = new Map((await listDevices(studio)).map(({ id, name }) => [name, id]));
	const instrument = (id: string, name: string, more: object = {}) =>
		instrumentSchema.parse({ id, name, device: ids.get(name), ...more });
	const bare: ShowSet = setSchema.parse({
		name: 'Nine stations',
		setup: {
			players: [
				playerSchema.parse({
					id: 'span',
					name: 'Span 61',
					device: ids.get('Span 61'),
					keys: [36, 96],
					sends: 2
				}),
				playerSchema.parse({
					id: 'orrery-keys',
					name: 'Orrery',
					device: ids.get('Orrery'),
					keys: [36, 96],
					own: 'orrery',
					sends: 1
				}),
				playerSchema.parse({
					id: 'tiles',
					name: 'Tiles',
					device: ids.get('Tiles'),
					keys: [36, 51],
					sends: 10
				})
			],
			instruments: [
				instrument('orrery', 'Orrery', { voices: 16, parts: 1, banks: 'none', counts: 0, loadMs: 40 }),
				instrument('west', 'Parallax west', {
					voices: 8,
					parts: 1,
					banks: 'none',
					counts: 0,
					loadMs: 25,
					rings: false,
					keys: [24, 108]
				}),
				instrument('nadir', 'Nadir drums', { voices: 12, parts: 1, counts: 0, loadMs: 10 })
			],
			zones: [
				zone('bass', 'Low drone', 'span', [36, 59], 'west', 2, { struck: [1, 100], octaves: -1 }),
				zone('air', 'Air', 'span', [36, 96], 'west', 2, { keys: [60, 96] }),
				zone('lead', 'Lead', 'span', [60, 96], 'west', 2, { struck: [64, 127], leaves: { controller: 67 } }),
				zone('choir', 'Choir of the giants', 'span', [36, 96], 'orrery', 1, { octaves: 1, keys: [36, 83] }),
				zone('pads', 'Debris', 'tiles', [36, 51], 'nadir', 10)
			]
		}
	});
	await takeSet(studio, { revision: 0, document: bare });
	const slots = {
		west: await soundsToChoose(studio, 'west'),
		orrery: await soundsToChoose(studio, 'orrery')
	};
	let set = bare;
	STATIONS.forEach(({ name, on, west, orrery, volume, tempo = null }, i) => {
		const parts: Part[] = [
			{ instrument: 'west', channel: 2, sound: soundAt(slots.west, west), volume },
			{ instrument: 'orrery', channel: 1, sound: soundAt(slots.orrery, orrery), volume: 100 }
		];
		const zones = set.setup.zones.map((each) => ({ ...each, on: on.includes(each.id) }));
		set = { ...set, parts, tempo, setup: { ...set.setup, zones } };
		set = applyEdits(set, storeScene(set, i + 1, name));
	});
	// The sound of the comets was moved on the instrument after its scene was stored.
	const comets = set.scenes.findIndex(({ name }) => name === 'Comets');
	const moved = astray(set.scenes[comets].parts[0], slots.west);
	set = applyEdits(set, [{ path: ['scenes', comets, 'parts', 0], value: moved }]);
	set = applyEdits(set, recallScene(set, sceneNumbered(set, 1)!));
	const songs = STATIONS.map(({ name, hands = [], notes = '' }, i) =>
		songSchema.parse({ id: `station-${i + 1}`, name, scenes: [i + 1], hands, notes, pauseSeconds: 4 })
	);
	await takeSet(studio, { revision: 1, document: { ...set, start: 1, songs } });
}

const zone = (
	id: string,
	name: string,
	player: string,
	keys: [number, number],
	instrument: string,
	channel: number,
	more: object = {}
) => zoneSchema.parse({ id, name, player, keys, to: [{ instrument, channel }], ...more });

const soundAt = (slots: readonly SlotSeen[], index: number) => {
	const slot = slots.find((each) => each.index === index);
	return slot ? soundIn(slot) : null;
};

/** The part as it was noted while its sound was in another slot. */
const astray = (part: Part, slots: readonly SlotSeen[]): Part => {
	const { sound } = part;
	const other = slots.find(
		({ record, index }) => record !== sound?.kept?.record && index > (sound?.kept?.index ?? 0)
	);
	return sound?.kept && other?.select
		? { ...part, sound: { ...sound, ...other.select, kept: { ...sound.kept, index: other.index } } }
		: part;
};
