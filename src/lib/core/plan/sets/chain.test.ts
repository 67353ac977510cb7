import { expect, it } from 'vitest';
import { seeded } from '../studio.fixture';
import { bestChain, type Link } from './chain';

/** The most that can be saved, by hanging every link on every other one or the out. */
function most(links: readonly Link[], depth: number): number | null {
	let best: number | null = null;
	const above = links.map(() => -2);
	const judge = () => {
		const hops = links.map((_, i) => {
			let [at, hop] = [i, 1];
			while (above[at] >= 0 && hop <= links.length) [at, hop] = [above[at], hop + 1];
			return hop;
		});
		if (hops.some((hop) => hop > Math.min(depth, links.length))) return;
		if (above.filter((at) => at === -1).length !== Math.min(1, links.length)) return;
		if (links.some(({ thrus }, i) => above.filter((at) => at === i).length > thrus)) return;
		const saved = links.reduce((sum, { home, adapter, feeder }, i) => {
			if (above[i] === -1) return sum + (home ? 1 : adapter ? -1 : 0);
			return sum + (feeder === above[i] ? 1 : 0);
		}, 0);
		if (best === null || saved > best) best = saved;
	};
	const visit = (i: number) => {
		if (i === links.length) return judge();
		for (let at = -1; at < links.length; at++) {
			if (at === i) continue;
			above[i] = at;
			visit(i + 1);
		}
	};
	visit(0);
	return best;
}

it('saves as much as any way of hanging them does', () => {
	const random = seeded(5);
	const pick = (n: number) => Math.floor(random() * n);
	for (let turn = 0; turn < 3000; turn++) {
		const many = 1 + pick(5);
		const links = Array.from({ length: many }, (_, i): Link => {
			const feeder = random() < 0.5 ? pick(many) : -1;
			return {
				thrus: pick(4),
				home: random() < 0.3,
				adapter: random() < 0.3,
				feeder: feeder === i ? -1 : feeder
			};
		}).map((link) => (link.home ? { ...link, feeder: -1 } : link));
		const depth = 1 + pick(4);
		const found = bestChain(links, depth);
		expect({ links, depth, saved: found?.saved ?? null }).toEqual({
			links,
			depth,
			saved: most(links, depth)
		});
		if (!found) continue;
		// The hops are such that each hop has as many sockets above it as it needs.
		const on = (hop: number) => links.filter((_, i) => found.hops[i] === hop);
		expect(on(1)).toHaveLength(1);
		for (let hop = 2; hop <= depth; hop++)
			expect(on(hop).length).toBeLessThanOrEqual(on(hop - 1).reduce((sum, { thrus }) => sum + thrus, 0));
		links.forEach(({ feeder, home }, i) => {
			if (found.kept[i]) expect(found.hops[i]).toBe(home ? 1 : found.hops[feeder] + 1);
		});
	}
});
