import { freeComputerSockets, freeOut } from '../free';
import { hostWays } from '../host-ways';
import { indexRig, isWire, portName } from '../rig-index';
import type { RigChange } from '../change';
import type { Host, Rig, RigDevice, RigPort } from '../schema';
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

const canSend = ({ direction }: RigPort) => direction === 'out' || direction === 'both';

/** Cables that lead a device where it answered when it was asked: what is noted in their way gives way. */
export function whereItAnswered(rig: Rig, device: RigDevice): Cure[] {
	const answer = rig.answers.find((one) => one.device === device.id);
	if (!answer) return [];
	const index = indexRig(rig);
	const way = hostWays(rig).find((one) => one.device === device.id);
	const wires = device.ports.filter(isWire);
	const own = (able: (port: RigPort) => boolean) =>
		wires.filter(able).find(({ id }) => index.cablesAt.has(id)) ?? wires.find(able);
	const places: string[] = [];
	const changes: RigChange[] = [];
	const join = (from: string | undefined, to: string | undefined, socket: string) => {
		if (from === undefined || to === undefined || !index.ports.has(socket)) return;
		const noted = new Set([...(index.cablesAt.get(from) ?? []), ...(index.cablesAt.get(to) ?? [])]);
		changes.push(...[...noted].map((cable): RigChange => ({ do: 'pull', from: cable.from, to: cable.to })));
		changes.push({ do: 'plug', from, to });
		places.push(portName(index.ports.get(socket)!));
	};
	if (answer.out && way?.out?.port !== answer.out)
		join(answer.out, own((port) => port.direction === 'in')?.id, answer.out);
	if (answer.in && way?.in?.port !== answer.in) join(own(canSend)?.id, answer.in, answer.in);
	return changes.length > 0
		? [{ title: `Plug it in where it answered: ${places.join(', back at ')}`, changes }]
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
