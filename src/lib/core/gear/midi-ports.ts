import type { PresentPort, RememberedPort } from './present-port';

export interface PortMatch {
	key: string;
	port: PresentPort | null;
	/** How sure it is: the very same, the same by name, or one that was renamed. */
	how: 'same' | 'by name' | 'renamed' | 'absent';
}

/** Words of a port's name; numbers that systems add in front or behind are words of their own. */
const words = (name: string): string[] => name.toLowerCase().match(/[a-z]+|\d+/g) ?? [];

/** How alike two names are, 0–1: shared words, in order, over all words. */
export function nameLikeness(a: string, b: string): number {
	const [x, y] = [words(a), words(b)];
	if (x.length === 0 || y.length === 0) return 0;
	let from = 0;
	let shared = 0;
	for (const word of x) {
		const at = y.indexOf(word, from);
		if (at < 0) continue;
		shared++;
		from = at + 1;
	}
	return (2 * shared) / (x.length + y.length);
}

const RENAMED = 0.6;

/**
 * Finds the remembered ports among those that are there now: by id, then by equal name and maker, then the most alike
 * name of the same maker. Each present port is given once; two that are equally alike are given to nobody.
 */
export function matchPorts(
	remembered: readonly RememberedPort[],
	present: readonly PresentPort[]
): PortMatch[] {
	const free = new Set(present);
	// A two-way socket is remembered twice, once for each direction.
	const found = new Map<RememberedPort, PortMatch>();
	const give = (memory: RememberedPort, port: PresentPort, how: PortMatch['how']) => {
		free.delete(port);
		found.set(memory, { key: memory.key, port, how });
	};
	const open = () => remembered.filter((memory) => !found.has(memory));
	const fits = (memory: RememberedPort, port: PresentPort) => port.direction === memory.direction;
	for (const memory of open()) {
		const port = [...free].find(
			(candidate) => fits(memory, candidate) && candidate.id === memory.id && candidate.name === memory.name
		);
		if (port) give(memory, port, 'same');
	}
	for (const memory of open()) {
		const same = [...free].filter(
			(port) => fits(memory, port) && port.name === memory.name && port.manufacturer === memory.manufacturer
		);
		const port = same.find(({ id }) => id === memory.id) ?? same[0];
		// Two units of one model show equal names: they keep the order in which they are listed.
		if (port) give(memory, port, 'by name');
	}
	for (const memory of open()) {
		const port = [...free].find((candidate) => fits(memory, candidate) && candidate.id === memory.id);
		if (port) give(memory, port, 'renamed');
	}
	const offers = open()
		.flatMap((memory) =>
			[...free]
				.filter((port) => fits(memory, port) && port.manufacturer === memory.manufacturer)
				.map((port) => ({ memory, port, score: nameLikeness(memory.name, port.name) }))
		)
		.filter(({ score }) => score >= RENAMED)
		.sort((a, b) => b.score - a.score);
	for (const { memory, port, score } of offers) {
		if (found.has(memory) || !free.has(port)) continue;
		const rivals = offers.filter(
			(other) =>
				other.score === score &&
				(other.memory === memory) !== (other.port === port) &&
				!found.has(other.memory) &&
				free.has(other.port)
		);
		if (rivals.length === 0) give(memory, port, 'renamed');
	}
	return remembered.map((memory) => found.get(memory) ?? { key: memory.key, port: null, how: 'absent' });
}
