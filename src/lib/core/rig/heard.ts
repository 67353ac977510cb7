import type { RigIndex } from './rig-index';
import type { RigDevice, Setting } from './schema';

/** Channels that a device is set to: its parts' own, or the block that begins with its channel. Empty when unknown. */
export function channelsOf(device: Pick<RigDevice, 'receive'>, setting: Setting | undefined): number[] {
	if (setting?.channels?.length) return [...setting.channels].sort((a, b) => a - b);
	const first = setting?.channel ?? null;
	if (first === null) return [];
	return Array.from({ length: device.receive.parts }, (_, i) => first + i).filter((channel) => channel <= 16);
}

/** Channels that it answers to: all of them for an omni receiver. */
export const heardBy = (index: RigIndex, device: RigDevice): number[] =>
	device.receive.omni
		? Array.from({ length: 16 }, (_, i) => i + 1)
		: channelsOf(device, index.settings.get(device.id));

/** `3`, `5–8`, `1, 4` */
export function channelWords(channels: readonly number[]): string {
	const runs: [number, number][] = [];
	for (const channel of [...channels].sort((a, b) => a - b)) {
		const last = runs.at(-1);
		if (last && channel === last[1] + 1) last[1] = channel;
		else runs.push([channel, channel]);
	}
	return runs.map(([from, to]) => (from === to ? `${from}` : `${from}–${to}`)).join(', ');
}
