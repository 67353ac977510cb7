import { WIRE_BYTES_PER_SECOND } from '../midi';
import { firstFeeds } from './feeds';
import { indexRig, isWire } from './rig-index';
import type { Rig } from './schema';

/** Clock: 24 bytes a quarter note; at 120 a minute, 48 bytes a second. */
export const CLOCK_BYTES_PER_SECOND = 48;

export interface PortLoad {
	port: string;
	bytesPerSecond: number;
	/** Of the wire's 3,125 bytes/s. */
	share: number;
}

/** Expected traffic at every 31,250 bit/s out of an interface, from what its hearers expect. */
export function loadsOf(rig: Rig): PortLoad[] {
	const index = indexRig(rig);
	const heard = new Map(firstFeeds(rig).map(({ out, hearers }) => [out.port.id, hearers]));
	return [...index.ports.values()]
		.filter(({ port, role }) => role === 'interface' && isWire(port) && port.direction === 'out')
		.map(({ port }) => {
			const clock = (index.hostPortsOf.get(port.id) ?? []).some(
				({ id, clockOut }) => clockOut && index.hostOf.get(id)!.clock
			);
			const bytesPerSecond =
				(heard.get(port.id) ?? []).reduce((sum, { device }) => sum + device.wants.bytesPerSecond, 0) +
				(clock ? CLOCK_BYTES_PER_SECOND : 0);
			return { port: port.id, bytesPerSecond, share: bytesPerSecond / WIRE_BYTES_PER_SECOND };
		});
}
