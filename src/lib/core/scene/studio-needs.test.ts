import { describe, expect, it } from 'vitest';
import { floorSchema } from '../pedal';
import { powerSchema } from '../power';
import { setSchema, type ShowSet } from './set';
import { studioItems, type StudioNotes } from './studio-needs';

const zone = { id: 'z', name: 'Drone', player: 'p', to: [{ instrument: 'm', channel: 1 }] };
const set = (scene: object, zones: object[] = [zone]): ShowSet =>
	setSchema.parse({
		setup: {
			players: [{ id: 'p', name: 'Span', device: 'span-1' }],
			instruments: [{ id: 'm', name: 'Module', device: 'module-1' }]
		},
		scenes: [
			{ number: 1, name: 'One', zones, ...scene },
			{ number: 2, name: 'Two', zones: zones.map((each) => ({ ...each, on: false })) }
		]
	});
const nothing: StudioNotes = {
	power: powerSchema.parse({}),
	floor: floorSchema.parse({}),
	controllers: []
};
const told = (of: ShowSet, notes: Partial<StudioNotes> = {}) =>
	studioItems(of, of.scenes, { ...nothing, ...notes }).map(
		({ kind, scenes, says }) => `${kind} ${scenes.join()}: ${says}`
	);
const fedLoads = (
	labels: object = { volts: [9, 9], kind: 'DC', polarity: 'negative', ma: 100, startMa: 100 }
) =>
	powerSchema.parse({
		loads: [
			{ id: 'a', name: 'Span', device: 'span-1', on: 'own' },
			{ id: 'b', name: 'Module', device: 'module-1', ...labels }
		],
		supplies: [
			{
				id: 's',
				name: 'Brick',
				outputs: [
					{ id: 'o', name: '1', volts: [9], kind: 'DC', polarity: 'negative', ma: 500, isolated: true }
				]
			}
		],
		cables: [{ load: 'b', supply: 's', output: 'o' }]
	});

describe('supplies', () => {
	it('of whoever plays and sounds are asked for; who is in no scene needs none', () => {
		expect(told(set({}))).toEqual(['look : What feeds Span, Module is noted nowhere.']);
		expect(told(set({}, []))).toEqual([]);
		expect(told(set({}), { power: fedLoads() })).toEqual([]);
	});

	it('that do not reach are missing, and labels that nobody read are not known', () => {
		const unfed = { ...fedLoads(), cables: [] };
		expect(told(set({}), { power: unfed }).join('\n')).toMatch(/^(missing|unknown|look) 1: .*Module/);
		const wrong = fedLoads({ volts: [12, 12], kind: 'DC', polarity: 'negative', ma: 100, startMa: 100 });
		expect(told(set({}), { power: wrong }).join('\n')).toMatch(/^missing 1: .*Module/);
		expect(told(set({}), { power: fedLoads({ ma: 100 }) }).join('\n')).toMatch(/unknown 1: /);
		// What is wrong with a device that plays in no scene is no matter of the show.
		expect(told(set({}, []), { power: wrong })).toEqual([]);
	});
});

describe('pedals', () => {
	const drops = { ...zone, leaves: { controller: 67 } };
	const line = (sends: object | null, wiper = 'tip') =>
		floorSchema.parse({
			boxes: [
				{
					id: 'k',
					name: 'Span',
					device: 'span-1',
					jacks: [
						{ id: 'j', name: 'FOOT', modes: [{ id: 'sw', takes: 'switch', pullKohm: 10, loadKohm: 100 }] }
					]
				}
			],
			pedals: [
				{
					id: 'f',
					name: 'Foot',
					plug: 'own-ts',
					parts: [{ is: 'switch', name: '', between: [wiper, 'sleeve'] }]
				}
			],
			lines: [{ id: 'l', jacks: [{ box: 'k', jack: 'j' }], pedals: ['f'], sends }]
		});
	const of = (floor: StudioNotes['floor'], zones: object[] = [drops]) =>
		told(set({}, zones), { floor, power: fedLoads() });

	it('that a zone wants are looked for on its player, by what they send', () => {
		expect(of(nothing.floor)).toEqual([
			'look 1: Drone wants controller 67 from Span: no pedal that sends it is noted.'
		]);
		expect(of(line({ controller: 66, channel: 1 }))).toHaveLength(1);
		expect(of(line({ controller: 67, channel: 1 }))).toEqual([]);
		expect(of(line({ controller: 67, channel: 1 }), [zone])).toEqual([]);
		expect(of(nothing.floor, [{ ...zone, expression: 'volume' }])[0]).toContain('controller 11');
	});

	it('that do not work on their jack are missing', () => {
		expect(of(line({ controller: 67, channel: 1 }, 'ring')).join()).toMatch(/^missing 1: Drone wants/);
	});
});

describe('pages', () => {
	const pages = [{ controller: 'Roamer', page: 'Organ' }];
	const of = (controllers: StudioNotes['controllers']) =>
		told(set({ pages }), { controllers, power: fedLoads() });
	it('must be in a map of that name; without a map nobody can look', () => {
		expect(of([])).toEqual(['look 1: Organ of Roamer: no map of that name says which pages it has.']);
		expect(of([{ name: 'Roamer', pages: ['Strings'] }])).toEqual(['missing 1: Roamer has no page Organ.']);
		expect(
			of([
				{ name: 'Roamer', pages: ['Strings'] },
				{ name: 'Roamer', pages: ['Organ'] }
			])
		).toEqual([]);
	});
});
