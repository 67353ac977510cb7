import { mapSchema, type ControlMap } from '../src/lib/core/control';
import type { Studio } from '../src/lib/server/db/connection';
import { createMap } from '../src/lib/server/maps';
import { shippedSurface } from '../src/lib/server/surfaces';

const cc = (id: string, name: string, number: number, more: object = {}) => ({
	id,
	name,
	address: { kind: 'cc', number },
	...more
});
const even = (from: number, to: number) => ({ kind: 'even', from, to });

const UMBRA = {
	format: 'silent-drawer.targets',
	version: 1,
	id: 'umbra-hall',
	name: 'Umbra hall',
	dinOnly: true,
	targets: [
		cc('cutoff', 'Cutoff', 74, { unit: 'Hz', scale: { kind: 'logarithmic', from: 30, to: 18_000 } }),
		cc('resonance', 'Resonance', 71, { unit: '%', scale: even(0, 100) }),
		cc('glide', 'Glide', 5, { unit: 'ms', scale: even(0, 4000) }),
		cc('attack', 'Attack', 73),
		cc('release', 'Release', 72),
		cc('level', 'Level', 7, { unit: 'dB', scale: even(-66, 0), level: true }),
		cc('hold', 'Hold', 64, { switch: true, held: true })
	]
};
const ORRERY = {
	format: 'silent-drawer.targets',
	version: 1,
	id: 'orrery',
	name: 'Orrery',
	targets: [
		cc('orbit', 'Orbit', 16),
		cc('tilt', 'Tilt', 17, { unit: '°', scale: { kind: 'bipolar', from: -90, to: 90 } }),
		cc('dust', 'Dust', 18, { unit: '%', scale: even(0, 100) }),
		cc('drift', 'Drift', 74, { unit: '%', scale: even(0, 100) }),
		cc('shimmer', 'Shimmer', 91, { unit: '%', scale: even(0, 100) })
	]
};
const DOME = {
	format: 'silent-drawer.targets',
	version: 1,
	id: 'dome-computer',
	name: 'Dome computer',
	whose: 'host',
	targets: [
		...['Doors', 'Dusk', 'Stars', 'Comet', 'Eclipse', 'Dawn'].map((name, i) => ({
			...cc(name.toLowerCase(), name, 20 + i),
			switch: true,
			held: true
		})),
		cc('house', 'House light', 60, { relative: true }),
		cc('turn', 'Sky turn', 61, { relative: true })
	]
};
const link = (list: string, target: string, channel: number) => ({ list, target, channel });
const of = (control: string, list: string, target: string, channel: number, more: object = {}) => ({
	control,
	links: [link(list, target, channel)],
	...more
});

/**
 * The sound room's maps, with three faults to be found: Drift of the Orrery is on the hall's channel, where
 * its message is Cutoff; the hall's hold is a switch that stays on; the rack panel speaks by USB and its synthesizer hears by DIN alone.
 */
export const DEMO_MAPS: ControlMap[] = [
	{
		name: 'Star show, faders',
		surface: shippedSurface('osier-weir-9'),
		lists: [UMBRA, ORRERY],
		hosted: 'computer',
		pages: [
			{
				number: 1,
				name: 'Dusk',
				assignments: [
					of('fader-1', 'umbra-hall', 'cutoff', 4, { name: 'Cutoff' }),
					of('fader-2', 'umbra-hall', 'resonance', 4, { name: 'Reson' }),
					of('fader-3', 'umbra-hall', 'glide', 4, { name: 'Glide' }),
					of('fader-4', 'umbra-hall', 'attack', 4),
					of('fader-5', 'umbra-hall', 'release', 4, { name: 'Releas' }),
					of('fader-6', 'orrery', 'orbit', 1),
					of('fader-7', 'orrery', 'drift', 4),
					of('fader-8', 'orrery', 'tilt', 1),
					of('fader-9', 'umbra-hall', 'level', 4),
					of('key-1', 'umbra-hall', 'hold', 4, { gesture: 'push', way: 'toggle' }),
					{ control: 'key-9', gesture: 'push', empty: true }
				]
			},
			{
				number: 2,
				name: 'Comet',
				assignments: [
					of('fader-1', 'orrery', 'orbit', 1),
					of('fader-2', 'orrery', 'dust', 1),
					of('fader-3', 'orrery', 'shimmer', 1, { name: 'Shimmr' })
				]
			}
		]
	},
	{
		name: 'Rack panel, hall',
		surface: shippedSurface('fallow-larch-16'),
		lists: [UMBRA],
		pages: [
			{
				number: 1,
				name: 'Hall',
				assignments: [
					of('turn-1', 'umbra-hall', 'cutoff', 4, { name: 'Cut' }),
					of('turn-2', 'umbra-hall', 'resonance', 4, { name: 'Reso' }),
					of('turn-3', 'umbra-hall', 'attack', 4, { name: 'Atk' }),
					of('turn-4', 'umbra-hall', 'release', 4, { name: 'Rel' })
				]
			}
		]
	},
	{
		name: 'Cues, panel',
		surface: shippedSurface('osier-tarn'),
		lists: [DOME],
		hosted: 'computer',
		pages: [
			{
				number: 1,
				name: 'Evening show',
				assignments: [
					...['doors', 'dusk', 'stars', 'comet', 'eclipse', 'dawn'].map((cue, i) =>
						of(`button-${i + 1}`, 'dome-computer', cue, 16, { gesture: 'push', way: 'momentary' })
					),
					of('wheel-left', 'dome-computer', 'house', 16, { way: 'relative' }),
					of('wheel-right', 'dome-computer', 'turn', 16, { way: 'relative' })
				]
			}
		]
	}
].map((map) => mapSchema.parse({ format: 'silent-drawer.map', version: 1, ...map }));

/** Keeps the sound room's maps. */
export async function makeMaps(studio: Studio): Promise<void> {
	for (const document of DEMO_MAPS.toReversed()) await createMap(studio, { from: 'document', document });
}
