import type { PageTask } from './page-task';
import { pressTable } from './page-task';

/** So many tries for each block that can move. */
const ROUNDS_EACH = 4000;

/** Random numbers that repeat, so that a plan does (Park and Miller 1988). */
function numbers(seed: number): () => number {
	let state = seed;
	return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** Touches that may cost presses: indices of targets that are not global, none twice in a row. */
export function touchesOf(task: PageTask): number[] {
	const index = new Map(task.targets.map(({ id }, i) => [id, i]));
	return task.songs
		.flatMap(({ touches }) => touches.map((id) => index.get(id)!))
		.filter((t) => !task.targets[t].global)
		.filter((t, i, all) => i === 0 || all[i - 1] !== t);
}

/** Targets that go to one page together: groups, and everybody else alone. Indices of those that are not global. */
function blocksOf(task: PageTask): number[][] {
	const blocks = new Map<string, number[]>();
	task.targets.forEach(({ id, group, global }, t) => {
		if (global) return;
		const key = group ? `group ${group}` : `alone ${id}`;
		blocks.set(key, [...(blocks.get(key) ?? []), t]);
	});
	return [...blocks.values()];
}

/**
 * Pages for targets, found by moving and exchanging blocks while that helps, and now and then where it does not
 * (simulated annealing): a good beginning, and no proof of anything.
 * @param over looked at now and then; the best so far is given
 * @returns page of each target from 0, null for what is global; who has none is left out
 */
export function startPages(task: PageTask, over: () => boolean): Map<string, number | null> {
	const { count } = task.pages;
	const table = pressTable(task);
	const usable = Array.from({ length: count }, (_, page) => page).filter((page) => table[0][page] < Infinity);
	const globals = task.targets.filter(({ global }) => global).length;
	const room = Math.max(0, task.controls.length - globals);
	const blocks = blocksOf(task);
	const lockedPage = new Map(
		task.locked.flatMap(({ target, page }) => (page === undefined ? [] : [[target, page - 1] as const]))
	);
	const fixed = blocks.map((block) => {
		const held = block.map((t) => lockedPage.get(task.targets[t].id)).find((page) => page !== undefined);
		return held ?? null;
	});
	const sizes = blocks.map((block) => Math.min(block.length, room));
	const pageOf = new Int32Array(task.targets.length).fill(-1);
	const home = blocks.map(() => -1);
	const used = new Int32Array(count);
	/** Targets that have no page. */
	let missing = blocks.reduce((sum, block) => sum + block.length, 0);
	const put = (b: number, page: number) => {
		if (home[b] >= 0) {
			used[home[b]] -= sizes[b];
			missing += sizes[b];
		}
		home[b] = page;
		if (page >= 0) {
			used[page] += sizes[b];
			missing -= sizes[b];
		}
		blocks[b].forEach((t, i) => (pageOf[t] = page >= 0 && i < sizes[b] ? page : -1));
	};
	const touches = touchesOf(task);
	const cost = () => {
		let [on, sum] = [0, 0];
		for (const t of touches) {
			const page = pageOf[t];
			if (page < 0) continue;
			sum += table[on][page];
			on = page;
		}
		return missing * 100_000 + sum;
	};
	const first = new Map<number, number>();
	touches.forEach((t, i) => first.has(t) || first.set(t, i));
	const rank = blocks.map((block) => Math.min(...block.map((t) => first.get(t) ?? Infinity)));
	// The locked first, then groups, each as the songs come to it; who is never touched by size.
	const order = blocks
		.map((_, b) => b)
		.sort(
			(a, b) =>
				Number(fixed[b] !== null) - Number(fixed[a] !== null) ||
				Number(sizes[b] > 1) - Number(sizes[a] > 1) ||
				rank[a] - rank[b] ||
				sizes[b] - sizes[a]
		);
	for (const b of order) {
		const held = fixed[b];
		const page = held ?? usable.find((each) => used[each] + sizes[b] <= room);
		if (page !== undefined) put(b, page);
	}
	const random = numbers(2026);
	const movable = blocks.map((_, b) => b).filter((b) => fixed[b] === null);
	const rounds = ROUNDS_EACH * movable.length;
	let now = cost();
	let best = now;
	let kept = [...home];
	for (let round = 0; round < rounds && best > 0; round++) {
		if (round % 256 === 0 && over()) break;
		const heat = 3 * (1 - round / rounds) ** 2 + 1e-9;
		const a = movable[Math.floor(random() * movable.length)];
		const before = home[a];
		let undo: () => void;
		if (random() < 0.5) {
			const page = usable[Math.floor(random() * usable.length)];
			if (page === before || used[page] + sizes[a] > room) continue;
			put(a, page);
			undo = () => put(a, before);
		} else {
			const b = movable[Math.floor(random() * movable.length)];
			const other = home[b];
			if (other === before) continue;
			const after = (page: number, leaves: number, comes: number) =>
				page < 0 || used[page] - sizes[leaves] + sizes[comes] <= room;
			if (!after(before, a, b) || !after(other, b, a)) continue;
			put(a, -1);
			put(b, before);
			put(a, other);
			undo = () => {
				put(a, -1);
				put(b, other);
				put(a, before);
			};
		}
		const next = cost();
		if (next <= now || random() < Math.exp((now - next) / heat)) {
			now = next;
			if (now < best) {
				best = now;
				kept = [...home];
			}
		} else undo();
	}
	for (const [b] of kept.entries()) put(b, -1);
	kept.forEach((page, b) => put(b, page));
	return new Map<string, number | null>(
		task.targets.flatMap(({ id, global }, t): [string, number | null][] =>
			global ? [[id, null]] : pageOf[t] < 0 ? [] : [[id, pageOf[t]]]
		)
	);
}
