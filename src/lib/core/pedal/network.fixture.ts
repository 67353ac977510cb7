import type { Jack, Pedal } from './floor';

/** An edge of a network: two contacts and a conductance in 1/kΩ. */
type Edge = readonly [string, string, number];

/** As good as a wire, and as good as nothing. */
const WIRE = 1e6;
const AIR = 1e-9;

/**
 * Voltages of a network by counting forests (Kirchhoff, 1847): among all spanning forests of two trees, one with the supply
 * and one with ground, each weighed by the product of its conductances, the share in which a contact is with the supply.
 * No equation is solved and nothing is subtracted.
 */
export function voltageByForests(edges: readonly Edge[], contact: string): number {
	const nodes = [...new Set(edges.flatMap(([a, b]) => [a, b]))];
	const index = new Map(nodes.map((node, i) => [node, i]));
	const ends = edges.map(([a, b, weight]) => [index.get(a)!, index.get(b)!, weight] as const);
	const [supply, ground, wanted] = ['supply', 'ground', contact].map((node) => index.get(node)!);
	let [all, withSupply] = [0, 0];
	const grow = (from: number, tree: Int8Array, left: number, weight: number): void => {
		if (left === 0) {
			if (tree[supply] === tree[ground]) return;
			all += weight;
			if (tree[wanted] === tree[supply]) withSupply += weight;
			return;
		}
		for (let e = from; e <= ends.length - left; e++) {
			const [a, b, conductance] = ends[e];
			const [x, y] = [tree[a], tree[b]];
			if (x === y) continue;
			grow(
				e + 1,
				tree.map((each) => (each === x ? y : each)),
				left - 1,
				weight * conductance
			);
		}
	};
	grow(
		0,
		Int8Array.from(nodes, (_, i) => i),
		nodes.length - 2,
		1
	);
	return withSupply / all;
}

/** Resistors that the naive computation takes for those that are not noted, in kΩ. */
export interface Known {
	pull: number;
	feed: number;
	load: number;
	pot: number;
}

/** A cable as somebody with a soldering iron writes it: which contact of which plug is tied to which. */
const SOLDERED: Record<string, readonly string[]> = {
	ts: ['J0.tip-P0.tip', 'J0.sleeve-P0.sleeve'],
	trs: ['J0.tip-P0.tip', 'J0.ring-P0.ring', 'J0.sleeve-P0.sleeve'],
	crossed: ['J0.tip-P0.ring', 'J0.ring-P0.tip', 'J0.sleeve-P0.sleeve'],
	'split to pedals': ['J0.tip-P0.tip', 'J0.ring-P1.tip', 'J0.sleeve-P0.sleeve', 'J0.sleeve-P1.sleeve'],
	'split to one pedal': ['J0.tip-P0.tip', 'J0.sleeve-P0.sleeve'],
	'split to jacks': ['J0.tip-P0.tip', 'J1.tip-P0.ring', 'J0.sleeve-P0.sleeve', 'J1.sleeve-P0.sleeve']
};

const soldering = (cable: string | null, jacks: number, pedals: number, plug: Pedal['plug']): string => {
	if (cable === null) return plug === 'own-ts' ? 'ts' : 'trs';
	if (cable !== 'split') return cable;
	return jacks > 1 ? 'split to jacks' : pedals > 1 ? 'split to pedals' : 'split to one pedal';
};

/** What an input of a box reads, computed from the soldering up. `track`: where the wiper of each pot stands, 0–1. */
export function naiveLevel(
	jacks: readonly Jack[],
	cable: string | null,
	pedals: readonly Pedal[],
	closed: readonly (readonly boolean[])[],
	track: readonly (readonly number[])[],
	wanted: { jack: number; contact: 'tip' | 'ring' },
	known: Known
): number {
	const how = soldering(cable, jacks.length, pedals.length, pedals[0].plug);
	const edges: Edge[] = [];
	const twoPole = (plugAt: 'J' | 'P', n: number) =>
		how === 'ts' ||
		(how === 'split to jacks' && plugAt === 'J') ||
		(how.startsWith('split to') && how !== 'split to jacks' && plugAt === 'P' && n >= 0);
	jacks.forEach((jack, j) => {
		const mode = jack.modes.find(({ id }) => id === jack.set.mode) ?? jack.modes[0];
		edges.push([`J${j}.sleeve`, 'ground', WIRE]);
		// In a socket with three springs the sleeve of a plug with two touches the middle one.
		if (jack.socket === 'trs' && twoPole('J', j)) edges.push([`J${j}.ring`, `J${j}.sleeve`, WIRE]);
		if (mode.takes === 'expression') {
			const [fed, read] = mode.wiper === 'tip' ? ['ring', 'tip'] : ['tip', 'ring'];
			edges.push([`J${j}.${fed}`, 'supply', 1 / (mode.feedKohm ?? known.feed)]);
			edges.push([`J${j}.${read}`, 'ground', 1 / (mode.loadKohm ?? known.load)]);
		} else
			for (const contact of mode.takes === 'switch' ? ['tip'] : ['tip', 'ring'])
				edges.push([`J${j}.${contact}`, 'supply', 1 / (mode.pullKohm ?? known.pull)]);
	});
	for (const wire of SOLDERED[how]) {
		const [from, to] = wire.split('-');
		const noSpring =
			(from.endsWith('.ring') && jacks[Number(from[1])].socket === 'ts') ||
			(to.endsWith('.ring') && pedals[Number(to[1])].plug === 'socket-ts');
		if (!noSpring) edges.push([from, to, WIRE]);
	}
	pedals.forEach((pedal, p) => {
		for (const contact of ['tip', 'ring']) edges.push([`P${p}.${contact}`, 'ground', AIR]);
		if (cable !== null && pedal.plug === 'socket-trs' && twoPole('P', p))
			edges.push([`P${p}.ring`, `P${p}.sleeve`, WIRE]);
		pedal.parts.forEach((part, i) => {
			if (part.is === 'switch') {
				if (closed[p][i]) edges.push([`P${p}.${part.between[0]}`, `P${p}.${part.between[1]}`, WIRE]);
				return;
			}
			const kohm = part.kohm ?? known.pot;
			const halves = [1 - track[p][i], track[p][i]].map((share) => (share === 0 ? WIRE : 1 / (share * kohm)));
			edges.push([`P${p}.${part.ends[0]}`, `P${p}.${part.wiper}`, halves[0]]);
			edges.push([`P${p}.${part.wiper}`, `P${p}.${part.ends[1]}`, halves[1]]);
		});
	});
	const touched = new Set(edges.flatMap(([a, b]) => [a, b]));
	const loose = [...touched].filter((node) => node.startsWith('J') && node.endsWith('.ring'));
	return voltageByForests(
		[...edges, ...loose.map((node): Edge => [node, 'ground', AIR])],
		`J${wanted.jack}.${wanted.contact}`
	);
}
