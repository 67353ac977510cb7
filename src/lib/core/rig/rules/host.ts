import { firstFeeds } from '../feeds';
import { channelsOf } from '../heard';
import { indexRig } from '../rig-index';
import type { Host, Rig } from '../schema';
import { toFreeChannel } from './channels';
import type { Cure, Rule } from './rule';

const withPort = (host: Host, id: string, patch: Partial<Host['ports'][number]>, title: string): Cure => ({
	title,
	changes: [
		{
			do: 'host',
			host: { ...host, ports: host.ports.map((port) => (port.id === id ? { ...port, ...patch } : port)) }
		}
	]
});

/** Host ports that somebody depends on: an out with hearers behind it, an in with something plugged in. */
function usedPorts(rig: Rig) {
	const index = indexRig(rig);
	const feeds = new Map(firstFeeds(rig).map(({ out, hearers }) => [out.port.id, hearers]));
	return (rig.host?.ports ?? []).flatMap((port) => {
		const behind =
			port.direction === 'out'
				? (feeds.get(port.port) ?? []).map(({ device }) => device)
				: (index.cablesAt.get(port.port) ?? []).map(
						({ from, to }) => index.ports.get(from === port.port ? to : from)!.device
					);
		return behind.length > 0 ? [{ port, behind }] : [];
	});
}

export const hostRules: readonly Rule[] = [
	{
		id: 'host.reserved',
		title: 'A channel that the host keeps for itself',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			return firstFeeds(rig).flatMap(({ out, hearers }) =>
				(index.hostPortsOf.get(out.port.id) ?? [])
					.filter(({ reserved }) => reserved !== null)
					.flatMap(({ name, reserved }) =>
						hearers
							.filter(({ device }) => channelsOf(device, index.settings.get(device.id)).includes(reserved!))
							.map(({ device }) => ({
								says: `${device.name} uses channel ${reserved} of “${name}”, which a map of the host keeps for itself.`,
								about: [device.id, out.port.id],
								cures: toFreeChannel(rig, device)
							}))
					)
			);
		}
	},
	{
		id: 'host.two-instruments',
		title: 'Two software instruments on one input',
		severity: 'warning',
		check(rig) {
			const on = (rig.host?.instruments ?? []).filter((instrument) => instrument.on);
			return on.flatMap((first, i) =>
				on
					.slice(i + 1)
					.filter(
						(second) =>
							(first.input === null || second.input === null || first.input === second.input) &&
							(first.channel === null || second.channel === null || first.channel === second.channel)
					)
					.map((second) => ({
						says: `“${first.name}” and “${second.name}” both listen to ${(first.input ?? second.input) ? `input ${first.input ?? second.input}` : 'every input'}: both sound.`,
						about: [first.id, second.id],
						cures: [first, second].map((silent): Cure => ({
							title: `Switch “${silent.name}” off`,
							changes: [
								{
									do: 'host',
									host: {
										...rig.host!,
										instruments: rig.host!.instruments.map((entry) =>
											entry.id === silent.id ? { ...entry, on: false } : entry
										)
									}
								}
							]
						}))
					}))
			);
		}
	},
	{
		id: 'host.off',
		title: 'A port in the path is not enabled',
		severity: 'warning',
		check: (rig) =>
			usedPorts(rig)
				.filter(({ port }) => !port.playing && !port.control && !port.hidden)
				.map(({ port, behind }) => ({
					says: `“${port.name}” is not enabled in the host, and ${behind.map(({ name }) => name).join(', ')} ${behind.length === 1 ? 'is' : 'are'} behind it.`,
					about: [port.id, ...behind.map(({ id }) => id)],
					cures: [withPort(rig.host!, port.id, { playing: true }, 'Enable it for playing')]
				}))
	},
	{
		id: 'host.hidden',
		title: 'A port in the path is hidden by the system',
		severity: 'warning',
		check: (rig) =>
			usedPorts(rig)
				.filter(({ port }) => port.hidden)
				.map(({ port, behind }) => ({
					says: `The system does not show “${port.name}”, and ${behind.map(({ name }) => name).join(', ')} ${behind.length === 1 ? 'is' : 'are'} behind it.`,
					about: [port.id, ...behind.map(({ id }) => id)],
					cures: [withPort(rig.host!, port.id, { hidden: false }, 'It is shown again')]
				}))
	},
	{
		id: 'host.number',
		title: 'Two ports have one number',
		severity: 'error',
		check: (rig) =>
			(rig.host?.ports ?? []).flatMap((first, i, all) =>
				all
					.slice(i + 1)
					.filter((second) => second.direction === first.direction && second.number === first.number)
					.map((second) => ({
						says: `“${first.name}” and “${second.name}” are both noted as ${first.direction === 'in' ? 'input' : 'output'} ${first.number}.`,
						about: [first.id, second.id],
						cures: [
							withPort(
								rig.host!,
								second.id,
								{
									number:
										Math.max(
											...all
												.filter(({ direction }) => direction === first.direction)
												.map(({ number }) => number)
										) + 1
								},
								`Give “${second.name}” the next free number`
							)
						]
					}))
			)
	}
];
