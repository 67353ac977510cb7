import { sameBytes } from '../../midi';
import {
	areaOf,
	fittingText,
	readName,
	readText,
	valueFor,
	putParameter,
	putText,
	writeName,
	writeText
} from '../../profile';
import type { Profile, ProfileRecord, ProfileText, SurfaceMemory, Target } from '../../profile';
import { linked, type Assignment, type ControlMap, type Link } from '../map';
import { spell } from '../names';
import { GESTURE_WORDS, nameOf } from '../strips';
import { controlName, type Gesture } from '../surface';
import { standing } from '../written';
import {
	Cell,
	cellsOf,
	memoryOf,
	numberOf,
	wayWord,
	writeCell,
	type PlacedCell,
	type TemplateLine
} from './cells';

/** Something of a page that a template has no room for. */
export interface Lost {
	/** The control that it is about; null for the page as a whole. */
	control: string | null;
	says: string;
}

/** What a link makes a control send, from one end to the other. */
function sent(link: Link, target: Target, { way, value }: Assignment): [number, number] {
	if (way === 'value') return [target.low, value === undefined ? target.low : valueFor(target, value)];
	const low = link.from === undefined ? target.low : valueFor(target, link.from);
	const high = link.to === undefined ? target.high : valueFor(target, link.to);
	return link.inverted ? [high, low] : [low, high];
}

/** What an assignment comes to in a template, with what of it is left behind and why. */
function lineOf(
	map: ControlMap,
	surface: SurfaceMemory,
	assignment: Assignment
): { says: TemplateLine['says']; lost: string[] } {
	const carried = assignment.links.filter(({ reach }) => reach === 'template');
	const lost: string[] = [];
	for (const { reach } of assignment.links)
		if (reach === 'song') lost.push('it is kept with the song only');
		else if (reach === 'instance') lost.push('it is tied to one instance of a plug-in');
	const [link, ...others] = carried;
	if (others.length > 0)
		lost.push(
			`a template tells one thing a control: ${others
				.map((other) => linked(map, other).target?.name ?? other.target)
				.join(', ')} ${others.length === 1 ? 'is' : 'are'} left out`
		);
	const target = link && linked(map, link).target;
	if (!link || !target) return { says: null, lost: link ? [...lost, 'the map has no such target'] : lost };
	const { kind } = target.address;
	if (kind === 'sysex' || !surface.kinds.includes(kind))
		return {
			says: null,
			lost: [...lost, `a template cannot say ${kind === 'sysex' ? 'system exclusive' : kind}`]
		};
	const way = wayWord(assignment);
	if (!surface.ways.some((each) => each === way))
		return { says: null, lost: [...lost, `its way, ${way}, is none that a template knows`] };
	if (link.curve !== 'even') lost.push('its curve: a template counts evenly');
	const [low, high] = sent(link, target, assignment);
	const { acceleration } = assignment;
	return {
		says: {
			kind,
			way: assignment.way,
			...(assignment.way === 'relative' ? { encoding: assignment.encoding ?? 'twos-complement' } : {}),
			channel: link.channel,
			number: numberOf(target.address),
			low,
			high,
			...(assignment.way === 'relative' && acceleration !== undefined ? { quick: acceleration } : {})
		},
		lost
	};
}

/** A template made of a page, with what of the page it cannot hold. */
export interface Compiled {
	bytes: Uint8Array;
	lost: Lost[];
}

/** Pages of a map that a slot holds: the one that it is, or all that it has a place for. */
export const pagesIn = ({ pages }: SurfaceMemory, map: ControlMap, page: number): number[] =>
	pages ? map.pages.map(({ number }) => number).filter((number) => number <= pages.length) : [page];

/**
 * Compiles a page of a map to the record of a template; all its pages, where a slot holds them together. What a map says
 * nothing of (lamps, whatever the maker keeps there)
 * stays as it is in `base`, the record that the slot holds now; without one it is nought.
 * @throws Error where the profile is of no controller
 */
export function compilePage(profile: Profile, map: ControlMap, page: number, base?: Uint8Array): Compiled {
	const memory = memoryOf(profile);
	if (!memory) throw new Error(`${profile.model} is no controller.`);
	const { surface, record } = memory;
	const lost: Lost[] = [];
	let bytes: Uint8Array = base?.slice() ?? unwritten(profile, record);
	const pages = pagesIn(surface, map, page);
	const quicks: { cell: Cell; quick: number; control: string; name: string }[] = [];
	for (const { cell: id, ...place } of cellsOf(surface, page)) {
		// A page that the map does not have stays as it is.
		if (!pages.includes(place.page)) continue;
		const { control } = place;
		const cell = new Cell(record, id, surface.quick);
		const found = standing(map, place);
		const made = found ? lineOf(map, surface, found.assignment) : { says: null, lost: [] };
		const name = placeName(map, surface, place);
		const before = bytes;
		lost.push(...made.lost.map((says) => ({ control, says: `${name}: ${says}.` })));
		const written = made.says && writeCell(cell, surface, bytes, made.says);
		if (made.says && !written)
			lost.push({ control, says: `${name}: its numbers are beyond what a template can say.` });
		const rests = found?.assignment.way === 'rest' && surface.kinds.includes('rest');
		if (found?.assignment.way === 'rest' && !rests)
			lost.push({ control, says: `${name}: a template cannot say that it rests.` });
		bytes = written ?? cell.set(bytes, 'kind', surface.kinds.indexOf(rests ? 'rest' : 'off')) ?? bytes;
		const quick = made.says?.quick;
		// One setting for all cells is what the last of them says.
		if (written && quick !== undefined) quicks.push({ cell, quick, control, name });
		if (!cell.text) continue;
		const { text, cut } = shownText(profile, map, cell.text, found?.assignment ?? null);
		// A display that shows nothing at a line that says the same was meant to, unless a name was given.
		const silent = base && sameBytes(before, bytes) && readText(profile, cell.text, bytes) === '';
		if (silent && !found?.assignment.name) continue;
		bytes = writeText(profile, cell.text, bytes, text);
		if (cut !== null) lost.push({ control, says: `${name}: its name, “${cut}”, is shown as “${text}”.` });
	}
	for (const { cell, quick, control, name } of quicks) {
		const found = cell.get(bytes, 'quick');
		if (found !== quick)
			lost.push({
				control,
				says: surface.quick
					? `${name}: its acceleration, ${quick}: the ${map.surface.model} has one for all, and gets ${found}.`
					: `${name}: its acceleration, ${quick}, is none that a template knows.`
			});
	}
	for (const each of pages) lost.push(...beyond(map, surface, each));
	const { slotWord } = areaOf(profile, surface.area);
	for (const { number } of surface.pages ? map.pages : [])
		if (!pages.includes(number))
			lost.push({
				control: null,
				says: `${map.surface.pages.word} ${number}: a ${slotWord} has no place for it.`
			});
	const title = surface.pages ? map.name : (map.pages.find(({ number }) => number === page)?.name ?? '');
	// A slot that holds all pages as they are keeps its name, which is not theirs.
	if (surface.pages && base && sameBytes(bytes, base)) return { bytes, lost };
	// A page without a name says nothing of it.
	if (record.name && (title !== '' || !base) && readName(profile, record, bytes) !== title) {
		const fits = fittingText(profile, record.name, title);
		if (fits !== title) lost.push({ control: null, says: `Its name is cut to “${fits}”.` });
		bytes = writeName(profile, record, bytes, fits);
	}
	return { bytes, lost };
}

/** A record in which nothing is said: every value the lowest that there is, and texts empty. */
function unwritten(profile: Profile, record: ProfileRecord): Uint8Array {
	const bytes = new Uint8Array(record.size);
	for (const text of record.texts) putText(profile, text, bytes, '');
	for (const parameter of record.parameters)
		if (parameter.range[0] > 0) putParameter(parameter, bytes, parameter.range[0]);
	return bytes;
}

/** A control as a template's lines call it, with the gesture where it is another than the usual one. */
const handName = (map: ControlMap, control: string, gesture: Gesture): string => {
	const name = controlName(map.surface, control);
	return gesture === 'move' || gesture === 'push' ? name : `${name} ${GESTURE_WORDS[gesture]}`;
};

/** The same with its page, where a slot holds all of them. */
export const placeName = (
	map: ControlMap,
	{ pages }: SurfaceMemory,
	{ page, control, gesture }: Omit<PlacedCell, 'cell'>
): string => `${pages ? `${map.surface.pages.word} ${page}, ` : ''}${handName(map, control, gesture)}`;

/** What a page says of gestures that no template has a place for, and what belongs to the page as a whole. */
function beyond(map: ControlMap, surface: SurfaceMemory, number: number): Lost[] {
	const page = map.pages.find((each) => each.number === number);
	const has = (each: Assignment) =>
		surface.cells.some(({ control, gesture }) => control === each.control && gesture === each.gesture);
	const all = [...map.globals, ...(page?.assignments ?? [])];
	const lost = all
		.filter((each) => each.links.length > 0 && !has(each))
		.map((each): Lost => ({
			control: each.control,
			says: `${handName(map, each.control, each.gesture)}: a template has no place for it.`
		}));
	const onPaper = all.filter(({ name, colour }) => name !== '' || colour !== '').length;
	if (onPaper > 0 && map.surface.display === null)
		lost.push({ control: null, says: 'Names and colours of its controls stay on paper: print its strips.' });
	for (const { name, over, controls } of page?.windows ?? [])
		lost.push({
			control: null,
			says: `The window “${name}”: a template holds the first ${Math.min(over.length, controls.length)} of its ${over.length}; the host moves it.`
		});
	if ((page?.programs.length ?? 0) > 0)
		lost.push({ control: null, says: 'The programs that it opens with are not in a template.' });
	return lost;
}

/** What a control's display shows of a line, and the whole name where it is more than that. */
export function shownText(
	profile: Profile,
	map: ControlMap,
	field: ProfileText,
	assignment: Assignment | null
): { text: string; cut: string | null } {
	const name = assignment ? nameOf(map, assignment) : '';
	// What the display can show as it is written is shown so.
	if (fittingText(profile, field, name) === name) return { text: name, cut: null };
	const spelt = spell(name, map.surface.display?.charset ?? 'ascii');
	const text = fittingText(profile, field, spelt);
	return { text, cut: text === spelt ? null : name };
}
