import { readName, shownOf, valueFor } from '../../profile';
import type { Address, Profile, Target } from '../../profile';
import { applyEdits, type Edit } from '../edit';
import { linked, linksOf, type Assignment, type ControlMap, type Link } from '../map';
import { OWN_LIST, ownTarget, targetAt } from '../target-words';
import { listEdits, standing, type Line } from '../written';
import { memoryOf, NUMBERED, numberOf, readTemplate, saysWords, type Says } from './cells';
import { compilePage, handName } from './compile';

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
	const here = readTemplate(profile, compilePage(profile, map, page, held).bytes);
	return readTemplate(profile, held).flatMap((there, i) => {
		const { control, gesture } = there;
		const [mine, its] = [saysWords(here[i]), saysWords(there)];
		return mine === its
			? []
			: [
					{
						line: { page, control, gesture },
						control: handName(map, control, gesture),
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
	/** The map with what its lists gain on the way. */
	let now = map;
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
			const { list, target, adds } = targetFor(now, was, says);
			const added = listEdits(now, list, adds);
			now = applyEdits(now, added);
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
