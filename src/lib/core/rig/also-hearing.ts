import { firstFeeds } from './feeds';
import { heardBy } from './heard';
import { indexRig } from './rig-index';
import type { Rig } from './schema';

/** Names of devices that hear what another one is told on its channel. */
export interface AlsoHearing {
	/** They answer to that channel. */
	surely: string[];
	/** On which channel they are is not noted. */
	perhaps: string[];
}

/** Who else hears a channel on a line that reaches a device, by the wiring as it is noted. */
export function alsoHearing(rig: Rig, deviceId: string, channel: number): AlsoHearing {
	const index = indexRig(rig);
	const found: AlsoHearing = { surely: [], perhaps: [] };
	const lines = firstFeeds(rig).filter(({ hearers }) => hearers.some(({ device }) => device.id === deviceId));
	const others = new Map(lines.flatMap(({ hearers }) => hearers).map(({ device }) => [device.id, device]));
	others.delete(deviceId);
	for (const device of others.values()) {
		const channels = heardBy(index, device);
		if (channels.includes(channel)) found.surely.push(device.name);
		else if (channels.length === 0) found.perhaps.push(device.name);
	}
	return found;
}
