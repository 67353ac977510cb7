import { checkJoin } from './join';
import { isUsb, type RigIndex } from './rig-index';
import { roleOf } from './roles';
import type { RigDevice } from './schema';

/** Whether the rig says which computer it is about; without one, interfaces are taken to be connected. */
export const hasComputer = ({ rig }: RigIndex): boolean =>
	rig.devices.some((device) => roleOf(device) === 'host');

/** Whether USB cables lead from a device to the computer (to that one, if one is named), through hubs or not. */
export function reachesComputer(index: RigIndex, device: RigDevice, computer?: string | null): boolean {
	return !hasComputer(index) || computersOf(index, device).some(({ id }) => !computer || id === computer);
}

/** The computers that USB cables lead to from a device, through hubs or not. */
export function computersOf(index: RigIndex, device: RigDevice): RigDevice[] {
	const found = new Set<RigDevice>();
	const seen = new Set([device.id]);
	const waiting = [device];
	for (let at = waiting.pop(); at; at = waiting.pop())
		for (const port of at.ports.filter(
			(candidate) => isUsb(candidate) && candidate.connector === 'usb-device'
		))
			for (const cable of index.cablesAt.get(port.id) ?? []) {
				const other = index.ports.get(cable.from === port.id ? cable.to : cable.from)!;
				if (seen.has(other.device.id) || !checkJoin(index.ports.get(port.id)!, other, cable.adapter).fits)
					continue;
				if (other.role === 'host') found.add(other.device);
				seen.add(other.device.id);
				if (other.role === 'hub') waiting.push(other.device);
			}
	return [...found];
}
