import type { Edit } from '../../edit';
import type { ControlMap, Learnt } from '../map';
import { classify, type HeardMessage } from '../stream';
import type { BodyKind, Surface, SurfaceControl } from '../surface';
import { addressOf, addressWords, sameAddress, type SpokenAddress } from './address';
import type { Sweep, Wanted } from './sweep';
import type { Walked } from './walk';

/** A key bed says every note there is, and a socket what is plugged in: neither is learnt by touching. */
const LEARNT: readonly BodyKind[] = ['knob', 'encoder', 'fader', 'pad', 'button', 'strip', 'axis'];

/** Pads are counted from the lowest row, left to right; everything else as the surface lists it. */
const fromBelow = (a: SurfaceControl, b: SurfaceControl) => b.y - a.y || a.x - b.x;

/**
 * What is touched in a sweep, in its order. Pads that send notes are one series: their notes rise by one.
 * @param rows rows of the surface that are wanted; left out, all
 */
export function wantedOf(surface: Surface, rows?: readonly string[]): Wanted[] {
	const controls = surface.controls.filter(
		({ kind, row }) => LEARNT.includes(kind) && (!rows || rows.includes(row))
	);
	const pads = controls.filter(({ kind }) => kind === 'pad').sort(fromBelow);
	return [...controls.filter(({ kind }) => kind !== 'pad'), ...pads].map(({ id, name, kind, sends }) => ({
		control: id,
		name,
		series: kind === 'pad' && sends.includes('note') ? 'pads' : null
	}));
}

/** What the panel must show before a sweep begins, in words. */
export function beforeSweep(surface: Surface, page: number, wanted: readonly Wanted[]): string[] {
	const { word, count } = surface.pages;
	return [
		...(count > 1 ? [`The panel is on ${word} ${page}, and stays there.`] : []),
		...(wanted.some(({ series }) => series === 'pads')
			? ['Pads: octave at zero, no transposition; the lowest row first, from the left.']
			: []),
		...(surface.modes.some(({ protocol }) => protocol === 'host')
			? ['The surface is in plain MIDI, not in a host’s protocol.']
			: [])
	];
}

/** What a control was heard to say, of all that was heard while it was touched. */
function learntFrom(
	control: string,
	page: number,
	address: SpokenAddress,
	heard: readonly HeardMessage[],
	world: Learnt['world']
): Learnt[] {
	return classify(heard)
		.filter((each) => sameAddress(addressOf(each), address))
		.slice(0, 1)
		.map(({ kind, channel, number, encoding, low, high, doubt }) => ({
			control,
			page,
			kind,
			channel,
			number,
			encoding,
			low,
			high,
			doubt,
			world
		}));
}

/** What a sweep has found so far. */
export const learntBy = (sweep: Sweep, page: number, world: Learnt['world']): Learnt[] =>
	sweep.taken.flatMap((taken, i) =>
		taken ? learntFrom(sweep.wanted[i].control, page, taken.address, taken.heard, world) : []
	);

/** What keeps the findings of a sweep: they take the place of what was known of those controls on that page. */
export function keepSweep(map: ControlMap, page: number, sweep: Sweep, world: Learnt['world']): Edit[] {
	const found = learntBy(sweep, page, world);
	const anew = new Set(found.map(({ control }) => control));
	const stays = map.learnt.filter((learnt) => learnt.page !== page || !anew.has(learnt.control));
	return [{ path: ['learnt'], value: [...stays, ...found] }];
}

/** What is to be touched to walk back over a page, with what each was heard to say. */
export function toWalk(map: ControlMap, page: number): Omit<Walked, 'spoke'>[] {
	const names = new Map(map.surface.controls.map(({ id, name }) => [id, name]));
	return map.learnt
		.filter((learnt) => learnt.page === page && names.has(learnt.control))
		.map((learnt) => ({
			control: learnt.control,
			name: names.get(learnt.control)!,
			address: addressOf(learnt)
		}));
}

/** Controls of a page that do something and were never heard. */
export function unheard(map: ControlMap, page: number): string[] {
	const here = map.pages.find(({ number }) => number === page);
	const used = new Set(
		[...map.globals, ...(here?.assignments ?? [])]
			.filter(({ links }) => links.length > 0)
			.map(({ control }) => control)
	);
	return map.surface.controls
		.filter(({ id, kind }) => LEARNT.includes(kind) && used.has(id))
		.filter(({ id }) => !map.learnt.some((learnt) => learnt.control === id && learnt.page === page))
		.map(({ name }) => name);
}

/** What was heard of a control on a page, where, and what of it is not decided; empty where nothing was. */
export function heardWords(map: ControlMap, page: number, control: string): string {
	const learnt = map.learnt.find((each) => each.control === control && each.page === page);
	if (!learnt) return '';
	const { kind, encoding, world, doubt } = learnt;
	const how = `${kind.replaceAll('-', ' ')}${encoding ? `, ${encoding.replaceAll('-', ' ')}` : ''}`;
	const where = world === 'bench' ? 'on the bench' : 'on real ports';
	return `Heard ${where}: ${addressWords(addressOf(learnt))} (${how}).${doubt ? ` Not decided: ${doubt}` : ''}`;
}

/** What a walk has shown of a page: everything of it that a hand would find changed. */
function shown(map: ControlMap, page: number): string {
	const plain = (assignments: ControlMap['globals']) =>
		assignments.map(({ name: _name, colour: _colour, ...rest }) => rest);
	return JSON.stringify([
		map.surface,
		plain(map.globals),
		plain(map.pages.find(({ number }) => number === page)?.assignments ?? []),
		map.learnt.filter((learnt) => learnt.page === page)
	]);
}

/** What has to be undone of the walks after a change: pages that it changed count as walked no more. A walk that it notes stays. */
export function lostWalks(map: ControlMap, after: ControlMap): Edit[] {
	const before = new Set(map.walked.map(({ page, at }) => `${page} ${at}`));
	const walked = after.walked.filter(
		({ page, at }) => !before.has(`${page} ${at}`) || shown(after, page) === shown(map, page)
	);
	return walked.length === after.walked.length ? [] : [{ path: ['walked'], value: walked }];
}

/** When a page was last written into a controller, in a world: what was walked before that is not there any more. */
export interface SentPage extends Pick<ControlMap['walked'][number], 'page' | 'world'> {
	at: string;
}

/** The walks that still count after pages were sent. */
export const walksSince = (walked: ControlMap['walked'], sent: readonly SentPage[]): ControlMap['walked'] =>
	walked.filter((walk) =>
		sent.every(({ page, world, at }) => page !== walk.page || world !== walk.world || at < walk.at)
	);

/** Walks that were not noted before get the time at which they are noted, by one clock. */
export const stampWalks = (before: ControlMap, after: ControlMap, at: string): Edit[] => {
	const known = new Set(before.walked.map((walk) => JSON.stringify(walk)));
	const walked = after.walked.map((walk) => (known.has(JSON.stringify(walk)) ? walk : { ...walk, at }));
	return JSON.stringify(walked) === JSON.stringify(after.walked) ? [] : [{ path: ['walked'], value: walked }];
};

/** How far a map is walked. */
export interface Walks {
	pages: number;
	walked: number;
	/** Of those, on the bench: they say nothing of the real controller. */
	bench: number;
	/** The walk that is longest ago. */
	since: string | null;
}

export function walksOf({ pages, walked }: Pick<ControlMap, 'pages' | 'walked'>): Walks {
	const here = walked.filter(({ page }) => pages.some(({ number }) => number === page));
	return {
		pages: pages.length,
		walked: here.length,
		bench: here.filter(({ world }) => world === 'bench').length,
		since: here.map(({ at }) => at).sort()[0] ?? null
	};
}

/** The same in words. */
export function walkedWords({ pages, walked, bench }: Walks): string {
	if (walked === 0) return 'never walked';
	const where = bench === 0 ? '' : bench === walked ? ' on the bench' : `, ${bench} of them on the bench`;
	return `${walked} of ${pages} walked${where}`;
}
