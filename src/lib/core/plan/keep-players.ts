import {
	canReceive,
	indexRig,
	isHostSocket,
	isMidi,
	isWire,
	keepPorts,
	roleOf,
	type Cable,
	type Rig,
	type RigDevice,
	type RigIndex
} from '../rig';

/** A cable that a plan leaves where it is, because it is the only one of somebody who plays. */
export interface LeftCable {
	player: string;
	/** Who is played, or whose in it is. */
	device: string;
	cable: Cable;
}

const locks = (rig: Rig, socket: string) =>
	rig.devices.some(({ lock }) => lock.in === socket || lock.out === socket);

/** Whether a plan could pull a cable of a player to make room: from what it feeds itself, or from an in that it gives out. */
function inItsWay(index: RigIndex, player: RigDevice, { to }: Cable): boolean {
	const end = index.ports.get(to)!;
	if (isHostSocket(index, end)) return !player.wants.return && player.lock.in === undefined;
	return isWire(end.port) && ['instrument', 'thru'].includes(end.role);
}

/**
 * The rig as a plan may change it: nobody who plays is left without any cable. Where all cables of a player could be
 * pulled, the first stays, one to the computer before others, and the socket that it is in is not given out. What a lock
 * asks for comes before that.
 */
export function keepPlayers(rig: Rig): { rig: Rig; left: LeftCable[] } {
	const index = indexRig(rig);
	const left: LeftCable[] = [];
	for (const player of rig.devices) {
		if (roleOf(player) !== 'instrument' || player.sends.length === 0) continue;
		const outs = player.ports.filter((port) => isMidi(port) && port.direction !== 'in');
		if (outs.some(({ id }) => index.hostPortsOf.has(id))) continue;
		const cables = outs.flatMap((port) => {
			const here = index.cablesAt.get(port.id) ?? [];
			// A socket for both ways is at either end of its cable.
			return port.direction === 'both' ? here : here.filter(({ from }) => from === port.id);
		});
		const out = (cable: Cable) => outs.find(({ id }) => id === cable.from);
		if (cables.length === 0 || cables.some((cable) => !out(cable) || !inItsWay(index, player, cable)))
			continue;
		const [cable] = cables
			.filter(({ to }) => !locks(rig, to))
			.sort((a, b) => Number(isHost(index, b)) - Number(isHost(index, a)));
		if (cable) left.push({ player: player.id, device: index.ports.get(cable.to)!.device.id, cable });
	}
	const taken = new Set(left.map(({ cable }) => cable.to));
	if (taken.size === 0) return { rig, left };
	return {
		left,
		rig: {
			...rig,
			devices: rig.devices.map((device) => ({
				...device,
				ports: device.ports.filter(({ id }) => !taken.has(id))
			})),
			cables: rig.cables.filter(({ from, to }) => !taken.has(to) && !taken.has(from)),
			hosts: rig.hosts.map((host) => keepPorts(host, ({ port }) => !taken.has(port)))
		}
	};
}

const isHost = (index: RigIndex, { to }: Cable) => isHostSocket(index, index.ports.get(to)!);

/** What there is to say of a cable that is left. */
export function leftWords(
	rig: Rig,
	{ player, device, cable }: LeftCable
): { says: string; devices: string[] } {
	const index = indexRig(rig);
	const [plays, played] = [player, device].map((id) => index.devices.get(id)!.name);
	const fed = canReceive(index.ports.get(cable.to)!.port) && !isHost(index, cable);
	return {
		says: fed
			? `${played} is left on ${plays}: that is the only cable of ${plays}. For the computer to play it, plug ${plays} into the computer first.`
			: `${plays} keeps its only cable, into ${played}, though it wants no return.`,
		devices: [device, player]
	};
}
