/** A message that covers the slots from `first` to before `end`, at a cost. */
export interface Stretch {
	first: number;
	end: number;
	/** Milliseconds. */
	cost: number;
}

/**
 * The cheapest set of stretches that covers all of `slots` (ascending); null where they cannot be covered. Exact:
 * stretches lie on a line, so the best cover of the first `j` slots is a stretch that holds slot `j` and the best
 * cover of what comes before that stretch. Of equal covers the one with fewer stretches is taken.
 */
export function cheapestCover<S extends Stretch>(slots: readonly number[], offers: readonly S[]): S[] | null {
	interface Best {
		cost: number;
		count: number;
		last: S | null;
		before: number;
	}
	const best: Best[] = [{ cost: 0, count: 0, last: null, before: 0 }];
	const sorted = offers.toSorted((a, b) => a.first - b.first || a.end - b.end);
	const starts = sorted.map(({ first }) => slots.findIndex((slot) => slot >= first));
	for (let j = 1; j <= slots.length; j++) {
		const slot = slots[j - 1];
		let found: Best = { cost: Infinity, count: 0, last: null, before: 0 };
		for (let i = 0; i < sorted.length && sorted[i].first <= slot; i++) {
			const offer = sorted[i];
			if (offer.end <= slot) continue;
			const before = best[starts[i]];
			const cost = before.cost + offer.cost;
			if (cost < found.cost - 1e-9 || (Math.abs(cost - found.cost) <= 1e-9 && before.count + 1 < found.count))
				found = { cost, count: before.count + 1, last: offer, before: starts[i] };
		}
		best.push(found);
	}
	if (!Number.isFinite(best[slots.length].cost)) return null;
	const cover: S[] = [];
	for (let j = slots.length; j > 0; j = best[j].before) cover.push(best[j].last!);
	return cover.reverse();
}
