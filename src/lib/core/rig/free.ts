import { channelsOf } from './heard';
import { isHostSocket } from './host-socket';
import { checkJoin } from './join';
import { firstFeeds } from './feeds';
import { canReceive, indexRig, isWire, type Placed, type RigIndex } from './rig-index';
import { sameModel } from './same-model';
import type { Rig, RigDevice } from './schema';

/** A free interface out that a cable (with an adapter, if need be) joins to a device's in; same place first. */
export function freeOut(rig: Rig, device: RigDevice): { from: Placed; to: Placed } | null {
	const index = indexRig(rig);
	const ins = device.ports
		.filter((port) => isWire(port) && canReceive(port))
		.map((port) => index.ports.get(port.id)!);
	const found = [...index.ports.values()]
		.filter(
			(placed) =>
				placed.device !== device &&
				isHostSocket(index, placed) &&
				placed.port.direction === 'out' &&
				!index.cablesAt.has(placed.port.id)
		)
		.flatMap((from) => ins.filter((to) => checkJoin(from, to).fits).map((to) => ({ from, to })));
	return found.find(({ from }) => from.device.place === device.place) ?? found[0] ?? null;
}

/** A free interface in that a device's free out can go to; same place first. */
export function freeIn(rig: Rig, device: RigDevice): { from: Placed; to: Placed } | null {
	const index = indexRig(rig);
	const outs = device.ports
		.filter((port) => isWire(port) && port.direction === 'out' && !index.cablesAt.has(port.id))
		.map((port) => index.ports.get(port.id)!);
	const found = [...index.ports.values()]
		.filter(
			(placed) =>
				placed.device !== device &&
				isHostSocket(index, placed) &&
				placed.port.direction === 'in' &&
				!index.cablesAt.has(placed.port.id)
		)
		.flatMap((to) => outs.filter((from) => checkJoin(from, to).fits).map((from) => ({ from, to })));
	return found.find(({ to }) => to.device.place === device.place) ?? found[0] ?? null;
}

/** USB sockets of the computer that nothing is plugged into, in the order of the rig. */
export const freeComputerSockets = (index: RigIndex): Placed[] =>
	[...index.ports.values()].filter(
		({ role, port }) => role === 'host' && port.connector === 'usb-host' && !index.cablesAt.has(port.id)
	);

/** The lowest channel (of a block, where it has parts) that a device can take on every port that it hangs on. */
export function freeChannel(rig: Rig, device: RigDevice): number | null {
	const index = indexRig(rig);
	const taken = new Set(
		firstFeeds(rig)
			.filter(({ hearers }) => hearers.some((hearer) => hearer.device.id === device.id))
			.flatMap(({ hearers, out }) => [
				...hearers
					.filter((hearer) => hearer.device.id !== device.id)
					.flatMap((hearer) => channelsOf(hearer.device, index.settings.get(hearer.device.id))),
				...(index.hostPortsOf.get(out.port.id) ?? []).flatMap(({ reserved }) => reserved ?? [])
			])
	);
	const fits = (first: number) =>
		Array.from({ length: device.receive.parts }, (_, i) => first + i).every(
			(channel) => channel <= 16 && device.receive.channels.includes(channel) && !taken.has(channel)
		);
	return [...device.receive.channels].sort((a, b) => a - b).find(fits) ?? null;
}

/** Device IDs that no device of the model has, the lowest first. */
export function freeDeviceIds(rig: Rig, device: RigDevice, many: number): number[] {
	const index = indexRig(rig);
	const taken = new Set(
		rig.devices
			.filter(({ id, model }) => id === device.id || sameModel(model, device.model))
			.map(({ id }) => index.settings.get(id)?.deviceId)
	);
	const free: number[] = [];
	for (let id = 0; free.length < many; id++) if (!taken.has(id)) free.push(id);
	return free;
}

/** The lowest device ID that no device of the model has. */
export const freeDeviceId = (rig: Rig, device: RigDevice): number => freeDeviceIds(rig, device, 1)[0];
