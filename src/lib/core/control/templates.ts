import { readName, readParameter, writeName, writeParameter } from '../profile';
import type { Profile, ProfileParameter, ProfileRecord, SurfaceMemory } from '../profile';
import type { Edit } from './edit';
import { linked, type Assignment, type ControlMap, type Link } from './map';
import { GESTURE_WORDS } from './strips';
import type { Gesture } from './surface';
import { ADDRESS_WORDS, shownOf, valueFor, type Address, type Target } from '../profile';
import { listEdits, OWN_LIST, ownTarget, standing, targetAt, type Line } from './written';

/** A line of a template: what a control is made to say. Values as they are sent, from one end to the other. */
export interface TemplateLine {
	control: string;
	gesture: Gesture;
	/** Null where it says nothing. */
	says: {
		kind: Exclude<SurfaceMemory['kinds'][number], 'off'>;
		way: Assignment['way'];
		encoding?: Assignment['encoding'];
		channel: number;
		number: number;
		low: number;
		high: number;
		/** What a notch counts at its quickest, where the template says it. */
		quick?: number;
	} | null;
	/** It holds numbers that make no message: it is written by something else, or damaged. */
	odd: boolean;
}
type Says = NonNullable<TemplateLine['says']>;

/** Something of a page that a template has no room for. */
export interface Lost {
	/** The control that it is about; null for the page as a whole. */
	control: string | null;
	says: string;
}

/** The controllers' memory that a profile tells of, or null where it is of no controller. */
export function memoryOf(profile: Profile): { surface: SurfaceMemory; record: ProfileRecord } | null {
	const { surface } = profile;
	const area = profile.areas.find(({ id }) => id === surface?.area);
	return surface && area ? { surface, record: profile.records[area.record] } : null;
}

/** Kinds that have a number, with the largest. */
const NUMBERED: Partial<Record<Says['kind'], number>> = {
	cc: 127,
	'cc-14': 31,
	rpn: 16382,
	nrpn: 16382,
	note: 127
};
const SEVEN_BITS = new Set<Says['kind']>(['cc', 'note', 'program-change', 'channel-pressure']);
const isMessage = ({ kind, way, number, low, high }: Says): boolean => {
	const most = SEVEN_BITS.has(kind) ? 127 : 16383;
	return (
		number <= (NUMBERED[kind] ?? 0) &&
		(way === 'relative' || high <= most) &&
		(way === 'relative' || way === 'value' || low <= most)
	);
};
const wayWord = ({ way, encoding }: Pick<Assignment, 'way' | 'encoding'>): string =>
	way === 'relative' ? `relative ${encoding ?? 'twos-complement'}` : way;

/** Parameters of a record by their ids. */
const parameters = new WeakMap<ProfileRecord, Map<string, ProfileParameter>>();

/** The fields of a cell, as raw values. */
class Cell {
	readonly #fields: ReadonlyMap<string, ProfileParameter>;

	constructor(record: ProfileRecord, cell: string) {
		let named = parameters.get(record);
		if (!named) parameters.set(record, (named = new Map(record.parameters.map((each) => [each.id, each]))));
		this.#fields = new Map(
			['kind', 'way', 'channel', 'number', 'low', 'high', 'quick'].flatMap((field) => {
				const parameter = named.get(`${cell}-${field}`);
				return parameter ? [[field, parameter]] : [];
			})
		);
	}

	/** Counts from nought. */
	get(bytes: Uint8Array, field: string): number | undefined {
		const parameter = this.#fields.get(field);
		return parameter && readParameter(parameter, bytes) - (field === 'quick' ? 0 : parameter.range[0]);
	}

	/** Null where the field cannot say that. */
	set(bytes: Uint8Array, field: string, value: number): Uint8Array | null {
		const parameter = this.#fields.get(field);
		if (!parameter) return null;
		const raw = value + (field === 'quick' ? 0 : parameter.range[0]);
		return raw < parameter.range[0] || raw > parameter.range[1]
			? null
			: writeParameter(parameter, bytes, raw);
	}
}

/** What a template makes a controller's controls say, in the order of its cells. */
export function readTemplate(profile: Profile, bytes: Uint8Array): TemplateLine[] {
	const memory = memoryOf(profile);
	if (!memory) return [];
	return memory.surface.cells.map(({ cell: id, control, gesture }) => {
		const cell = new Cell(memory.record, id);
		const kind = memory.surface.kinds[cell.get(bytes, 'kind') ?? -1] ?? 'off';
		const line = { control, gesture: gesture as Gesture, odd: false };
		if (kind === 'off') return { ...line, says: null };
		const [way, encoding] = (memory.surface.ways[cell.get(bytes, 'way') ?? -1] ?? 'absolute').split(' ');
		const quick = cell.get(bytes, 'quick');
		const says: Says = {
			kind,
			way: way as Assignment['way'],
			...(encoding ? { encoding: encoding as Assignment['encoding'] } : {}),
			channel: (cell.get(bytes, 'channel') ?? 0) + 1,
			number: kind in NUMBERED ? (cell.get(bytes, 'number') ?? 0) : 0,
			low: cell.get(bytes, 'low') ?? 0,
			high: cell.get(bytes, 'high') ?? 0,
			...(way === 'relative' && quick !== undefined ? { quick } : {})
		};
		return isMessage(says) ? { ...line, says } : { ...line, says: null, odd: true };
	});
}

const numberOf = (address: Address): number => ('number' in address ? address.number : 0);

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
		const name = nameOfControl(map, control, gesture as Gesture);
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

/** What a kind or a way of speaking has no use for stays as it is. Null where the cell cannot say that. */
function writeCell(
	cell: Cell,
	{ kinds, ways }: SurfaceMemory,
	bytes: Uint8Array,
	says: Says
): Uint8Array | null {
	if (!isMessage(says)) return null;
	const fields: [string, number][] = [
		['kind', kinds.indexOf(says.kind)],
		['way', ways.findIndex((way) => way === wayWord(says))],
		['channel', says.channel - 1]
	];
	if (says.kind in NUMBERED) fields.push(['number', says.number]);
	if (says.way !== 'relative') fields.push(['high', says.high]);
	if (says.way !== 'relative' && says.way !== 'value') fields.push(['low', says.low]);
	let written: Uint8Array | null = bytes;
	for (const [field, value] of fields) written = written && cell.set(written, field, value);
	const { quick } = says;
	return written && quick !== undefined && Number.isInteger(quick)
		? (cell.set(written, 'quick', quick) ?? written)
		: written;
}

const nameOfControl = (map: ControlMap, control: string, gesture: Gesture): string => {
	const name = map.surface.controls.find(({ id }) => id === control)?.name ?? control;
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
			says: `${nameOfControl(map, each.control, each.gesture)}: a template has no place for it.`
		}));
	const onPaper = all.filter(({ name, colour }) => name !== '' || colour !== '').length;
	if (onPaper > 0 && map.surface.display === null)
		lost.push({ control: null, says: 'Names and colours of its controls stay on paper: print its strips.' });
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

/** A line of a page that a template says otherwise. */
export interface Unlike {
	line: Line;
	/** The control, in words, with what the page and what the template make it say. */
	control: string;
	here: string;
	there: string;
}

/** What a control is made to say, in words: `CC 74 ch 3, 0–127`. */
export function saysWords({ says, odd }: Pick<TemplateLine, 'says' | 'odd'>): string {
	if (!says) return odd ? 'numbers that make no message' : 'nothing';
	const number = says.kind in NUMBERED ? ` ${says.number}` : '';
	const values =
		says.way === 'relative' ? 'steps' : says.way === 'value' ? `${says.high}` : `${says.low}–${says.high}`;
	const ways: Partial<Record<Assignment['way'], string>> = {
		relative: ` (${says.encoding}${says.quick === undefined ? '' : `, ${says.quick} a notch at most`})`,
		momentary: ', held',
		toggle: ', on and off'
	};
	return `${ADDRESS_WORDS[says.kind]}${number} ch ${says.channel}, ${values}${ways[says.way] ?? ''}`;
}

/** Where a page and the template that a slot holds say something else, line by line. */
export function unlike(profile: Profile, map: ControlMap, page: number, held: Uint8Array): Unlike[] {
	const here = readTemplate(profile, compilePage(profile, map, page, held).bytes);
	return readTemplate(profile, held).flatMap((there, i) => {
		const { control, gesture } = there;
		const [mine, its] = [saysWords(here[i]), saysWords(there)];
		return mine === its
			? []
			: [
					{
						line: { page, control, gesture },
						control: nameOfControl(map, control, gesture),
						here: mine,
						there: its
					}
				];
	});
}

/**
 * The edits that make a page say what a template does. What the template cannot hold (names, colours, what is kept with a
 * song) stays where its line says the same as before.
 */
export function takeTemplate(profile: Profile, map: ControlMap, page: number, held: Uint8Array): Edit[] {
	const memory = memoryOf(profile);
	const p = map.pages.findIndex(({ number }) => number === page);
	if (!memory || p < 0) return [];
	const edits: Edit[] = [];
	let lists = map.lists;
	const assignments = [...map.pages[p].assignments];
	const read = readTemplate(profile, held);
	for (const { line } of unlike(profile, map, page, held)) {
		const { says } = read.find((each) => each.control === line.control && each.gesture === line.gesture)!;
		const at = assignments.findIndex(
			(each) => each.control === line.control && each.gesture === line.gesture
		);
		const was = standing(map, line)?.assignment;
		let made: Assignment | null = null;
		if (says) {
			const now = { ...map, lists };
			const { list, target, adds } = targetFor(now, was, says);
			const added = listEdits(now, list, adds);
			lists = added.reduce((all, { path, value }) => listsWith(all, path, value), lists);
			edits.push(...added);
			made = assignmentOf(line, list, target, says, was);
		} else if (map.globals.some((each) => each.control === line.control && each.gesture === line.gesture))
			// What is the same on every page is not here.
			made = { ...blank(line), empty: true };
		if (at >= 0) assignments.splice(at, 1, ...(made ? [made] : []));
		else if (made) assignments.push(made);
	}
	const name = memory.record.name ? readName(profile, memory.record, held) : null;
	const named = readName(profile, memory.record, compilePage(profile, map, page, held).bytes);
	return [
		...edits,
		{
			path: ['pages', p],
			value: {
				...map.pages[p],
				assignments,
				// A longer name that was cut to what the slot holds is not lost by that.
				name: name === null || name === named ? map.pages[p].name : name
			}
		}
	];
}

const blank = ({ control, gesture }: Line): Assignment => ({
	control,
	gesture,
	empty: false,
	links: [],
	way: 'absolute',
	name: '',
	colour: ''
});

function listsWith(lists: ControlMap['lists'], path: Edit['path'], value: unknown): ControlMap['lists'] {
	const at = Number(path[1]);
	if (path.length === 2) return [...lists, value as ControlMap['lists'][number]];
	return lists.with(at, { ...lists[at], targets: [...lists[at].targets, value as Target] });
}

/** The target that a template's line means: the one that stood there, one of the same address, or its bare number. */
function targetFor(
	map: ControlMap,
	was: Assignment | undefined,
	says: Says
): { list: string; target: Target; adds: Target | null } {
	const fits = (target: Target) =>
		target.address.kind === says.kind &&
		(!(says.kind in NUMBERED) || numberOf(target.address) === says.number) &&
		// What is shown must lead back to what is sent.
		valuesOf(says).every(
			(value) =>
				value >= target.low && value <= target.high && valueFor(target, shownOf(target, value)) === value
		);
	for (const link of was?.links ?? []) {
		const { target } = linked(map, link);
		if (target && fits(target)) return { list: link.list, target, adds: null };
	}
	const used = new Set(
		[...map.globals, ...map.pages.flatMap(({ assignments }) => assignments)]
			.flatMap(({ links }) => links)
			.filter(({ channel }) => channel === says.channel)
			.map(({ list }) => list)
	);
	const found =
		targetAt(map, (list, target) => used.has(list.id) && fits(target)) ??
		targetAt(map, (_, target) => fits(target));
	if (found) return { ...found, adds: null };
	const own = ownTarget(addressOf(says));
	return { list: OWN_LIST, target: own, adds: own };
}

const valuesOf = ({ way, low, high }: Says): number[] =>
	way === 'relative' ? [] : way === 'value' ? [high] : [low, high];
const addressOf = ({ kind, number }: Says): Address =>
	kind in NUMBERED ? ({ kind, number } as Address) : ({ kind } as Address);

function assignmentOf(
	line: Line,
	list: string,
	target: Target,
	says: Says,
	was: Assignment | undefined
): Assignment {
	// Steps and stated values have no ends.
	const whole = says.way === 'value' || says.way === 'relative';
	const [low, high] = [Math.min(says.low, says.high), Math.max(says.low, says.high)];
	const same = was?.links.find((link) => link.list === list && link.target === target.id);
	const link: Link = {
		list,
		target: target.id,
		channel: says.channel,
		...(whole || low === target.low ? {} : { from: shownOf(target, low) }),
		...(whole || high === target.high ? {} : { to: shownOf(target, high) }),
		inverted: !whole && says.low > says.high,
		curve: 'even',
		reach: 'template'
	};
	return {
		...blank(line),
		links: [link],
		way: says.way,
		...(says.encoding ? { encoding: says.encoding } : {}),
		...(says.way === 'value' ? { value: shownOf(target, says.high) } : {}),
		...(says.quick === undefined ? {} : { acceleration: Math.max(1, says.quick) }),
		// A name was given to what it told: it goes with it, and no further.
		...(same && was ? { name: was.name, colour: was.colour } : {})
	};
}
