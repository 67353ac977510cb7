import { indexRig } from './rig-index';
import type { Rig } from './schema';
import { signalGraph } from './signals';
import type { Edge, Node } from './step';

/** A way that leads a message back to where it was, for ever. */
export interface Loop {
	edges: Edge[];
	/** Devices on it, in order. */
	devices: string[];
	/** A channel that goes round. */
	channel: number;
}

const isSocket = ({ kind }: Node) => kind === 'arriving' || kind === 'leaving';

/** Loops of notes: through cables, thru sockets, soft thru and the host's echo. One is found for each set of devices. */
export function findLoops(rig: Rig): Loop[] {
	const graph = signalGraph(rig);
	const index = indexRig(rig);
	const loops = new Map<string, Loop>();
	const finished = new Set<string>();
	const starts = new Map(
		graph.edges.filter(({ from }) => isSocket(from)).map(({ from }) => [from.key, from] as const)
	);
	for (let channel = 1; channel <= 16; channel++)
		for (const start of starts.values()) {
			const path: { key: string; edge: Edge | null }[] = [];
			const onPath = new Map<string, number>();
			const visit = (node: Node, ch: number, edge: Edge | null): void => {
				const key = `${node.key} ${ch}`;
				const at = onPath.get(key);
				if (at !== undefined) {
					const edges = [...path.slice(at + 1).map((entry) => entry.edge!), edge!];
					const devices = [
						...new Set(
							edges.flatMap(
								({ device, to }) => device ?? (isSocket(to) ? (index.ports.get(to.id)?.device.id ?? []) : [])
							)
						)
					];
					const name = [...devices].sort().join('|');
					if (!loops.has(name)) loops.set(name, { edges, devices, channel: ch });
					return;
				}
				if (finished.has(key)) return;
				onPath.set(key, path.length);
				path.push({ key, edge });
				for (const next of graph.after(node)) {
					const { message, stop } = next.pass({ kind: 'note', channel: ch });
					if (!stop) visit(next.to, message.channel, next);
				}
				path.pop();
				onPath.delete(key);
				finished.add(key);
			};
			visit(start, channel, null);
		}
	return [...loops.values()];
}
