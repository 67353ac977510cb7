import { readName, shownOf, valueFor } from '../../profile';
import type { Address, Profile, Target } from '../../profile';
import { applyEdits, type Edit } from '../../edit';
import { linked, linksOf, type Assignment, type ControlMap, type Link } from '../map';
import { OWN_LIST, ownTarget, targetAt } from '../target-words';
import { listEdits, standing, type Line } from '../written';
import {
	Cell,
	memoryOf,
	NUMBERED,
	numberOf,
	readTemplate,
	saysWords,
	type Says,
	type TemplateLine
} from './cells';
import { compilePage, pagesIn, placeName, shownText } from './compile';

/** A line of a page that a template says otherwise. */
export interface Unlike {
	line: Line;
	/** The control, in words, with what the page and what the template make it say. */
	control: string;
	here: string;
	there: string;
}

/** Where a page and the template that a slot holds say something else, line by line. */
export function unlike(profile: Profile, map: ControlMap, page: number, held: Uint8Array): Unlike[] {
	const memory = memoryOf(profile);
	if (!memory) return [];
	const here = readTemplate(profile, compilePage(profile, map, page, held).bytes, page);
	return readTemplate(profile, held, page).flatMap((there, i) => {
		const { control, gesture } = there;
		const [mine, its] = [lineWords(here[i]), lineWords(there)];
		return mine === its
			? []
			: [
					{
						line: { page: there.page, control, gesture },
						control: placeName(map, memory.surface, there),
						here: mine,
						there: its
					}
				];
	});
}

const lineWords = (line: TemplateLine): string =>
	line.text ? `${saysWords(line)}, “${line.text}”` : saysWords(line);

/**
 * The edits that make a page, or all pages that a slot holds, say what it does. What the template cannot hold (colours, what
 * is kept with a song; names where it has none) stays where its line says the same as before.
 */
export function takeTemplate(profile: Profile, map: ControlMap, page: number, held: Uint8Array): Edit[] {
	const memory = memoryOf(profile);
	if (!memory) return [];
	const read = readTemplate(profile, held, page);
	const edits: Edit[] = memory.surface.pages ? missingPages(map, read) : [];
	/** The map with what it gains on the way. */
	let now = applyEdits(map, edits);
	const pages = new Map(
		pagesIn(memory.surface, now, page).map((number) => [
			number,
			[...(now.pages.find((each) => each.number === number)?.assignments ?? [])]
		])
	);
	const before = now;
	for (const { line } of unlike(profile, before, page, held)) {
		const assignments = pages.get(line.page!);
		if (!assignments) continue;
		const its = read.find(
			(each) => each.page === line.page && each.control === line.control && each.gesture === line.gesture
		)!;
		const at = assignments.findIndex(
			(each) => each.control === line.control && each.gesture === line.gesture
		);
		const was = standing(before, line)?.assignment;
		let made: Assignment | null = null;
		if (its.says) {
			const { list, target, adds } = targetFor(now, was, its.says);
			const added = listEdits(now, list, adds);
			now = applyEdits(now, added);
			edits.push(...added);
			made = assignmentOf(line, list, target, its.says, was);
		} else if (its.rests) made = { ...blank(line), way: 'rest' };
		else if (before.globals.some((each) => each.control === line.control && each.gesture === line.gesture))
			// What is the same on every page is not here.
			made = { ...blank(line), empty: true };
		made = named(profile, now, its, made);
		if (at >= 0) assignments.splice(at, 1, ...(made ? [made] : []));
		else if (made) assignments.push(made);
	}
	for (const [number, assignments] of pages) {
		const p = before.pages.findIndex((each) => each.number === number);
		if (p >= 0)
			edits.push({
				path: ['pages', p],
				value: { ...before.pages[p], assignments, name: pageName(profile, map, page, held, number) }
			});
	}
	return edits;
}

/** Pages that a slot says something of and the map does not have. */
function missingPages(map: ControlMap, read: readonly TemplateLine[]): Edit[] {
	const missing = [...new Set(read.filter(({ says }) => says).map(({ page }) => page))].filter(
		(page) => !map.pages.some(({ number }) => number === page)
	);
	return missing.length === 0
		? []
		: [
				{
					path: ['pages'],
					value: [
						...map.pages,
						...missing.map((number) => ({
							number,
							name: '',
							programs: [],
							assignments: [],
							windows: []
						}))
					].sort((a, b) => a.number - b.number)
				}
			];
}

/** A line with the name that its display shows, where the template keeps one and the line alone does not come to it. */
function named(
	profile: Profile,
	map: ControlMap,
	{ text, cell: id, control, gesture }: TemplateLine,
	made: Assignment | null
): Assignment | null {
	const field = new Cell(memoryOf(profile)!.record, id).text;
	if (text === null || !field) return made;
	const shows = (assignment: Assignment | null) => shownText(profile, map, field, assignment).text === text;
	if (shows(made)) return made;
	const bare = made && { ...made, name: '' };
	if (bare && shows(bare)) return bare;
	// A display that shows nothing is left so (see `compilePage`); a name alone is kept, though the control says nothing.
	return text === '' ? bare : { ...(made ?? blank({ control, gesture })), name: text };
}

/** What a page is called after a slot was taken over. A longer name that was cut to what the slot holds is not lost by that. */
function pageName(profile: Profile, map: ControlMap, page: number, held: Uint8Array, number: number): string {
	const { surface, record } = memoryOf(profile)!;
	const own = map.pages.find((each) => each.number === number)?.name ?? '';
	// The name of a slot that holds all pages is no page's.
	const name = surface.pages ? null : readName(profile, record, held);
	if (name === null) return own;
	const cut = readName(profile, record, compilePage(profile, map, page, held).bytes);
	return name === cut ? own : name;
}

const blank = ({ control, gesture }: Omit<Line, 'page'>): Assignment => ({
	control,
	gesture,
	empty: false,
	links: [],
	way: 'absolute',
	name: '',
	colour: ''
});

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
		linksOf(map)
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
