import { indexRig, isMidi, canReceive, portName, type RigIndex } from './rig-index';
import { hasVoice } from './roles';
import type { HostTrack, Rig, RigDevice } from './schema';
import { signalGraph } from './signals';
import { node, type Edge, type Node, type Stop } from './step';
import { walk, type Reached } from './walk';

/** What a signal begins with: a device's keys, a track of the host, or a socket (or host port). */
export type Source = { device: string } | { track: string } | { port: string };

export interface Hop {
	says: string;
	kind: Edge['kind'];
	device: string | null;
	/** Milliseconds of this hop, and since the beginning. */
	delayMs: number;
	atMs: number;
	/** Channel after the hop. */
	channel: number;
	/** What stops it here, in a path that is not open. */
	stop: Stop | null;
}

export interface Path {
	hops: Hop[];
	delayMs: number;
	/** Channel on which it arrives. */
	channel: number;
}

/** An instrument or software instrument that a signal may reach. */
export interface Listener {
	id: string;
	name: string;
	soft: boolean;
}

export interface Trace {
	source: Source;
	channel: number;
	/** Who sounds, quickest first. */
	reached: (Listener & Path)[];
	/** Who does not, with the first thing that stops it and all that would have to change. */
	silent: (Listener & { stop: Stop; changes: Stop[]; path: Path | null })[];
}

/** Where a source's messages begin. A host port's id begins at the port; a socket's at its leaving side. */
export function startOf(index: RigIndex, source: Source): Node {
	if ('device' in source) return node('keys', source.device);
	if ('track' in source) return node('track', source.track);
	const hostPort = index.hostPorts.get(source.port);
	if (hostPort) return node(hostPort.direction === 'in' ? 'host-in' : 'host-out', hostPort.id);
	const socket = index.ports.get(source.port);
	return node(socket?.port.direction === 'in' ? 'arriving' : 'leaving', source.port);
}

function pathOf(reached: Reached, channel: number): Path {
	let atMs = 0;
	let message: Reached['message'] = { kind: 'note', channel };
	const hops = reached.edges.map((edge): Hop => {
		const passed = edge.pass(message);
		message = passed.message;
		atMs += edge.delayMs;
		return {
			says: edge.says,
			kind: edge.kind,
			device: edge.device,
			delayMs: edge.delayMs,
			atMs,
			channel: message.channel,
			stop: passed.stop
		};
	});
	return { hops, delayMs: reached.delayMs, channel: reached.message.channel };
}

export function listeners(rig: Rig): (Listener & { node: Node })[] {
	return [
		...rig.devices
			.filter((device) => hasVoice(device) && device.ports.some((port) => isMidi(port) && canReceive(port)))
			.map(({ id, name }) => ({ id, name, soft: false, node: node('ear', id) })),
		...rig.hosts
			.flatMap(({ instruments }) => instruments)
			.map(({ id, name }) => ({ id, name, soft: true, node: node('soft', id) }))
	];
}

/** Why nothing at all leads to a device, however much one ignores. */
function unreachable(index: RigIndex, device: RigDevice, from: string): Stop {
	const ins = device.ports.filter((port) => isMidi(port) && canReceive(port));
	const cables = ins.flatMap((port) => index.cablesAt.get(port.id) ?? []);
	if (cables.length === 0)
		return {
			says: `Nothing is plugged into ${device.name} (${ins.map(({ name, id }) => name || id).join(', ')}).`,
			at: device.id,
			weight: 3
		};
	const seen = new Set<string>([device.id]);
	let origin = index.ports.get(cables[0].to === ins[0].id ? cables[0].from : cables[0].to)!;
	while (origin.port.direction === 'thru' && !seen.has(origin.device.id)) {
		seen.add(origin.device.id);
		const feed = origin.device.ports
			.filter(canReceive)
			.flatMap((port) => index.cablesAt.get(port.id) ?? [])[0];
		if (!feed)
			return {
				says: `${device.name} hangs on ${portName(origin)}, but nothing is plugged into ${origin.device.name}.`,
				at: origin.device.id,
				weight: 3
			};
		origin = index.ports.get(feed.from)!;
	}
	return {
		says: `${device.name} hangs on ${portName(origin)}, and nothing brings ${from} there.`,
		at: origin.port.id,
		weight: 3
	};
}

/** The tracks of all hosts. */
export const tracksOf = (rig: Rig): HostTrack[] => rig.hosts.flatMap(({ tracks }) => tracks);

export function sourceName(index: RigIndex, source: Source): string {
	if ('device' in source) return index.devices.get(source.device)?.name ?? source.device;
	if ('track' in source)
		return tracksOf(index.rig).find(({ id }) => id === source.track)?.name ?? source.track;
	const placed = index.ports.get(source.port);
	return placed ? portName(placed) : (index.hostPorts.get(source.port)?.name ?? source.port);
}

/** Follows a note from its source to everybody, with the time of each hop. */
export function trace(rig: Rig, source: Source, channel: number): Trace {
	const index = indexRig(rig);
	const graph = signalGraph(rig);
	const start = startOf(index, source);
	const message = { kind: 'note' as const, channel };
	const open = walk(graph, start, message);
	const all = walk(graph, start, message, true);
	const quickest = (found: Reached[], place: Node) =>
		found
			.filter((entry) => entry.node.key === place.key)
			.sort(
				(a, b) =>
					a.stops.reduce((s, { weight }) => s + weight, 0) -
						b.stops.reduce((s, { weight }) => s + weight, 0) || a.delayMs - b.delayMs
			)[0];
	const result: Trace = { source, channel, reached: [], silent: [] };
	for (const { node: place, ...listener } of listeners(rig)) {
		const heard = quickest(open, place);
		if (heard) {
			result.reached.push({ ...listener, ...pathOf(heard, channel) });
			continue;
		}
		const best = quickest(all, place);
		if (best)
			result.silent.push({
				...listener,
				stop: best.stops[0],
				changes: best.stops,
				path: pathOf(best, channel)
			});
		else {
			const device = index.devices.get(listener.id);
			const stop = device
				? unreachable(index, device, sourceName(index, source))
				: {
						says: `No input of the host brings ${sourceName(index, source)} to “${listener.name}”.`,
						at: listener.id,
						weight: 3
					};
			result.silent.push({ ...listener, stop, changes: [stop], path: null });
		}
	}
	result.reached.sort((a, b) => a.delayMs - b.delayMs);
	return result;
}

/** Everything that can begin a message: keys and knobs, and the host's tracks. */
export const sources = (rig: Rig): { source: Source; name: string; channels: number[] }[] => [
	...rig.devices
		.filter(({ sends }) => sends.length > 0)
		.map(({ id, name, sends }) => ({ source: { device: id }, name, channels: [...sends] })),
	...tracksOf(rig).map(({ id, name, outputChannel, inputChannel }) => ({
		source: { track: id },
		name: `track “${name}”`,
		channels: [outputChannel ?? inputChannel ?? 1]
	}))
];

/** “Why don't I hear this?”: from each source, what would have to change, the least first; none for what sounds. */
export function whySilent(
	rig: Rig,
	listenerId: string
): { source: Source; name: string; channel: number; changes: Stop[]; path: Path | null }[] {
	return sources(rig)
		.filter(({ source }) => !('device' in source) || source.device !== listenerId)
		.flatMap(({ source, name, channels }) =>
			channels.map((channel) => {
				const traced = trace(rig, source, channel);
				const heard = traced.reached.find(({ id }) => id === listenerId);
				const silent = traced.silent.find(({ id }) => id === listenerId);
				return { source, name, channel, changes: silent?.changes ?? [], path: heard ?? silent?.path ?? null };
			})
		)
		.sort(
			(a, b) =>
				a.changes.reduce((s, { weight }) => s + weight, 0) -
				b.changes.reduce((s, { weight }) => s + weight, 0)
		);
}
