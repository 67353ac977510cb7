import type { RigChange } from './change';
import { hostsOf } from './hosts';
import { indexRig, isMidi, isUsb, isWire, portName, type Placed, type RigIndex } from './rig-index';
import { hostPortSchema, type Host, type HostPort, type Rig, type RigDevice } from './schema';

/** A socket that a host would show, in one direction. */
export interface Unshown {
	placed: Placed;
	direction: 'in' | 'out';
}

/** Whether a host that a socket leads to shows it as a port. */
const shows = ({ port, role }: Placed): boolean =>
	role === 'interface'
		? isWire(port)
		: role === 'instrument' && port.connector === 'usb-device' && isUsb(port);

/**
 * The sockets that a host would show, device by device, and that no host has a port for: those of interfaces, and the
 * USB ports of instruments, as far as they do not belong to another host.
 */
export function unshownPorts(rig: Rig, host: Host): { device: RigDevice; sockets: Unshown[] }[] {
	const index = indexRig(rig);
	return rig.devices.flatMap((device) => {
		const sockets = device.ports
			.map(({ id }) => index.ports.get(id)!)
			.filter((placed) => isMidi(placed.port) && shows(placed) && mayHave(index, host, placed))
			.flatMap((placed) => ways(index, placed).map((direction) => ({ placed, direction })));
		return sockets.length > 0 ? [{ device, sockets }] : [];
	});
}

function mayHave(index: RigIndex, host: Host, placed: Placed): boolean {
	const owners = hostsOf(index, placed);
	return owners.length === 0 || owners.some(({ id }) => id === host.id);
}

/** Directions of a socket that no host port stands for yet. */
function ways(index: RigIndex, { port }: Placed): ('in' | 'out')[] {
	const shown = (index.hostPortsOf.get(port.id) ?? []).map(({ direction }) => direction);
	const able: ('in' | 'out')[] =
		port.direction === 'both' ? ['in', 'out'] : [port.direction === 'in' ? 'in' : 'out'];
	return able.filter((direction) => !shown.includes(direction));
}

/** Ports with the next numbers of a host, in their order. */
export function numbered(host: Host, ports: readonly HostPort[]): HostPort[] {
	const next = (way: 'in' | 'out') =>
		Math.max(0, ...host.ports.filter(({ direction }) => direction === way).map(({ number }) => number)) + 1;
	const numbers = { in: next('in'), out: next('out') };
	return ports.map((port) => ({ ...port, number: numbers[port.direction]++ }));
}

/** Ports for sockets, with the next numbers of the host. */
export const portsFor = (host: Host, sockets: readonly Unshown[]): HostPort[] =>
	numbered(
		host,
		sockets.map(({ placed, direction }) =>
			hostPortSchema.parse({
				id: `${placed.port.id} ${direction}`,
				name: portName(placed).slice(0, 80),
				number: 1,
				direction,
				port: placed.port.id
			})
		)
	);

/** A host with some of its ports alone; tracks that used the others take from nowhere, and play nowhere, instead. */
export function keepPorts(host: Host, keep: (port: HostPort) => boolean): Host {
	const ports = host.ports.filter(keep);
	const kept = (id: string | null) => (ports.some((port) => port.id === id) ? id : null);
	return {
		...host,
		ports,
		tracks: host.tracks.map((track) => ({
			...track,
			input: kept(track.input),
			output: kept(track.output),
			// A track whose input is gone must not begin to take from all of them.
			echo: track.echo && (track.input === null || kept(track.input) !== null)
		}))
	};
}

/** A host without the ports of a device. */
export const withoutPorts = (host: Host, device: RigDevice): Host =>
	keepPorts(host, ({ port }) => device.ports.every(({ id }) => id !== port));

/** Interfaces and USB instruments whose ports other hosts have. */
export const elsewhere = (rig: Rig, host: Host): RigDevice[] =>
	rig.devices.filter((device) => {
		const owners = device.ports.flatMap(({ id }) =>
			(indexRig(rig).hostPortsOf.get(id) ?? []).map((port) => indexRig(rig).hostOf.get(port.id)!)
		);
		return owners.length > 0 && owners.every(({ id }) => id !== host.id);
	});

/** What gives a host the ports of a device that others have, as they are but for their numbers. */
export function takeOver(rig: Rig, host: Host, device: RigDevice): RigChange[] {
	const sockets = new Set(device.ports.map(({ id }) => id));
	const others = rig.hosts.filter(
		({ id, ports }) => id !== host.id && ports.some(({ port }) => sockets.has(port))
	);
	const ports = others.flatMap((other) => other.ports.filter(({ port }) => sockets.has(port)));
	return [
		...others.map((other): RigChange => ({
			do: 'host',
			host: withoutPorts(other, device)
		})),
		{ do: 'host', host: { ...host, ports: [...host.ports, ...numbered(host, ports)] } }
	];
}
