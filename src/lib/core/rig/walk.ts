import type { Edge, Message, Node, SignalGraph, Stop } from './step';

/** Where a message is: at a node, in a form. */
export interface Reached {
	node: Node;
	message: Message;
	delayMs: number;
	/** What had to be ignored to get here. */
	stops: Stop[];
	/** Edges from the beginning to here. */
	edges: Edge[];
}

const key = (node: Node, { channel }: Message) => `${node.key} ${channel}`;
const cost = ({ stops, delayMs }: Reached) =>
	stops.reduce((sum, { weight }) => sum + weight, 0) * 1e6 + delayMs;

/**
 * Every place that a message reaches, by the way with the fewest stops and then the least delay.
 * @param relaxed go on past what stops it, and keep account
 */
export function walk(graph: SignalGraph, start: Node, message: Message, relaxed = false): Reached[] {
	const best = new Map<string, Reached>();
	const done = new Set<string>();
	const first: Reached = { node: start, message, delayMs: 0, stops: [], edges: [] };
	best.set(key(start, message), first);
	for (;;) {
		let next: Reached | null = null;
		for (const [id, reached] of best)
			if (!done.has(id) && (next === null || cost(reached) < cost(next))) next = reached;
		if (!next) return [...best.values()];
		done.add(key(next.node, next.message));
		for (const edge of graph.after(next.node)) {
			const passed = edge.pass(next.message);
			if (passed.stop && !relaxed) continue;
			const there: Reached = {
				node: edge.to,
				message: passed.message,
				delayMs: next.delayMs + edge.delayMs,
				stops: passed.stop ? [...next.stops, passed.stop] : next.stops,
				edges: [...next.edges, edge]
			};
			const id = key(edge.to, passed.message);
			const before = best.get(id);
			if (!before || (!done.has(id) && cost(there) < cost(before))) best.set(id, there);
		}
	}
}
