import { readFileSync } from 'node:fs';
import { mapSchema, type ControlMap } from './map';
import { surfaceSchema, type Surface } from './surface';

/** A surface that ships with the app. */
export const shippedSurface = (id: string): Surface =>
	surfaceSchema.parse(
		JSON.parse(readFileSync(new URL(`../../../../surfaces/${id}.json`, import.meta.url), 'utf8'))
	);

const cc = (id: string, name: string, number: number, more: object = {}) => ({
	id,
	name,
	address: { kind: 'cc', number },
	...more
});

/** What the lists of the tests can be told: a device with a bit of everything, and the host. */
export const LISTS = [
	{
		format: 'silent-drawer.targets',
		version: 1,
		id: 'umbra',
		name: 'Umbra',
		targets: [
			cc('cutoff', 'Cutoff', 74, {
				unit: 'Hz',
				scale: { kind: 'logarithmic', from: 20, to: 20_000 },
				function: 'cutoff'
			}),
			cc('resonance', 'Resonance', 71, { unit: '%', scale: { kind: 'even', from: 0, to: 100 } }),
			cc('volume', 'Volume', 7, { unit: 'dB', scale: { kind: 'even', from: -66, to: 0 }, level: true }),
			cc('sustain', 'Sustain', 64, { switch: true, held: true }),
			cc('bank', 'Bank', 0),
			cc('data', 'Data', 6),
			cc('reset', 'Reset', 121),
			cc('turn', 'Turn', 20, { relative: true }),
			cc('sparkle', 'Sparkle', 21, { programs: [{ from: 0, to: 9 }] }),
			{ id: 'kick', name: 'Kick', address: { kind: 'note', number: 36 } },
			{ id: 'morph', name: 'Morph', address: { kind: 'nrpn', number: 300 }, high: 16383 }
		]
	},
	{
		format: 'silent-drawer.targets',
		version: 1,
		id: 'host',
		name: 'The host',
		whose: 'host',
		targets: [cc('level', 'Track level', 90), cc('pan', 'Track pan', 91)]
	}
];

export const link = (target: string, more: object = {}) => ({ list: 'umbra', target, channel: 2, ...more });
export const assigned = (control: string, target: string, more: object = {}, linkMore: object = {}) => ({
	control,
	links: [link(target, linkMore)],
	...more
});

/** A map of a surface, with nothing wrong with it but what is asked for. */
export function mapOf(surface: string, more: object = {}): ControlMap {
	return mapSchema.parse({
		format: 'silent-drawer.map',
		version: 1,
		name: 'Sky',
		surface: shippedSurface(surface),
		lists: LISTS,
		walked: [1, 2, 3, 4, 5].map((page) => ({ page, at: '2026-10-01T20:00:00Z', world: 'hardware' })),
		pages: [{ number: 1, assignments: [assigned('fader-1', 'cutoff', { name: 'Cutoff' })] }],
		...more
	});
}

/** What a control was heard to say on page 1. */
export const heard = (control: string, number: number) => ({
	control,
	page: 1,
	kind: 'absolute',
	channel: 1,
	number,
	encoding: null,
	low: 0,
	high: 127,
	doubt: null,
	world: 'hardware'
});
