import { firstFeeds } from './feeds';
import { checkJoin } from './join';
import { canReceive, indexRig, isMidi, isUsb, portName, type Placed } from './rig-index';
import type { Rig } from './schema';

const known = new WeakMap<Rig, ReadonlyMap<string, Placed>>();

/** Where each device comes back to the computer: the interface's in, or its own USB port; merge boxes between or not. */
export function returnSockets(rig: Rig): ReadonlyMap<string, Placed> {
	const before = known.get(rig);
	if (before) return before;
	const index = indexRig(rig);
	const returned = new Map<string, Placed>();
	for (const device of rig.devices) {
		const seen = new Set<string>();
		const waiting = device.ports.filter(
			(port) => isMidi(port) && (port.direction === 'out' || port.direction === 'both')
		);
		for (let port = waiting.pop(); port; port = waiting.pop()) {
			if (seen.has(port.id)) continue;
			seen.add(port.id);
			for (const cable of index.cablesAt.get(port.id) ?? []) {
				const far = index.ports.get(cable.from === port.id ? cable.to : cable.from)!;
				if (!checkJoin(index.ports.get(cable.from)!, index.ports.get(cable.to)!, cable.adapter).fits)
					continue;
				if (far.role === 'interface' && canReceive(far.port)) returned.set(device.id, far);
				else if (far.role === 'host') returned.set(device.id, index.ports.get(port.id)!);
				if (far.role === 'merge' || far.role === 'hub' || far.role === 'usb-host-box')
					waiting.push(
						...far.device.ports.filter(
							(port) => isMidi(port) && port.id !== far.port.id && port.direction !== 'in'
						)
					);
			}
		}
	}
	known.set(rig, returned);
	return returned;
}

/** One end of a way, at the computer's side. */
export interface WayEnd {
	/** Port of the rig. */
	port: string;
	/** “Ferry 8 Out 3” */
	name: string;
}

/** How the computer reaches a device, and how it hears it. */
export interface HostWay {
	device: string;
	out: WayEnd | null;
	in: WayEnd | null;
}

/** For every device, the out that reaches it and the in where it comes back. */
export function hostWays(rig: Rig): HostWay[] {
	const returned = returnSockets(rig);
	const outs = new Map<string, Placed>();
	for (const { out, hearers } of firstFeeds(rig)) {
		if (out.role !== 'interface' && !isUsb(out.port)) continue;
		for (const { device } of hearers) if (!outs.has(device.id)) outs.set(device.id, out);
	}
	const end = (placed: Placed | undefined): WayEnd | null =>
		placed ? { port: placed.port.id, name: portName(placed) } : null;
	return rig.devices.map(({ id }) => ({ device: id, out: end(outs.get(id)), in: end(returned.get(id)) }));
}
