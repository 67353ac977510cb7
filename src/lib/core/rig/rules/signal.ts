import { clocksOf } from '../clocks';
import { indexRig } from '../rig-index';
import { hasVoice } from '../roles';
import { findLoops } from '../loops';
import type { Rig } from '../schema';
import { signalGraph } from '../signals';
import { HOST_CLOCK, node as place, type Edge } from '../step';
import { walk } from '../walk';
import type { Cure, Rule } from './rule';

const echoOff = (rig: Rig, track: string): Cure[] =>
	rig.host
		? [
				{
					title: `Switch the echo of “${rig.host.tracks.find(({ id }) => id === track)?.name}” off`,
					changes: [
						{
							do: 'host',
							host: {
								...rig.host,
								tracks: rig.host.tracks.map((entry) =>
									entry.id === track ? { ...entry, echo: false } : entry
								)
							}
						}
					]
				}
			]
		: [];

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
			(rig.host?.tracks ?? [])
				.filter(
					({ output, input, echo }) => echo && output === to.id && (input === null || input === from.id)
				)
				.flatMap(({ id }) => echoOff(rig, id))
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
						title: `Let ${kept.device ? kept.name : 'the host'} lead`,
						changes: sources
							.filter((source) => source !== kept)
							.map(({ device }) =>
								device
									? {
											do: 'wire' as const,
											device: device.id,
											wiring: { clock: { ...device.clock, sends: false } }
										}
									: { do: 'host' as const, host: { ...rig.host!, clock: false } }
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
					cures: rig.host
						? [{ title: 'Let the host lead', changes: [{ do: 'host', host: { ...rig.host, clock: true } }] }]
						: []
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
			const { host } = rig;
			return followers
				.filter(({ id }) => sources.every(({ reaches }) => !reaches.has(id)))
				.map((device) => {
					const port = host?.clock
						? walk(signalGraph(rig), HOST_CLOCK, { kind: 'clock', channel: 0 }, true)
								.filter(({ node }) => node.kind === 'ear' && node.id === device.id)
								.flatMap(({ stops }) => (stops.length === 1 ? stops : []))
								.find(({ at }) => host.ports.some(({ id, clockOut }) => id === at && !clockOut))?.at
						: undefined;
					return {
						says: `${device.name} follows a clock from outside, but none reaches it.`,
						about: [device.id],
						cures: [
							...(port && host
								? [
										{
											title: `Send clock to “${host.ports.find(({ id }) => id === port)!.name}”`,
											changes: [
												{
													do: 'host' as const,
													host: {
														...host,
														ports: host.ports.map((entry) =>
															entry.id === port ? { ...entry, clockOut: true } : entry
														)
													}
												}
											]
										}
									]
								: []),
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
