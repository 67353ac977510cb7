import { firstFeeds } from '../feeds';
import { channelsOf } from '../heard';
import { withoutPorts } from '../host-ports';
import { hostName } from '../hosts';
import { indexRig, isUsb, portName } from '../rig-index';
import { hasVoice } from '../roles';
import type { Host, HostTrack, Rig } from '../schema';
import { signalGraph } from '../signals';
import { node } from '../step';
import { reachesComputer } from '../usb';
import { walk } from '../walk';
import { toFreeChannel } from './channels';
import { changeEntry } from './cures';
import type { Cure, Finding, Rule } from './rule';

const withPort = (host: Host, id: string, patch: Partial<Host['ports'][number]>, title: string): Cure => ({
	title,
	changes: [changeEntry(host, 'ports', id, patch)]
});

/** A channel that a track passes on: its own, or the one that it takes. */
const channelOf = ({ outputChannel, inputChannel }: HostTrack) => outputChannel ?? inputChannel ?? 1;

/** Host ports that somebody depends on: an out with hearers behind it, an in with something plugged in. */
function usedPorts(rig: Rig) {
	const index = indexRig(rig);
	const feeds = new Map(firstFeeds(rig).map(({ out, hearers }) => [out.port.id, hearers]));
	return [...index.hostPorts.values()].flatMap((port) => {
		const behind =
			port.direction === 'out'
				? (feeds.get(port.port) ?? []).map(({ device }) => device)
				: (index.cablesAt.get(port.port) ?? []).map(
						({ from, to }) => index.ports.get(from === port.port ? to : from)!.device
					);
		return behind.length > 0 ? [{ host: index.hostOf.get(port.id)!, port, behind }] : [];
	});
}

/** A rule of what is within one host. */
const inEach =
	(check: (host: Host, rig: Rig) => Finding[]): Rule['check'] =>
	(rig) =>
		rig.hosts.flatMap((host) => check(host, rig));

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
		check: inEach((host) => {
			// Keys that go to the selected track alone sound one of them.
			if (host.keys === 'selected') return [];
			const on = host.instruments.filter((instrument) => instrument.on);
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
							changes: [changeEntry(host, 'instruments', silent.id, { on: false })]
						}))
					}))
			);
		})
	},
	{
		id: 'host.two-tracks',
		title: 'Two tracks pass the same keys on',
		severity: 'warning',
		check: inEach((host, rig) => {
			if (host.keys === 'selected') return [];
			const index = indexRig(rig);
			const heard = (track: HostTrack) =>
				new Set(
					walk(signalGraph(rig), node('track', track.id), { kind: 'note', channel: channelOf(track) })
						.filter((at) => at.node.kind === 'ear')
						.map((at) => at.node.id)
				);
			const on = host.tracks.filter(({ echo, output }) => echo && output !== null);
			return on.flatMap((first, i) =>
				on.slice(i + 1).flatMap((second) => {
					const meet = <T>(a: T | null, b: T | null) => a === null || b === null || a === b;
					if (!meet(first.input, second.input) || !meet(first.inputChannel, second.inputChannel)) return [];
					const both = [first, second].map(heard);
					// Two ways to nobody are none; layers on purpose are known.
					if (both.some((ears) => ears.size === 0)) return [];
					const names = [...new Set(both.flatMap((ears) => [...ears]))];
					const meant = names.every((a) =>
						names.every((b) => a === b || rig.layers.some((pair) => pair.includes(a) && pair.includes(b)))
					);
					if (names.length > 1 && meant) return [];
					return [
						{
							says: `“${first.name}” and “${second.name}” both pass on what is played: ${names.map((id) => index.devices.get(id)!.name).join(' and ')} ${names.length === 1 ? 'gets every note twice' : 'sound together'}.`,
							about: [first.id, second.id],
							cures: [
								...[first, second].map((silent): Cure => ({
									title: `Switch the echo of “${silent.name}” off`,
									changes: [changeEntry(host, 'tracks', silent.id, { echo: false })]
								})),
								{
									title: 'My host sends keys to the selected track only',
									changes: [{ do: 'host', host: { ...host, keys: 'selected' } }]
								}
							]
						}
					];
				})
			);
		})
	},
	{
		id: 'host.no-input',
		title: 'A software instrument listens to an input that is not there',
		severity: 'error',
		check: inEach((host) => {
			const numbers = host.ports.filter(({ direction }) => direction === 'in').map(({ number }) => number);
			return host.instruments
				.filter(({ input }) => input !== null && !numbers.includes(input))
				.map((instrument) => ({
					says: `“${instrument.name}” listens to input ${instrument.input}, and the computer has no input of that number.`,
					about: [instrument.id],
					cures: [...numbers.slice(0, 1), null].map((input): Cure => ({
						title: input === null ? 'Let it listen to every input' : `Let it listen to input ${input}`,
						changes: [changeEntry(host, 'instruments', instrument.id, { input })]
					}))
				}));
		})
	},
	{
		id: 'device.twice',
		title: 'Connected twice for playing',
		severity: 'warning',
		check: inEach((host, rig) => {
			const index = indexRig(rig);
			const plays = (socket: string) =>
				(index.hostPortsOf.get(socket) ?? []).filter(
					({ id, direction, playing, hidden }) =>
						index.hostOf.get(id) === host && direction === 'out' && playing && !hidden
				);
			return rig.devices.filter(hasVoice).flatMap((device) => {
				const [own] = device.ports
					.filter((port) => isUsb(port) || port.connector === 'virtual')
					.filter(() => reachesComputer(index, device))
					.flatMap(({ id }) => plays(id));
				const wired = firstFeeds(rig).flatMap(({ out, hearers }) =>
					out.role === 'interface'
						? hearers.filter((hearer) => hearer.device === device).map((hearer) => ({ out, hearer }))
						: []
				);
				const by = wired.find(({ out }) => plays(out.port.id).length > 0);
				if (!own || !by) return [];
				return [
					{
						says: `${device.name} can be played by its own USB port (“${own.name}”) and by ${portName(by.out)}: what goes to both sounds twice.`,
						about: [device.id, own.id, by.out.port.id],
						cures: [
							withPort(host, own.id, { playing: false }, `Do not play to “${own.name}”`),
							{
								title: `Pull its cable from ${portName(index.ports.get(by.hearer.via)!)}`,
								changes: [{ do: 'pull', from: by.hearer.via, to: by.hearer.into }]
							}
						]
					}
				];
			});
		})
	},
	{
		id: 'host.off',
		title: 'A port in the path is not enabled',
		severity: 'warning',
		check: (rig) =>
			usedPorts(rig)
				.filter(({ port }) => !port.playing && !port.control && !port.hidden)
				.map(({ host, port, behind }) => ({
					says: `“${port.name}” is not enabled in ${hostName(indexRig(rig), host)}, and ${behind.map(({ name }) => name).join(', ')} ${behind.length === 1 ? 'is' : 'are'} behind it.`,
					about: [port.id, ...behind.map(({ id }) => id)],
					cures: [withPort(host, port.id, { playing: true }, 'Enable it for playing')]
				}))
	},
	{
		id: 'host.hidden',
		title: 'A port in the path is hidden by the system',
		severity: 'warning',
		check: (rig) =>
			usedPorts(rig)
				.filter(({ port }) => port.hidden)
				.map(({ host, port, behind }) => ({
					says: `The system does not show “${port.name}”, and ${behind.map(({ name }) => name).join(', ')} ${behind.length === 1 ? 'is' : 'are'} behind it.`,
					about: [port.id, ...behind.map(({ id }) => id)],
					cures: [withPort(host, port.id, { hidden: false }, 'It is shown again')]
				}))
	},
	{
		id: 'host.number',
		title: 'Two ports have one number',
		severity: 'error',
		check: inEach((host) =>
			host.ports.flatMap((first, i, all) =>
				all
					.slice(i + 1)
					.filter((second) => second.direction === first.direction && second.number === first.number)
					.map((second) => ({
						says: `“${first.name}” and “${second.name}” are both noted as ${first.direction === 'in' ? 'input' : 'output'} ${first.number}.`,
						about: [first.id, second.id],
						cures: [
							withPort(
								host,
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
		)
	},
	{
		id: 'host.shared',
		title: 'Two hosts on one USB cable',
		severity: 'warning',
		check(rig) {
			return rig.devices.flatMap((device) => {
				const hosts = rig.hosts.filter(({ ports }) =>
					ports.some((entry) => device.ports.some(({ id }) => id === entry.port))
				);
				const plugs = device.ports.filter(({ connector }) => connector === 'usb-device').length;
				if (hosts.length < 2 || plugs === 0 || plugs >= hosts.length) return [];
				return [
					{
						says: `${hosts.map(({ name }) => name).join(' and ')} each list ports of ${device.name}, which has ${plugs === 1 ? 'one USB socket' : `${plugs} USB sockets`}: only one host at a time is on the other end of a cable.`,
						about: [device.id, ...hosts.map(({ id }) => id)],
						cures: hosts.map((kept): Cure => ({
							title: `It belongs to ${kept.name}`,
							changes: hosts
								.filter((host) => host !== kept)
								.map((host) => ({ do: 'host', host: withoutPorts(host, device) }))
						}))
					}
				];
			});
		}
	}
];
