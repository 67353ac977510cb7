import { freeComputerSockets, freeOut } from '../free';
import { indexRig, portName } from '../rig-index';
import type { RigChange } from '../change';
import type { Host, Rig, RigDevice } from '../schema';
import type { Cure } from './rule';

/**
 * Gives a device a free interface out, if there is one: its cable of today is pulled first.
 * @param cable where its cable comes from and goes to, or `null` when it has none
 */
export function toFreeOut(
	rig: Rig,
	device: RigDevice,
	cable: { via: string; into: string } | null,
	title: (out: string) => string
): Cure[] {
	const free = freeOut(rig, device);
	if (!free) return [];
	return [
		{
			title: title(portName(free.from)),
			changes: [
				...(cable ? [{ do: 'pull' as const, from: cable.via, to: cable.into }] : []),
				{ do: 'plug', from: free.from.port.id, to: free.to.port.id }
			]
		}
	];
}

/** Plugs a device's USB into a free socket of the computer, if both have one left. */
export function intoComputer(rig: Rig, device: RigDevice): Cure[] {
	const index = indexRig(rig);
	const usb = device.ports.find(({ id, connector }) => connector === 'usb-device' && !index.cablesAt.has(id));
	const [socket] = freeComputerSockets(index);
	return usb && socket
		? [
				{
					title: `Plug it into ${portName(socket)}`,
					changes: [{ do: 'plug', from: usb.id, to: socket.port.id }]
				}
			]
		: [];
}

/** A host with one of its ports, tracks or software instruments changed. */
export const changeEntry = <K extends 'ports' | 'tracks' | 'instruments'>(
	host: Host,
	kind: K,
	id: string,
	patch: Partial<Host[K][number]>
): RigChange => ({
	do: 'host',
	host: { ...host, [kind]: host[kind].map((entry) => (entry.id === id ? { ...entry, ...patch } : entry)) }
});
