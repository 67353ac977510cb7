import {
	type Device,
	type DeviceFacts,
	type Port,
	type PresentPort,
	type RememberedPort,
	deviceSchema,
	matchPorts,
	nameLikeness
} from '../gear';
import { rigPortId, roleOf } from '../rig';
import type { PortGroup } from './port-groups';

/** A port as it is looked up: it is listed anew, as another object, at every plug. */
export const portKey = ({ direction, id }: Pick<PresentPort, 'direction' | 'id'>): string =>
	`${direction} ${id}`;

/** Which socket each port of the computer is, as far as it was noted: ports of the rig by `portKey`. */
export const knownSockets = (
	remembered: readonly RememberedPort[],
	present: readonly PresentPort[]
): ReadonlyMap<string, string> =>
	new Map(
		matchPorts(remembered, present).flatMap(({ key, port }) => (port ? [[portKey(port), key] as const] : []))
	);

/** An interface as a device: its sockets are numbered as the computer's ports are. */
export function interfacePorts(group: {
	ins: readonly { number: number }[];
	outs: readonly { number: number }[];
}): Port[] {
	const sockets = (list: readonly { number: number }[], word: 'In' | 'Out'): Port[] =>
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

/** An interface that is known by its count of sockets: “4 in, 4 out”. */
export function interfaceFacts(name: string, ins: number, outs: number): DeviceFacts {
	const numbers = (many: number) => Array.from({ length: many }, (_, i) => ({ number: i + 1 }));
	return deviceSchema.parse({
		name,
		kind: 'interface',
		ports: interfacePorts({ ins: numbers(ins), outs: numbers(outs) })
	});
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
	known: ReadonlyMap<string, string>,
	remembered: readonly RememberedPort[]
): Device | null {
	const ports = [...group.ins, ...group.outs].map(({ port }) => port);
	const owner = (key: string) => devices.find(({ id }) => key.startsWith(rigPortId(id, '')));
	for (const port of ports) {
		const key = known.get(portKey(port));
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
