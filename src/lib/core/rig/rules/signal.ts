import { clocksOf } from '../clocks';
import { indexRig } from '../rig-index';
import { hasVoice } from '../roles';
import { findLoops } from '../loops';
import type { Host, HostPort, HostTrack, Rig, RigDevice } from '../schema';
import { signalGraph } from '../signals';
import { node as place, type Edge } from '../step';
import { walk } from '../walk';
import { hostName } from '../hosts';
import { tracksOf } from '../trace';
import { changeEntry } from './cures';
import type { Cure, Rule } from './rule';

const echoOff = (host: Host, { id, name }: HostTrack): Cure => ({
	title: `Switch the echo of “${name}” off`,
	changes: [changeEntry(host, 'tracks', id, { echo: false })]
});

/** The switches that open a loop, the gentlest first. */
function opened(rig: Rig, edges: readonly Edge[]): Cure[] {
	const index = indexRig(rig);
	const soft = edges
		.filter(({ kind }) => kind === 'soft-thru')
		.map(({ device }): Cure => ({
			title: `Switch soft thru of ${index.devices.get(device!)!.name} off`,
			changes: [{ do: 'wire', device: device!, wiring: { softThru: false } }]
		}));
	const tracks = edges
		.filter(({ from, to }) => from.kind === 'host-in' && to.kind === 'host-out')
		.flatMap(({ from, to }) =>
			tracksOf(rig)
				.filter(
					({ output, input, echo }) => echo && output === to.id && (input === null || input === from.id)
				)
				.map((track) => echoOff(index.hostOf.get(track.id)!, track))
		);
	const cables = edges
		.filter(({ kind }) => kind === 'cable')
		.slice(0, 1)
		.map(({ from, to }): Cure => ({
			title: 'Pull a cable of it',
			changes: [{ do: 'pull', from: from.id, to: to.id }]
		}));
	return [...soft, ...tracks, ...cables];
}

export const signalRules: readonly Rule[] = [
	{
		id: 'loop',
		title: 'Messages go round and round',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			return findLoops(rig).map(({ edges, devices, channel }) => ({
				says: `A message on channel ${channel} comes back to where it was and never ends: ${edges
					.filter(({ kind }) => kind !== 'cable' || devices.length < 2)
					.map(({ says }) => says)
					.join(' → ')}.`,
				about: devices.filter((id) => index.devices.has(id)),
				cures: opened(rig, edges)
			}));
		}
	},
	{
		id: 'note.doubled',
		title: 'Every note sounds twice',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter((device) => hasVoice(device) && device.local && device.sends.length > 0)
				.flatMap((device) => {
					const graph = signalGraph(rig);
					const round = device.sends.find((channel) =>
						walk(graph, place('keys', device.id), { kind: 'note', channel }).some(
							({ node, edges }) =>
								node.kind === 'arriving' &&
								device.ports.some(({ id }) => id === node.id) &&
								edges.length > 1 &&
								graph
									.after(node)
									.some(
										(edge) =>
											edge.to.kind === 'ear' &&
											edge.to.id === device.id &&
											!edge.pass({ kind: 'note', channel }).stop
									)
						)
					);
					if (round === undefined) return [];
					return [
						{
							says: `The keys of ${device.name} sound its own voices, and what it sends on channel ${round} comes back to it: each note sounds twice.`,
							about: [device.id],
							cures: [
								{
									title: `Switch local control of ${device.name} off`,
									changes: [{ do: 'wire' as const, device: device.id, wiring: { local: false } }]
								}
							]
						}
					];
				})
	},
	{
		id: 'clock.several',
		title: 'More than one clock',
		severity: 'error',
		check(rig) {
			const { sources } = clocksOf(rig);
			if (sources.length < 2) return [];
			return [
				{
					says: `${sources.map(({ name }) => name).join(' and ')} each send their own clock: what follows them runs apart. One may lead.`,
					about: sources.flatMap(({ device }) => device?.id ?? []),
					cures: sources.map((kept): Cure => ({
						title: `Let ${kept.host ? hostName(indexRig(rig), kept.host) : kept.name} lead`,
						changes: sources
							.filter((source) => source !== kept)
							.map(({ device, host }) =>
								device
									? {
											do: 'wire' as const,
											device: device.id,
											wiring: { clock: { ...device.clock, sends: false } }
										}
									: { do: 'host' as const, host: { ...host!, clock: false } }
							)
					}))
				}
			];
		}
	},
	{
		id: 'clock.none',
		title: 'Nobody leads the tempo',
		severity: 'warning',
		check(rig) {
			const { sources, followers } = clocksOf(rig);
			if (sources.length > 0 || followers.length === 0) return [];
			return [
				{
					says: `${followers.map(({ name }) => name).join(', ')} wait for a clock, and nobody sends one.`,
					about: followers.map(({ id }) => id),
					cures: rig.hosts.map((host): Cure => ({
						title: `Let ${hostName(indexRig(rig), host)} lead`,
						changes: [{ do: 'host', host: { ...host, clock: true } }]
					}))
				}
			];
		}
	},
	{
		id: 'clock.unfed',
		title: 'A follower hears no clock',
		severity: 'warning',
		check(rig) {
			const { sources, followers } = clocksOf(rig);
			if (sources.length === 0) return [];
			return followers
				.filter(({ id }) => sources.every(({ reaches }) => !reaches.has(id)))
				.map((device) => {
					const ports = sources.flatMap(({ host }) => (host ? (clockPort(rig, host, device) ?? []) : []));
					return {
						says: `${device.name} follows a clock from outside, but none reaches it.`,
						about: [device.id],
						cures: [
							...ports.map(({ host, port }) => ({
								title: `Send clock to “${port.name}”`,
								changes: [changeEntry(host, 'ports', port.id, { clockOut: true })]
							})),
							{
								title: 'Let it keep its own time',
								changes: [
									{
										do: 'wire' as const,
										device: device.id,
										wiring: { clock: { mode: 'internal' as const, sends: false } }
									}
								]
							}
						]
					};
				});
		}
	}
];

/** The port of a host that would bring its clock to a device, if it only sent it there. */
function clockPort(rig: Rig, host: Host, device: RigDevice): { host: Host; port: HostPort } | null {
	const at = walk(signalGraph(rig), place('host-clock', host.id), { kind: 'clock', channel: 0 }, true)
		.filter(({ node }) => node.kind === 'ear' && node.id === device.id)
		.flatMap(({ stops }) => (stops.length === 1 ? stops : []))
		.find((stop) => host.ports.some(({ id, clockOut }) => id === stop.at && !clockOut))?.at;
	const port = host.ports.find(({ id }) => id === at);
	return port ? { host, port } : null;
}
