import { readName, writeName } from '../../profile';
import type { Profile, ProfileRecord, SurfaceMemory, Target } from '../../profile';
import { valueFor } from '../../profile';
import { linked, type Assignment, type ControlMap, type Link } from '../map';
import { GESTURE_WORDS } from '../strips';
import { controlName, type Gesture } from '../surface';
import { standing } from '../written';
import { Cell, memoryOf, numberOf, wayWord, writeCell, type TemplateLine } from './cells';

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

/**
 * Compiles a page of a map to the record of a template. What a map says nothing of (lamps, whatever the maker keeps there)
 * stays as it is in `base`, the record that the slot holds now; without one it is nought.
 * @throws Error where the profile is of no controller
 */
export function compilePage(profile: Profile, map: ControlMap, page: number, base?: Uint8Array): Compiled {
	const memory = memoryOf(profile);
	if (!memory) throw new Error(`${profile.model} is no controller.`);
	const { surface, record } = memory;
	const lost: Lost[] = [];
	let bytes: Uint8Array = base?.slice() ?? new Uint8Array(record.size);
	for (const { cell: id, control, gesture } of surface.cells) {
		const cell = new Cell(record, id);
		const found = standing(map, { page, control, gesture: gesture as Gesture });
		const made = found ? lineOf(map, surface, found.assignment) : { says: null, lost: [] };
		const name = handName(map, control, gesture as Gesture);
		lost.push(...made.lost.map((says) => ({ control, says: `${name}: ${says}.` })));
		const written = made.says && writeCell(cell, surface, bytes, made.says);
		if (made.says && !written)
			lost.push({ control, says: `${name}: its numbers are beyond what a template can say.` });
		bytes = written ?? cell.set(bytes, 'kind', surface.kinds.indexOf('off')) ?? bytes;
		const quick = made.says?.quick;
		if (written && quick !== undefined && cell.get(bytes, 'quick') !== quick)
			lost.push({ control, says: `${name}: its acceleration, ${quick}, is none that a template knows.` });
	}
	lost.push(...beyond(map, surface, page));
	const title = map.pages.find(({ number }) => number === page)?.name ?? '';
	// A page without a name says nothing of it.
	if (record.name && (title !== '' || !base) && readName(profile, record, bytes) !== title) {
		const fits = writable(profile, record, title);
		if (fits !== title) lost.push({ control: null, says: `Its name is cut to “${fits}”.` });
		bytes = writeName(profile, record, bytes, fits);
	}
	return { bytes, lost };
}

/** A control as a template's lines call it, with the gesture where it is another than the usual one. */
export const handName = (map: ControlMap, control: string, gesture: Gesture): string => {
	const name = controlName(map.surface, control);
	return gesture === 'move' || gesture === 'push' ? name : `${name} ${GESTURE_WORDS[gesture]}`;
};

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

/** As much of a name as the record's field takes. */
function writable(profile: Profile, record: ProfileRecord, name: string): string {
	const probe = new Uint8Array(record.size);
	let kept = '';
	for (const sign of name) {
		try {
			writeName(profile, record, probe, kept + sign);
		} catch {
			continue;
		}
		kept += sign;
	}
	return kept.trimEnd();
}
