import type { Edit } from '../edit';
import { sceneKey } from './place';
import {
	deskOf,
	deskSchema,
	instrumentName,
	partAt,
	setupOf,
	type Desk,
	type Part,
	type Scene,
	type ShowSet
} from './set';

/** The edits that put a scene in the place of the one of its number, or among the others; its last one is in the history of the set. */
export function putScene(set: ShowSet, scene: Scene): Edit[] {
	const scenes = [...set.scenes.filter(({ number }) => number !== scene.number), scene];
	return [{ path: ['scenes'], value: scenes.sort((a, b) => a.number - b.number) }];
}

/** The edits that store what is on the desk under a number. */
export const storeScene = (set: ShowSet, number: number, name: string): Edit[] => [
	...putScene(set, { number, name, ...deskOf(set) }),
	{ path: ['recalled'], value: number }
];

/** The edits that bring a scene to the desk; players that were not there when it was stored play as they are. */
export function recallScene(set: ShowSet, scene: Scene): Edit[] {
	const { parts, pages, tempo, messages, silence } = scene;
	return [
		{ path: ['setup'], value: setupOf(set, scene) },
		...Object.entries({ parts, pages, tempo, messages, silence }).map(([key, value]) => ({
			path: [key],
			value
		})),
		{ path: ['recalled'], value: scene.number }
	];
}

/** The first number that no scene has. */
export function freeNumber({ scenes }: ShowSet): number {
	const taken = new Set(scenes.map(({ number }) => number));
	let number = 1;
	while (taken.has(number)) number++;
	return number;
}

/** The edits that take a scene away; songs that played it do without. */
export const dropScene = (set: ShowSet, number: number): Edit[] => [
	{ path: ['scenes'], value: set.scenes.filter((scene) => scene.number !== number) },
	{
		path: ['songs'],
		value: set.songs.map((song) => ({ ...song, scenes: song.scenes.filter((each) => each !== number) }))
	},
	...(['recalled', 'start'] as const)
		.filter((key) => set[key] === number)
		.map((key): Edit => ({ path: [key], value: null }))
];

/** A scene in which nothing plays, and what sounds ends. */
export const allOff = (set: ShowSet, number: number): Scene => ({
	number,
	name: 'All off',
	...deskSchema.parse({ silence: true }),
	zones: set.setup.zones.map((zone) => ({ ...zone, on: false })),
	local: Object.fromEntries(set.setup.players.map(({ id }) => [id, false]))
});

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
const soundWords = ({ sound }: Part) => sound?.name ?? 'whatever it plays';
const percent = ({ volume }: Part) => (volume === null ? 'as it is' : `${volume} %`);

/** What differs from one desk to another, in words; nothing where they are the same. */
export function desksCompared(set: ShowSet, from: Desk, to: Desk): string[] {
	const says: string[] = [];
	const player = (id: string) => set.setup.players.find((each) => each.id === id)?.name ?? id;
	for (const zone of to.zones) {
		const was = from.zones.find(({ id }) => id === zone.id);
		if (!was) says.push(`${zone.name} is a zone more${zone.on ? '' : ', switched off'}.`);
		else if (was.on !== zone.on) says.push(`${zone.name} is switched ${zone.on ? 'on' : 'off'}.`);
		const keys = Object.keys(zone) as (keyof typeof zone)[];
		const changed = was ? keys.filter((key) => key !== 'on' && !same(was[key], zone[key])) : [];
		if (changed.length > 0)
			says.push(`${zone.name}: ${changed.map((key) => ZONE_WORDS[key]).join(', ')} changed.`);
	}
	for (const zone of from.zones)
		if (!to.zones.some(({ id }) => id === zone.id)) says.push(`${zone.name} is no zone any more.`);
	const places = new Map(
		[...from.parts, ...to.parts].map((part) => [sceneKey(part.instrument, part.channel), part])
	);
	for (const { instrument: of, channel } of places.values()) {
		const [was, is] = [partAt(from, of, channel), partAt(to, of, channel)];
		const where = `${instrumentName(set, of)}, channel ${channel}`;
		if (!same(was.sound, is.sound))
			says.push(
				`${where}: ${soundWords(is)} instead of ${soundWords(was)}${was.sound?.name === is.sound?.name ? ' (other numbers)' : ''}.`
			);
		if (was.volume !== is.volume) says.push(`${where}: volume ${percent(is)} instead of ${percent(was)}.`);
	}
	for (const [id, is] of Object.entries(to.local)) {
		if (is !== from.local[id]) says.push(`${player(id)}: local ${is ? 'on' : 'off'}.`);
	}
	for (const { controller } of new Map(
		[...from.pages, ...to.pages].map((each) => [each.controller, each])
	).values()) {
		const [was, is] = [from, to].map(
			({ pages }) => pages.find((each) => each.controller === controller)?.page
		);
		if (was !== is) says.push(is ? `${controller} shows ${is}.` : `${controller}: no page is said any more.`);
	}
	if (from.tempo !== to.tempo)
		says.push(to.tempo === null ? 'No tempo is said any more.' : `Tempo ${to.tempo}.`);
	if (!same(from.messages, to.messages)) says.push('Messages of your own differ.');
	if (from.silence !== to.silence) says.push(to.silence ? 'What sounds ends.' : 'What sounds is left alone.');
	return says;
}

const ZONE_WORDS = {
	id: 'id',
	name: 'name',
	player: 'player',
	on: 'switch',
	keys: 'keys',
	octaves: 'octaves',
	semitones: 'semitones',
	struck: 'velocities it plays',
	fadeIn: 'fade in',
	fadeOut: 'fade out',
	curve: 'curve',
	floor: 'floor',
	ceiling: 'ceiling',
	strength: 'strength',
	to: 'instruments',
	through: 'what goes through',
	expression: 'expression pedal',
	leaves: 'the pedal that drops it'
} as const;
