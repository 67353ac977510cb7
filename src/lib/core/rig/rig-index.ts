import { roleOf, type Role } from './roles';
import type { Cable, Host, HostPort, Rig, RigDevice, RigPort, Setting } from './schema';

/** A port together with the device that it belongs to. */
export interface Placed {
	port: RigPort;
	device: RigDevice;
	role: Role;
}

/** Everything of a rig by its id. */
export interface RigIndex {
	rig: Rig;
	devices: Map<string, RigDevice>;
	ports: Map<string, Placed>;
	/** Cables at a port, at either end. */
	cablesAt: Map<string, Cable[]>;
	settings: Map<string, Setting>;
	hosts: Map<string, Host>;
	/** The host that a host port, a track or a software instrument belongs to. */
	hostOf: Map<string, Host>;
	hostPorts: Map<string, HostPort>;
	/** Host ports for a port of the rig. */
	hostPortsOf: Map<string, HostPort[]>;
}

const known = new WeakMap<Rig, RigIndex>();

function gather<K, V>(entries: Iterable<readonly [K, V]>): Map<K, V[]> {
	const map = new Map<K, V[]>();
	for (const [key, value] of entries) map.set(key, [...(map.get(key) ?? []), value]);
	return map;
}

/** A rig is never changed in place, so it is indexed once. */
export function indexRig(rig: Rig): RigIndex {
	const before = known.get(rig);
	if (before) return before;
	const hostPorts = rig.hosts.flatMap(({ ports }) => ports);
	const index: RigIndex = {
		rig,
		devices: new Map(rig.devices.map((device) => [device.id, device])),
		ports: new Map(
			rig.devices.flatMap((device) =>
				device.ports.map((port) => [port.id, { port, device, role: roleOf(device) }] as const)
			)
		),
		cablesAt: gather(
			rig.cables.flatMap((cable) => [[cable.from, cable] as const, [cable.to, cable] as const])
		),
		settings: new Map(rig.settings.map((setting) => [setting.device, setting])),
		hosts: new Map(rig.hosts.map((host) => [host.id, host])),
		hostOf: new Map(
			rig.hosts.flatMap((host) =>
				[...host.ports, ...host.tracks, ...host.instruments].map(({ id }) => [id, host] as const)
			)
		),
		hostPorts: new Map(hostPorts.map((port) => [port.id, port])),
		hostPortsOf: gather(hostPorts.map((port) => [port.port, port] as const))
	};
	known.set(rig, index);
	return index;
}

/** “Ferry 8 Out 3”, as people say it. */
export const portName = ({ device, port }: Placed): string => `${device.name} ${port.name || port.id}`.trim();

export const isWire = ({ connector }: RigPort): boolean =>
	connector === 'din' || connector === 'trs-a' || connector === 'trs-b' || connector === 'wireless';
export const isUsb = ({ connector }: RigPort): boolean =>
	connector === 'usb-device' || connector === 'usb-host';
export const isMidi = (port: RigPort): boolean => isWire(port) || isUsb(port) || port.connector === 'virtual';
export const canReceive = ({ direction }: RigPort): boolean => direction === 'in' || direction === 'both';
