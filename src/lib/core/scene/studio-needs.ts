import { judge, pairingOf, type Floor } from '../pedal';
import { checkPower, type Power } from '../power';
import type { ReadyItem } from './ready-item';
import { hand } from './rules/rule';
import { placesOf } from './scene-change';
import { setupOf, type Scene, type ShowSet } from './set';

/** What the rest of the studio knows of supplies, pedals and controllers' pages. */
export interface StudioNotes {
	power: Power;
	floor: Floor;
	/** Controllers that have maps, by the maps' names, with their pages. */
	controllers: readonly { name: string; pages: readonly string[] }[];
}

const EXPRESSION = 11;

/** Things with the scenes that want them, each once. */
class Wanted<T> {
	readonly all = new Map<string, { what: T; scenes: number[] }>();
	/** @returns what is wanted by that key */
	add(key: string, what: T, scene: number): T {
		const known = this.all.get(key);
		if (!known) this.all.set(key, { what, scenes: [scene] });
		else if (!known.scenes.includes(scene)) known.scenes.push(scene);
		return known?.what ?? what;
	}
}

/** What scenes need of supplies, pedals and pages, and what is wrong with it, or not noted. */
export const studioItems = (set: ShowSet, scenes: readonly Scene[], notes: StudioNotes): ReadyItem[] => [
	...supplyItems(set, scenes, notes.power),
	...pedalItems(set, scenes, notes.floor),
	...pageItems(scenes, notes.controllers)
];

/** Whoever plays and sounds in the scenes must be fed. Each finding of the power plan is told once. */
function supplyItems(set: ShowSet, scenes: readonly Scene[], power: Power): ReadyItem[] {
	const wanted = new Wanted<string>();
	for (const scene of scenes) {
		const { players, instruments, zones } = setupOf(set, scene);
		const plays = new Set(zones.filter(({ on }) => on).map(({ player }) => player));
		const sounds = new Set(placesOf(set, scene).map(({ instrument }) => instrument));
		for (const { device, name } of [
			...players.filter(({ id }) => plays.has(id)),
			...instruments.filter(({ id }) => sounds.has(id))
		])
			if (device !== null) wanted.add(device, name, scene.number);
	}
	const loads = new Map(power.loads.flatMap(({ id, device }) => (device === null ? [] : [[id, device]])));
	const of = (device: string) => wanted.all.get(device);
	const items = checkPower(power).flatMap(({ severity, loads: about, says, cure }): ReadyItem[] => {
		const touched = about.flatMap((load) => of(loads.get(load) ?? '') ?? []);
		if (touched.length === 0 || severity === 'note') return [];
		const kind = severity === 'danger' ? 'missing' : severity === 'unknown' ? 'unknown' : 'look';
		const numbers = [...new Set(touched.flatMap((each) => each.scenes))].sort((a, b) => a - b);
		return [{ kind, scenes: numbers, says, cure: hand(`Under Wiring, Power: ${cure.says}`) }];
	});
	const noted = new Set(loads.values());
	const unnoted = [...wanted.all].filter(([device]) => !noted.has(device)).map(([, { what }]) => what);
	return [
		...items,
		...(unnoted.length === 0
			? []
			: [
					{
						kind: 'look' as const,
						scenes: [],
						says: `What feeds ${unnoted.join(', ')} is noted nowhere.`,
						cure: hand('Note it under Wiring, Power, or look at the plugs.')
					}
				])
	];
}

/** A zone that a pedal drops, or that has an expression pedal, wants that pedal on its player. */
function pedalItems(set: ShowSet, scenes: readonly Scene[], floor: Floor): ReadyItem[] {
	const wanted = new Wanted<{ player: string; device: string | null; controller: number; zones: string[] }>();
	for (const scene of scenes) {
		const { players, zones } = setupOf(set, scene);
		for (const zone of zones.filter(({ on }) => on)) {
			const player = players.find(({ id }) => id === zone.player);
			const controllers = [
				...(zone.leaves ? [zone.leaves.controller] : []),
				...(zone.expression === 'nothing' ? [] : [EXPRESSION])
			];
			if (player)
				for (const controller of controllers) {
					const { zones: named } = wanted.add(
						`${controller} ${player.id}`,
						{ player: player.name, device: player.device, controller, zones: [] },
						scene.number
					);
					if (!named.includes(zone.name)) named.push(zone.name);
				}
		}
	}
	return [...wanted.all.values()].flatMap(({ what, scenes: numbers }): ReadyItem[] => {
		const { player, device, controller, zones } = what;
		const needs = `${zones.join(', ')} ${zones.length === 1 ? 'wants' : 'want'} controller ${controller} from ${player}`;
		const item = (kind: ReadyItem['kind'], says: string, cure: string): ReadyItem[] => [
			{ kind, scenes: numbers, says: `${needs}: ${says}`, cure: hand(cure) }
		];
		const boxes = floor.boxes.filter((box) => device !== null && box.device === device).map(({ id }) => id);
		const lines = floor.lines.filter(
			({ jacks, sends }) => sends?.controller === controller && jacks.some(({ box }) => boxes.includes(box))
		);
		if (lines.length === 0)
			return item('look', 'no pedal that sends it is noted.', 'Note it under Control, Feet, or press it.');
		const verdicts = lines.flatMap((line) => {
			const pairing = pairingOf(floor, line);
			return pairing ? [judge(pairing)] : [];
		});
		if (verdicts.some(({ kind }) => kind === 'works')) return [];
		const [first] = verdicts;
		return first && ['cannot', 'does not fit'].includes(first.kind)
			? item('missing', first.says, 'Mend it under Control, Feet.')
			: item('look', first?.says ?? 'its line is not whole.', 'Look at it under Control, Feet.');
	});
}

/** A page that a hand shall turn to must be there. */
function pageItems(scenes: readonly Scene[], controllers: StudioNotes['controllers']): ReadyItem[] {
	const wanted = new Wanted<{ controller: string; page: string }>();
	for (const { pages, number } of scenes)
		for (const page of pages) wanted.add(JSON.stringify(page), page, number);
	return [...wanted.all.values()].flatMap(({ what: { controller, page }, scenes: numbers }): ReadyItem[] => {
		const maps = controllers.filter(({ name }) => name === controller);
		if (maps.length === 0)
			return [
				{
					kind: 'look',
					scenes: numbers,
					says: `${page} of ${controller}: no map of that name says which pages it has.`,
					cure: hand('Look at the controller, or make its map under Control.')
				}
			];
		return maps.some(({ pages }) => pages.includes(page))
			? []
			: [
					{
						kind: 'missing',
						scenes: numbers,
						says: `${controller} has no page ${page}.`,
						cure: hand('Choose another page in the scene, or make it in the map.')
					}
				];
	});
}
