import { indexRig } from './rig-index';
import type { Rig, RigDevice } from './schema';
import { signalGraph } from './signals';
import { walk } from './walk';

export interface Clocks {
	/** Who leads: devices on their own time that send it, and the host (`null`). */
	sources: { device: RigDevice | null; name: string; reaches: Set<string> }[];
	/** Devices that need a clock from outside. */
	followers: RigDevice[];
}

/** Who sends clock, and whom it reaches. */
export function clocksOf(rig: Rig): Clocks {
	const graph = signalGraph(rig);
	const index = indexRig(rig);
	const reach = (start: string) =>
		new Set(
			walk(graph, start, { kind: 'clock', channel: 0 })
				.filter(({ node }) => node.startsWith('ear:'))
				.map(({ node }) => node.slice(4))
		);
	return {
		sources: [
			...(rig.host?.clock ? [{ device: null, name: 'The host', reaches: reach('clock:host') }] : []),
			...[...index.devices.values()]
				.filter(({ clock }) => clock.mode === 'internal' && clock.sends)
				.map((device) => ({ device, name: device.name, reaches: reach(`clock:${device.id}`) }))
		],
		followers: [...index.devices.values()].filter(({ clock }) => clock.mode === 'external')
	};
}
