import { deviceSchema } from '../gear';
import { hostPortSchema, hostSchema, indexRig, numbered, rigPortId } from '../rig';
import type { Draft } from './draft';
import type { PortGroup } from './port-groups';

/** Plugs a USB device into the computer, where the wiring says which one there is. */
export function intoComputer(draft: Draft, device: string): void {
	const index = indexRig(draft.around.rig);
	const usb = draft.portsOf(device).find(({ connector }) => connector === 'usb-device');
	const free = [...index.ports.values()].find(
		({ role, port }) =>
			role === 'host' && port.connector === 'usb-host' && draft.cablesAt(port.id).length === 0
	);
	if (usb && free && draft.cablesAt(rigPortId(device, usb.id)).length === 0)
		draft.plug(rigPortId(device, usb.id), free.port.id);
}

/** A socket of the computer that nothing is plugged into; one more where all are taken. */
function freeSocket(draft: Draft, computer: string): string {
	const sockets = draft.portsOf(computer);
	const free = sockets.find(
		({ id: port, connector }) =>
			connector === 'usb-host' && draft.cablesAt(rigPortId(computer, port)).length === 0
	);
	return free
		? rigPortId(computer, free.id)
		: draft.addSocket(computer, {
				name: `USB ${sockets.length + 1}`,
				direction: 'both',
				connector: 'usb-host'
			});
}

/** The computer's own end: one is noted where an instrument hangs on it by USB, so that its way is known. */
function computerSocket(draft: Draft): string {
	const index = indexRig(draft.around.rig);
	const fresh = draft.taking.devices.find(({ facts }) => facts.kind === 'computer')?.id;
	const computer = fresh ?? [...index.ports.values()].find(({ role }) => role === 'host')?.device.id;
	if (computer) return freeSocket(draft, computer);
	const made = draft.add(
		deviceSchema.parse({
			name: 'Computer',
			kind: 'computer',
			ports: [{ id: 'usb-1', name: 'USB 1', direction: 'both', connector: 'usb-host' }]
		})
	);
	// From now on the wiring says what hangs on the computer: its interfaces do.
	for (const device of [
		...draft.around.devices,
		...draft.taking.devices.map(({ id: own, facts }) => ({ id: own, ...facts }))
	])
		if (/interface/i.test(device.kind)) {
			const usb = draft.portsOf(device.id).find(({ connector }) => connector === 'usb-device');
			if (usb && draft.cablesAt(rigPortId(device.id, usb.id)).length === 0)
				draft.plug(rigPortId(device.id, usb.id), freeSocket(draft, made));
		}
	return freeSocket(draft, made);
}

/** An instrument's own USB port: what it is called in the computer, its cable, and the ports of the host. */
export function takeOwnPort(
	draft: Draft,
	device: string,
	group: PortGroup
): { out: string | null; in: string | null } {
	const usb = draft.portsOf(device).find(({ connector }) => connector === 'usb-device');
	const key = usb
		? rigPortId(device, usb.id)
		: draft.addSocket(device, { name: 'USB', direction: 'both', connector: 'usb-device' });
	if (draft.cablesAt(key).length === 0) draft.plug(key, computerSocket(draft));
	const ways = [
		...group.ins.map(({ port }) => ({ port, direction: 'in' as const })),
		...group.outs.map(({ port }) => ({ port, direction: 'out' as const }))
	];
	const host = draft.hosts[0] ?? hostSchema.parse({});
	const shown = host.ports.filter(({ port }) => port === key).map(({ direction }) => direction);
	const more = ways
		.filter(({ direction }) => !shown.includes(direction))
		.map(({ port, direction }) =>
			hostPortSchema.parse({
				id: `${key} ${direction}`,
				name: port.name.slice(0, 80) || group.name,
				number: 1,
				direction,
				port: key
			})
		);
	if (more.length > 0) {
		const next = hostSchema.parse({ ...host, ports: [...host.ports, ...numbered(host, more)] });
		draft.hosts = [next, ...draft.hosts.slice(1)];
		draft.taking.changes.push({ do: 'host', host: next });
	}
	for (const { port, direction } of ways) draft.remember(port.id, direction, key);
	return { out: group.outs.length > 0 ? key : null, in: group.ins.length > 0 ? key : null };
}
