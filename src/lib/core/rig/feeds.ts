import { indexRig, isUsb, isWire, type Placed, type RigIndex } from './rig-index';
import { hasVoice } from './roles';
import type { Rig, RigDevice } from './schema';
import { signalGraph } from './signals';
import { leaving } from './step';

/** A device that hears what a port sends, whatever the channel. */
export interface Hearer {
	device: RigDevice;
	/** Socket that it comes in at. */
	into: string;
	/** 1 right at the port, one more behind each thru socket. */
	hop: number;
	/** Socket that the cable into it comes from. */
	via: string;
}

export interface Feed {
	out: Placed;
	hearers: Hearer[];
}

const known = new WeakMap<Rig, Feed[]>();

/** Who hears each port: through thru sockets, thru, merge and host boxes, and soft thru, but not through the host. */
export function feedsOf(rig: Rig): Feed[] {
	const before = known.get(rig);
	if (before) return before;
	const index = indexRig(rig);
	const feeds = [...index.ports.values()]
		.filter(({ port, role }) => (isWire(port) || isUsb(port)) && port.direction !== 'in' && role !== 'host')
		.map((out): Feed => ({ out, hearers: hearersOf(index, out) }))
		.filter(({ hearers }) => hearers.length > 0);
	known.set(rig, feeds);
	return feeds;
}

function hearersOf(index: RigIndex, out: Placed): Hearer[] {
	const graph = signalGraph(index.rig);
	const found = new Map<string, Hearer>();
	// A USB device that hangs on the computer hears its own port.
	if (
		isUsb(out.port) &&
		hasVoice(out.device) &&
		out.port.direction === 'both' &&
		(index.hostPortsOf.get(out.port.id) ?? []).some(({ direction }) => direction === 'out')
	)
		found.set(out.device.id, { device: out.device, into: out.port.id, hop: 1, via: out.port.id });
	const seen = new Set<string>();
	const waiting = [{ node: leaving(out.port), hop: 1, via: out.port.id }];
	for (let at = waiting.shift(); at; at = waiting.shift()) {
		if (seen.has(at.node.key)) continue;
		seen.add(at.node.key);
		for (const edge of graph.after(at.node)) {
			if (!['cable', 'thru', 'inside', 'soft-thru'].includes(edge.kind)) continue;
			if (edge.pass({ kind: 'note', channel: 1 }).stop) continue;
			const socket = edge.to.id;
			const via = edge.kind === 'cable' ? edge.from.id : at.via;
			const hop = at.hop + (edge.kind === 'thru' ? 1 : 0);
			const { device } = index.ports.get(socket)!;
			if (edge.to.kind === 'arriving' && hasVoice(device) && !found.has(device.id))
				found.set(device.id, { device, into: socket, hop, via });
			waiting.push({ node: edge.to, hop, via });
		}
	}
	return [...found.values()];
}

/** Ports that send into a shared line only because something repeats it are no beginnings: a thru, a merge out. */
export const isBeginning = ({ port, role }: Placed): boolean =>
	port.direction !== 'thru' && (role === 'interface' || role === 'instrument');

/** The feeds that begin at an interface's outs, at a USB instrument's own port, or at an instrument's out. */
export const firstFeeds = (rig: Rig): Feed[] => feedsOf(rig).filter(({ out }) => isBeginning(out));
