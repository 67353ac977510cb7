import { indexRig } from './rig-index';
import type { Host, Rig, RigDevice } from './schema';
import { signalGraph } from './signals';
import { node, type Node } from './step';
import { walk } from './walk';

export interface Clocks {
	/** Who leads: devices on their own time that send it, and hosts. */
	sources: { device: RigDevice | null; host: Host | null; name: string; reaches: Set<string> }[];
	/** Devices that need a clock from outside. */
	followers: RigDevice[];
}

/** Who sends clock, and whom it reaches. */
export function clocksOf(rig: Rig): Clocks {
	const graph = signalGraph(rig);
	const index = indexRig(rig);
	const reach = (start: Node) =>
		new Set(
			walk(graph, start, { kind: 'clock', channel: 0 })
				.filter(({ node }) => node.kind === 'ear')
				.map(({ node }) => node.id)
		);
	return {
		sources: [
			...rig.hosts
				.filter(({ clock }) => clock)
				.map((host) => ({
					device: null,
					host,
					name: rig.hosts.length > 1 ? host.name : 'The host',
					reaches: reach(node('host-clock', host.id))
				})),
			...[...index.devices.values()]
				.filter(({ clock }) => clock.mode === 'internal' && clock.sends)
				.map((device) => ({
					device,
					host: null,
					name: device.name,
					reaches: reach(node('clock', device.id))
				}))
		],
		followers: [...index.devices.values()].filter(({ clock }) => clock.mode === 'external')
	};
}
