import type { PageLayout, PageTask } from './page-task';

type Place = { page: number | null; control: string };

/**
 * Gives targets whose pages are decided their controls: who is locked or suits few first, then those of one function on
 * one control as far as it goes, then the rest. Whoever finds no control loses its place.
 * @param pageOf page of each target from 0, null for what is global; what is left out gets no place
 * @param fixed controls that are decided already
 */
export function seat(
	task: PageTask,
	pageOf: ReadonlyMap<string, number | null>,
	fixed: ReadonlyMap<string, string> = new Map()
): PageLayout {
	const layout = new Map<string, Place>();
	const { count } = task.pages;
	/** Who sits where, by page and control. */
	const taken = Array.from({ length: count }, () => new Map<string, string>());
	const pagesOf = (id: string): number[] => {
		const page = pageOf.get(id);
		return page === null
			? Array.from({ length: count }, (_, each) => each)
			: page === undefined
				? []
				: [page];
	};
	const locked = new Map(task.locked.map(({ target, control }) => [target, control]));
	const liked = new Map<string, Map<string, number>>();
	const place = (id: string, global: boolean, what: string, control: string) => {
		const pages = pagesOf(id);
		for (const page of pages) taken[page].set(control, id);
		layout.set(id, { page: global ? null : pages[0] + 1, control });
		if (what) {
			const likes = liked.get(what) ?? new Map<string, number>();
			liked.set(what, likes.set(control, (likes.get(control) ?? 0) + 1));
		}
	};
	const free = (pages: readonly number[], control: string) =>
		pages.every((page) => !taken[page].has(control));
	/** Moves one who may sit elsewhere on its page, so that its control is free (an augmenting path). */
	const makeRoom = (page: number, control: string, tried: Set<string>): boolean => {
		const sitting = taken[page].get(control);
		if (sitting === undefined) return true;
		const target = task.targets.find(({ id }) => id === sitting)!;
		if (target.global || locked.has(sitting) || fixed.has(sitting)) return false;
		for (const other of target.controls.length > 0 ? target.controls : task.controls) {
			if (tried.has(other)) continue;
			tried.add(other);
			if (!makeRoom(page, other, tried)) continue;
			taken[page].delete(control);
			taken[page].set(other, sitting);
			layout.set(sitting, { page: page + 1, control: other });
			return true;
		}
		return false;
	};
	const wish = (id: string) => locked.get(id) ?? fixed.get(id);
	const members = new Map<string, number>();
	for (const { function: what } of task.targets) if (what) members.set(what, (members.get(what) ?? 0) + 1);
	const order = [...task.targets].sort(
		(a, b) =>
			Number(wish(b.id) !== undefined) - Number(wish(a.id) !== undefined) ||
			Number(b.global) - Number(a.global) ||
			(a.controls.length || Infinity) - (b.controls.length || Infinity) ||
			(members.get(b.function) ?? 0) - (members.get(a.function) ?? 0) ||
			(a.function < b.function ? -1 : a.function > b.function ? 1 : 0)
	);
	for (const { id, global, function: what, controls } of order) {
		const pages = pagesOf(id);
		if (pages.length === 0) continue;
		const wanted = wish(id);
		if (wanted !== undefined) {
			if (free(pages, wanted)) place(id, global, what, wanted);
			continue;
		}
		const suits = controls.length > 0 ? controls : task.controls;
		const likes = liked.get(what);
		const open = suits.filter((control) => free(pages, control));
		const [best] = open.sort((a, b) => (likes?.get(b) ?? 0) - (likes?.get(a) ?? 0));
		if (best !== undefined) place(id, global, what, best);
		else if (!global) {
			const control = suits.find((each) => makeRoom(pages[0], each, new Set([each])));
			if (control !== undefined) place(id, global, what, control);
		}
	}
	return layout;
}
