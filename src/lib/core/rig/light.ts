import { checkJoin } from './join';
import { canReceive, indexRig, isMidi, isWire } from './rig-index';
import type { Cable, Rig } from './schema';
import { signalGraph } from './signals';
import { leaving, node as nodeAt } from './step';
import { sources, startOf } from './trace';
import { walk } from './walk';

const key = ({ from, to }: Cable) => `${from} ${to}`;

/** Keys (`from to`) of MIDI cables that carry nothing: no key, track or clock of the studio ever sends into them. */
export function silentCables(rig: Rig): Set<string> {
	const index = indexRig(rig);
	const graph = signalGraph(rig);
	const lit = new Set<string>();
	for (const { source, channels } of sources(rig))
		for (const channel of channels)
			for (const { node } of walk(graph, startOf(index, source), { kind: 'note', channel }))
				lit.add(node.key);
	const clocks = [
		...rig.devices.map(({ id }) => nodeAt('clock', id)),
		...rig.hosts.map(({ id }) => nodeAt('host-clock', id))
	];
	for (const clock of clocks)
		for (const { node } of walk(graph, clock, { kind: 'clock', channel: 0 })) lit.add(node.key);
	return new Set(
		rig.cables
			.filter(({ from, to, adapter }) => {
				const [a, b] = [index.ports.get(from)!, index.ports.get(to)!];
				if (!isWire(a.port) || !isMidi(b.port)) return false;
				// A return carries a dump when it is asked for, whether anybody plays or not.
				if (b.role === 'interface') return !checkJoin(a, b, adapter).fits;
				return !checkJoin(a, b, adapter).fits || !lit.has(leaving(a.port).key);
			})
			.map(key)
	);
}

/** Keys of the cables on a device's way: from the interface to it, and from it back. */
export function pathCables(rig: Rig, deviceId: string): Set<string> {
	const index = indexRig(rig);
	const found = new Set<string>();
	const follow = (device: string, backwards: boolean) => {
		for (const port of index.devices.get(device)!.ports) {
			if (port.connector === 'power') continue;
			const onWay = backwards ? canReceive(port) : port.direction !== 'in' && port.direction !== 'thru';
			if (!onWay) continue;
			for (const cable of index.cablesAt.get(port.id) ?? []) {
				if (found.has(key(cable))) continue;
				found.add(key(cable));
				const far = index.ports.get(cable.from === port.id ? cable.to : cable.from)!;
				const through =
					far.role === 'thru' || far.role === 'merge' || far.role === 'hub' || far.role === 'usb-host-box';
				if (backwards ? through || far.port.direction === 'thru' : through) follow(far.device.id, backwards);
			}
		}
	};
	follow(deviceId, true);
	follow(deviceId, false);
	return found;
}
