import {
	matchPorts,
	nameLikeness,
	type Device,
	type Port,
	type PresentPort,
	type RememberedPort
} from '../gear';
import { rigPortId, roleOf } from '../rig';
import type { NumberedPort, PortGroup } from './port-groups';

/** Which socket each port of the computer is, as far as it was noted. Keys are ports of the rig. */
export function knownSockets(
	remembered: readonly RememberedPort[],
	present: readonly PresentPort[]
): ReadonlyMap<PresentPort, string> {
	return new Map(
		matchPorts(remembered, present).flatMap(({ key, port }) => (port ? [[port, key] as const] : []))
	);
}

/** An interface as a device: its sockets are numbered as the computer's ports are. */
export function interfacePorts(group: PortGroup): Port[] {
	const sockets = (list: readonly NumberedPort[], word: 'In' | 'Out'): Port[] =>
		list.map(({ number }) => ({
			id: `${word.toLowerCase()}-${number}`,
			name: `${word} ${number}`,
			direction: word === 'In' ? 'in' : 'out',
			connector: 'din'
		}));
	return [
		...sockets(group.ins, 'In'),
		...sockets(group.outs, 'Out'),
		{ id: 'usb', name: 'USB', direction: 'both', connector: 'usb-device' }
	];
}

const WIRES = ['din', 'trs-a', 'trs-b', 'wireless'];

/** Socket of an interface with a number in its name, or the first in its order that has none. */
export const socketNumbered = (
	ports: readonly Port[],
	direction: 'in' | 'out',
	number: number
): Port | undefined => {
	const list = ports.filter((port) => port.direction === direction && WIRES.includes(port.connector));
	return list.find(({ name }) => new RegExp(`(^|\\D)${number}$`).test(name)) ?? list[number - 1];
};

/** How alike the names of an interface and of the computer's ports must be to be taken for one. */
const SAME_NAME = 0.8;

/**
 * The interface of the catalogue that a group of ports is: the one whose sockets some of them were already, or one of
 * that name of which no socket is known yet.
 */
export function interfaceOf(
	group: PortGroup,
	devices: readonly Device[],
	known: ReadonlyMap<PresentPort, string>,
	remembered: readonly RememberedPort[]
): Device | null {
	const ports = [...group.ins, ...group.outs].map(({ port }) => port);
	const owner = (key: string) => devices.find(({ id }) => key.startsWith(rigPortId(id, '')));
	for (const port of ports) {
		const key = known.get(port);
		const device = key === undefined ? undefined : owner(key);
		if (device) return device;
	}
	const strangers = devices.filter(
		(device) =>
			device.archivedAt === null &&
			roleOf(device) === 'interface' &&
			!remembered.some(({ key }) => key.startsWith(rigPortId(device.id, '')))
	);
	const likeness = (device: Device) =>
		Math.max(
			...[device.name, device.model, `${device.maker} ${device.model}`].map((name) =>
				nameLikeness(group.name, name)
			)
		);
	const [best] = strangers
		.map((device) => ({ device, score: likeness(device) }))
		.filter(({ score }) => score >= SAME_NAME)
		.sort((a, b) => b.score - a.score);
	return best?.device ?? null;
}
