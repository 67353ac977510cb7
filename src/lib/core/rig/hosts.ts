import type { Placed, RigIndex } from './rig-index';
import type { Host } from './schema';
import { computersOf } from './usb';

/** A host as people say it: its name is needed only where there are several. */
export const hostName = (index: RigIndex, { name }: Host): string =>
	index.rig.hosts.length > 1 ? name : 'the host';

/**
 * The hosts that a socket belongs to: those with a port for it; else those with a port for another socket of its device;
 * else those on the computer that its USB cable leads to. None: nobody said, and any host may use it.
 */
export function hostsOf(index: RigIndex, { port, device }: Pick<Placed, 'port' | 'device'>): Host[] {
	const named = (sockets: readonly { id: string }[]) =>
		index.rig.hosts.filter((host) => host.ports.some((entry) => sockets.some(({ id }) => id === entry.port)));
	const own = named([port]);
	if (own.length > 0) return own;
	const beside = named(device.ports);
	if (beside.length > 0) return beside;
	const computers = computersOf(index, device).map(({ id }) => id);
	return index.rig.hosts.filter(({ computer }) => computer !== null && computers.includes(computer));
}
