import { z } from 'zod';
import { Problem } from '../../problem';
import { pressesBetween } from '../surface';

const id = z.string().min(1).max(80);

/** `silent-drawer.page-task`: which targets the songs of a set touch, and on how many controls and pages they have to fit. */
export const pageTaskSchema = z.object({
	format: z.literal('silent-drawer.page-task'),
	version: z.literal(1),
	/** Controls of each page, all alike but for their names. */
	controls: z.array(id).min(1).max(128),
	pages: z.object({
		count: z.number().int().min(1).max(64),
		/** Presses to any page by its number; null where there is no such key. */
		direct: z.number().int().min(1).max(4).nullable().default(1),
		/** Presses from a page to the next; null where one cannot step. */
		step: z.number().int().min(1).max(4).nullable().default(null),
		round: z.boolean().default(false)
	}),
	targets: z
		.array(
			z.object({
				id,
				/** Targets of one function are found again where they are on the same control of other pages. */
				function: z.string().max(40).default(''),
				/** Targets of one group stay on one page. */
				group: z.string().max(40).default(''),
				/** On the same control of every page. */
				global: z.boolean().default(false),
				/** Only these controls suit it; empty for any. */
				controls: z.array(id).max(128).default([])
			})
		)
		.max(600),
	/** In the order of the set; what each touches, in order. */
	songs: z.array(z.object({ name: z.string().max(80).default(''), touches: z.array(id).max(2000) })).max(200),
	/** Places that stay as they are; a page only for what is not global. */
	locked: z
		.array(z.object({ target: id, control: id, page: z.number().int().min(1).max(64).optional() }))
		.max(600)
		.default([])
});
export type PageTask = z.infer<typeof pageTaskSchema>;

/** Where each target is: a page (null for what is global) and a control; what has no place is left out. */
export type PageLayout = ReadonlyMap<string, { page: number | null; control: string }>;

/** Presses from each page to each, pages from 0; Infinity where no way leads. */
export const pressTable = ({ pages }: PageTask): number[][] =>
	Array.from({ length: pages.count }, (_, from) =>
		Array.from(
			{ length: pages.count },
			(_, to) => pressesBetween({ ...pages, word: 'page' }, from + 1, to + 1) ?? Infinity
		)
	);

/**
 * Whether a task says what can be meant: every id once, every name known, every lock free of the others.
 * @throws Problem `page-task.reference`
 */
export function checkPageTask(task: PageTask): void {
	const wrong = (says: string) =>
		new Problem('page-task.reference', says, 'Correct the task; nothing was planned.');
	const once = (ids: readonly string[], what: string) => {
		const seen = new Set<string>();
		for (const each of ids) {
			if (seen.has(each)) throw wrong(`Two ${what} are called “${each}”.`);
			seen.add(each);
		}
		return seen;
	};
	const controls = once(task.controls, 'controls');
	const targets = new Map(task.targets.map((target) => [target.id, target]));
	once(
		task.targets.map((target) => target.id),
		'targets'
	);
	once(
		task.locked.map(({ target }) => target),
		'locks'
	);
	for (const { touches } of task.songs)
		for (const touch of touches)
			if (!targets.has(touch)) throw wrong(`A song touches “${touch}”, which is no target.`);
	for (const { id: name, controls: suits } of task.targets)
		for (const control of suits)
			if (!controls.has(control)) throw wrong(`“${name}” suits “${control}”, which is no control.`);
	for (const { target, control, page } of task.locked) {
		const known = targets.get(target);
		if (!known) throw wrong(`“${target}” is locked, and no target.`);
		if (!controls.has(control)) throw wrong(`“${target}” is locked to “${control}”, which is no control.`);
		if (known.global === (page !== undefined))
			throw wrong(
				known.global
					? `“${target}” is on every page, and locked to one.`
					: `“${target}” is locked to a control, and to no page.`
			);
		if (page !== undefined && page > task.pages.count)
			throw wrong(`“${target}” is locked to page ${page} of ${task.pages.count}.`);
	}
}
