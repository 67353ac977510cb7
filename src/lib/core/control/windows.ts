import { applyEdits, type Edit } from '../edit';
import { MOST_OVER, type ControlMap, type MapPage, type Told, type Window } from './map';
import { GESTURE_WORDS } from './strips';
import { controlName, type Gesture } from './surface';
import { meantBy } from './target-words';
import { listEdits, usualChannel, writeLine, written } from './written';

/** Whether a line tells what the first view of a window wants of it, and that alone. */
export function asWindow(map: ControlMap, page: MapPage, window: Window, i: number): boolean {
	const told = window.over[i];
	const line = written(map, { page: page.number, control: window.controls[i], gesture: window.gesture });
	const [link, ...others] = line?.assignment.links ?? [];
	if (!told) return !link;
	return (
		!!link &&
		others.length === 0 &&
		link.list === told.list &&
		link.target === told.target &&
		link.channel === told.channel
	);
}

/** The edits that write the first view of a window on the lines of its controls. Lines that tell it already stay. */
export function firstView(map: ControlMap, page: number, window: Window): Edit[] {
	let now = map;
	return window.controls.flatMap((control, i): Edit[] => {
		const here = now.pages.find(({ number }) => number === page);
		if (!here || asWindow(now, here, window, i)) return [];
		const told = window.over[i];
		const made = writeLine(
			now,
			{ page, control, gesture: window.gesture },
			told ? { is: 'target', ...told, adds: null } : { is: 'nothing' }
		);
		now = applyEdits(now, made);
		return made;
	});
}

/** What was wrong with a window as it was written, by field. */
export type WindowFault = { field: 'controls' | 'over' | 'buttons'; says: string };

/** Controls that were written: names, or a name with a range of numbers behind it, `Fader 1–6`; commas between. */
function controlsMeant(map: ControlMap, text: string): string[] | string {
	const byName = new Map(map.surface.controls.map(({ id, name }) => [name.toLowerCase(), id]));
	const ids: string[] = [];
	for (const word of text.split(/[,;]/).map((each) => each.trim())) {
		if (word === '') continue;
		const range = /^(.*?)\s*(\d+)\s*[-–—]\s*(\d+)$/.exec(word);
		const names =
			range && !byName.has(word.toLowerCase())
				? Array.from(
						{ length: Math.max(0, Math.min(400, Number(range[3]) - Number(range[2]) + 1)) },
						(_, i) => `${range[1]} ${Number(range[2]) + i}`
					)
				: [word];
		if (names.length === 0) return `“${word}” runs backwards.`;
		for (const name of names) {
			const id = byName.get(name.toLowerCase());
			if (!id) return `There is no control “${name}”.`;
			if (ids.includes(id)) return `“${name}” is named twice.`;
			ids.push(id);
		}
	}
	return ids.length > 0 ? ids : 'Name the controls, as in Fader 1–6.';
}

/** What is told, one after another: as on a strip, or on a range of channels, `Level ch 1–16`. */
function overMeant(map: ControlMap, page: number, text: string): { over: Told[]; edits: Edit[] } | string {
	const over: Told[] = [];
	const edits: Edit[] = [];
	let now = map;
	for (const word of text.split(';').map((each) => each.trim())) {
		if (word === '') continue;
		const range = /^(.*\bch)\s*(\d{1,2})\s*[-–—]\s*(\d{1,2})$/i.exec(word);
		const words = range
			? Array.from(
					{ length: Math.max(0, Number(range[3]) - Number(range[2]) + 1) },
					(_, i) => `${range[1]} ${Number(range[2]) + i}`
				)
			: [word];
		if (words.length === 0) return `“${word}” runs backwards.`;
		for (const each of words) {
			const meant = meantBy(now, each);
			if (meant.is !== 'target') return meant.is === 'unknown' ? meant.says : 'A dash is nothing to tell.';
			const added = listEdits(now, meant.list, meant.adds);
			edits.push(...added);
			now = applyEdits(now, added);
			const { list, target } = meant;
			over.push({ list, target, channel: meant.channel ?? usualChannel(now, list, page) });
		}
	}
	return over.length > 0 ? { over, edits } : 'Write what is told, as in Level ch 1–16.';
}

/** A window as it is written down. */
export interface WrittenWindow {
	name: string;
	controls: string;
	over: string;
	/** So many further at each press; null for as many as it has controls. */
	step: number | null;
	next: string;
	back: string;
}

/** The edits that begin a window on a page, in which its controls tell the first of a longer list; or what is wrong with it. */
export function beginWindow(
	map: ControlMap,
	page: number,
	{ name, controls, over, step, next, back }: WrittenWindow
): { edits: Edit[] } | { fault: WindowFault } {
	const p = map.pages.findIndex(({ number }) => number === page);
	const ids = controlsMeant(map, controls);
	if (typeof ids === 'string') return { fault: { field: 'controls', says: ids } };
	const told = overMeant(map, page, over);
	if (typeof told === 'string') return { fault: { field: 'over', says: told } };
	if (told.over.length > MOST_OVER)
		return { fault: { field: 'over', says: `A window goes over ${MOST_OVER} at most.` } };
	if (told.over.length <= ids.length)
		return {
			fault: {
				field: 'over',
				says: `${ids.length} controls tell ${told.over.length} without a window.`
			}
		};
	const button = (id: string) => {
		const found = map.surface.controls.find((control) => control.id === id);
		return found ? { control: id, gesture: pushOf(found.gestures) } : null;
	};
	const on = button(next);
	if (!on || [next, back].some((id) => id !== '' && ids.includes(id)) || next === back)
		return {
			fault: {
				field: 'buttons',
				says: 'Choose a button that is none of its controls, and another one for back.'
			}
		};
	const [first] = ids.map((id) => map.surface.controls.find((control) => control.id === id)!);
	const window: Window = {
		name: name.trim() || controlName(map.surface, ids[0]),
		controls: ids,
		gesture: first.gestures[0],
		over: told.over,
		step: step ?? ids.length,
		next: on,
		back: back === '' ? null : button(back)
	};
	const added = applyEdits(map, told.edits);
	const at = map.pages[p].windows.length;
	return {
		edits: [
			...told.edits,
			{ path: ['pages', p, 'windows', at], value: window },
			...firstView(added, page, window)
		]
	};
}

/** How a button is pressed: the first gesture that is no turn. */
export const pushOf = (gestures: readonly Gesture[]): Gesture =>
	gestures.find((gesture) => gesture !== 'move' && gesture !== 'shift-move') ?? gestures[0];

/** A window in words: “Fader 1–3 over 8, by 3: key 1 on, key 2 back”. */
export function windowWords(map: ControlMap, { controls, over, step, next, back }: Window): string {
	const by = (each: NonNullable<Window['back']>) =>
		`${controlName(map.surface, each.control)}${each.gesture === 'push' ? '' : ` (${GESTURE_WORDS[each.gesture]})`}`;
	const names = controls.map((id) => controlName(map.surface, id));
	const span = names.length > 1 ? `${names[0]} to ${names.at(-1)}` : names[0];
	return `${span} over ${over.length}, ${step} further at a press: ${by(next)} on${back ? `, ${by(back)} back` : ''}`;
}
