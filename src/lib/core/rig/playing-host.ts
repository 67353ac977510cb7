import { firstFeeds } from './feeds';
import { isHostSocket } from './host-socket';
import { returnSockets } from './host-ways';
import { hostsOf } from './hosts';
import type { RigIndex } from './rig-index';
import type { Host, RigDevice } from './schema';

const only = <T>(list: readonly T[]): T | null => (list.length === 1 ? list[0] : null);

/**
 * The host that plays a device, where there are several: the one that is wished for, that of its locked sockets, the one
 * that plays it today, the one that it comes back to today; else the first with an out.
 * @returns `null` where there are not several
 */
export function playingHost(index: RigIndex, device: RigDevice): { host: Host; known: boolean } | null {
	if (index.rig.hosts.length < 2) return null;
	const at = (socket: string | undefined) => {
		const placed = socket === undefined ? undefined : index.ports.get(socket);
		return placed ? only(hostsOf(index, placed)) : null;
	};
	const outs = firstFeeds(index.rig).filter(
		({ out, hearers }) => isHostSocket(index, out) && hearers.some((hearer) => hearer.device.id === device.id)
	);
	const back = returnSockets(index.rig).get(device.id);
	const host =
		index.hosts.get(device.wants.host ?? '') ??
		at(device.lock.out) ??
		at(device.lock.in) ??
		only([...new Set(outs.flatMap(({ out }) => hostsOf(index, out)))]) ??
		(back ? only(hostsOf(index, back)) : null);
	if (host) return { host, known: true };
	const able = index.rig.hosts.find((candidate) =>
		[...index.ports.values()].some(
			(placed) =>
				isHostSocket(index, placed) &&
				placed.port.direction === 'out' &&
				hostsOf(index, placed).includes(candidate)
		)
	);
	return { host: able ?? index.rig.hosts[0], known: false };
}
