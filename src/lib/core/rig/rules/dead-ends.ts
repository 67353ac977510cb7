import { audioOf, freePairs } from '../audio';
import { audioStops, notesAudio } from '../audio-end';
import { channelWords } from '../heard';
import { checkJoin } from '../join';
import { canReceive, indexRig, isMidi, isWire, portName } from '../rig-index';
import { hasVoice, roleOf } from '../roles';
import type { Rig, RigDevice } from '../schema';
import { signalGraph } from '../signals';
import { node } from '../step';
import { walk } from '../walk';
import { intoComputer } from './cures';
import type { Cure, Rule } from './rule';

const canSend = ({ direction }: { direction: string }) => direction === 'out' || direction === 'both';

/** Where what a device plays on a channel comes to, besides its own voices by local control. */
const reached = (rig: Rig, device: RigDevice, channel: number) =>
	walk(signalGraph(rig), node('keys', device.id), { kind: 'note', channel })
		.filter(({ edges }) => edges.at(-1)?.kind !== 'local')
		.map((at) => at.node);

const heardSomewhere = (rig: Rig, device: RigDevice, channel: number) =>
	reached(rig, device, channel).some(({ kind }) => kind === 'ear' || kind === 'soft');

/** Whether the computer takes it in: a track of the host does, or nobody said what the host makes of it. */
function takenByHost(rig: Rig, device: RigDevice, channel: number, echoed = false): boolean {
	const index = indexRig(rig);
	return reached(rig, device, channel).some(({ kind, id }) => {
		if (rig.hosts.length === 0) return kind === 'arriving' && index.ports.get(id)?.role === 'interface';
		if (kind !== 'host-in') return false;
		const host = index.hostOf.get(id)!;
		if (host.tracks.length === 0 && host.instruments.length === 0) return true;
		return (
			!echoed &&
			host.tracks.some(
				({ input, inputChannel }) =>
					(input === null || input === id) && (inputChannel === null || inputChannel === channel)
			)
		);
	});
}

/** A cable at one of a device's outs, or a port of the computer that is its own. */
function leadsOn(rig: Rig, device: RigDevice): boolean {
	const index = indexRig(rig);
	return device.ports
		.filter((port) => isMidi(port) && canSend(port))
		.some((port) => index.cablesAt.has(port.id) || index.hostPortsOf.has(port.id));
}

/** What is of use only where it leads to something: it has no voices of its own to play. */
const onlyPlays = (device: RigDevice) =>
	roleOf(device) === 'instrument' &&
	(!hasVoice(device) || !device.ports.some((port) => isMidi(port) && canReceive(port)));

/** What begins, goes on or ends where nobody is. */
export const deadEndRules: readonly Rule[] = [
	{
		id: 'keys.nowhere',
		title: 'Something to play on leads nowhere',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter((device) => onlyPlays(device) && device.ports.some((port) => isMidi(port) && canSend(port)))
				.filter((device) => !leadsOn(rig, device))
				.map((device) => ({
					says: `No cable leads from ${device.name} to anything: what it sends is heard by nobody.`,
					about: [device.id],
					cures: intoComputer(rig, device)
				}))
	},
	{
		id: 'keys.unheard',
		title: 'Keys on a channel that nobody hears',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter((device) => device.sends.length > 0 && leadsOn(rig, device))
				.flatMap((device) => {
					// What gets no further than a cable that does not fit is said of that cable.
					const silent = device.sends.filter(
						(channel) =>
							reached(rig, device, channel).some(({ kind }) => kind === 'arriving' || kind === 'host-in') &&
							!heardSomewhere(rig, device, channel) &&
							!takenByHost(rig, device, channel)
					);
					// Local off, and nobody plays it back: that is said by itself.
					if (silent.length === 0 || (hasVoice(device) && !device.local)) return [];
					return [
						{
							says: `${device.name} sends on channel ${channelWords(silent)}, and nothing that it reaches listens there.`,
							about: [device.id],
							cures: toHeardChannel(rig, device, silent)
						}
					];
				})
	},
	{
		id: 'local.unplayed',
		title: 'Local control is off, and nobody plays it back',
		severity: 'warning',
		check: (rig) =>
			rig.devices
				.filter((device) => hasVoice(device) && !device.local && device.sends.length > 0)
				.filter((device) =>
					device.sends.every(
						(channel) =>
							!takenByHost(rig, device, channel, true) &&
							!reached(rig, device, channel).some(({ kind, id }) => kind === 'ear' && id === device.id)
					)
				)
				.map((device) => ({
					says: `The keys of ${device.name} do not play its own voices (local control is off), and nothing sends them back to it.`,
					about: [device.id],
					cures: [
						{
							title: `Switch local control of ${device.name} on`,
							changes: [{ do: 'wire' as const, device: device.id, wiring: { local: true } }]
						}
					]
				}))
	},
	{
		id: 'thru.silent',
		title: 'It hangs on an out that passes nothing on',
		severity: 'warning',
		check(rig) {
			const index = indexRig(rig);
			return rig.cables.flatMap((cable) => {
				const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!];
				const { device } = from;
				if (!isWire(from.port) || from.port.direction !== 'out' || from.role !== 'instrument') return [];
				if (device.softThru || device.sends.length > 0 || device.clock.sends) return [];
				if (!hasVoice(to.device) || to.role !== 'instrument' || !checkJoin(from, to, cable.adapter).fits)
					return [];
				const thru = device.ports.find(
					(port) => isWire(port) && port.direction === 'thru' && !index.cablesAt.has(port.id)
				);
				const cures: Cure[] = [
					...(thru
						? [
								{
									title: `Plug it into ${portName(index.ports.get(thru.id)!)} instead`,
									changes: [
										{ do: 'pull' as const, from: cable.from, to: cable.to },
										{ do: 'plug' as const, from: thru.id, to: cable.to }
									]
								}
							]
						: []),
					{
						title: `Switch soft thru of ${device.name} on`,
						changes: [{ do: 'wire', device: device.id, wiring: { softThru: true } }]
					}
				];
				return [
					{
						says: `${to.device.name} hangs on ${portName(from)}, which sends nothing: ${device.name} has no keys, and its soft thru is off.`,
						about: [to.device.id, device.id],
						cures
					}
				];
			});
		}
	},
	{
		id: 'hub.no-host',
		title: 'A hub without a computer',
		severity: 'error',
		check(rig) {
			const index = indexRig(rig);
			const above = (hub: RigDevice, seen = new Set<string>()): boolean => {
				if (seen.has(hub.id)) return false;
				seen.add(hub.id);
				return hub.ports
					.filter(({ connector }) => connector === 'usb-device')
					.flatMap((port) => (index.cablesAt.get(port.id) ?? []).map((cable) => ({ port, cable })))
					.some(({ port, cable }) => {
						const other = index.ports.get(cable.from === port.id ? cable.to : cable.from)!;
						if (other.role === 'hub') return above(other.device, seen);
						return other.port.connector === 'usb-host';
					});
			};
			return rig.devices
				.filter((device) => roleOf(device) === 'hub')
				.flatMap((hub) => {
					const hanging = hub.ports
						.filter(({ connector }) => connector === 'usb-host')
						.flatMap(({ id }) => (index.cablesAt.get(id) ?? []).map((cable) => ({ id, cable })))
						.map(({ id, cable }) => index.ports.get(cable.from === id ? cable.to : cable.from)!.device);
					if (hanging.length === 0 || above(hub)) return [];
					return [
						{
							says: `${hanging.map(({ name }) => name).join(' and ')} ${hanging.length === 1 ? 'is' : 'are'} plugged into ${hub.name}, and no computer or host box is: USB devices do not talk to one another.`,
							about: [hub.id, ...hanging.map(({ id }) => id)],
							cures: intoComputer(rig, hub)
						}
					];
				});
		}
	},
	{
		id: 'audio.nowhere',
		title: 'Audio that goes nowhere',
		severity: 'warning',
		check(rig) {
			if (!notesAudio(rig)) return [];
			const lost = new Map<RigDevice, RigDevice[]>();
			for (const device of rig.devices) {
				const sounds = device.ports.some(
					({ connector, direction }) => connector === 'audio' && direction === 'out'
				);
				const stop = sounds && roleOf(device) === 'instrument' ? audioStops(rig, device) : null;
				if (stop) lost.set(stop, [...(lost.get(stop) ?? []), device]);
			}
			return [...lost].map(([stop, from]) => {
				const others = from.filter((device) => device !== stop);
				return {
					says:
						others.length === 0
							? `No cable leads on from the audio outs of ${stop.name}: nobody hears it.`
							: `The audio of ${others.map(({ name }) => name).join(' and ')} goes as far as ${stop.name}, and no cable leads on from there.`,
					about: [stop.id, ...others.map(({ id }) => id)],
					cures: intoFreeInputs(rig, stop)
				};
			});
		}
	}
];

/** Sends on the lowest channel that somebody hears, instead of one that nobody does. */
function toHeardChannel(rig: Rig, device: RigDevice, silent: readonly number[]): Cure[] {
	const heard = Array.from({ length: 16 }, (_, i) => i + 1).find((channel) =>
		heardSomewhere(rig, device, channel)
	);
	if (heard === undefined) return [];
	const sends = [...new Set(device.sends.map((channel) => (silent.includes(channel) ? heard : channel)))];
	return [
		{
			title: `Send on channel ${heard} instead`,
			changes: [{ do: 'wire', device: device.id, wiring: { sends } }]
		}
	];
}

/** Plugs audio outs into free inputs: a pair into an odd one and the next. */
function intoFreeInputs(rig: Rig, device: RigDevice): Cure[] {
	const index = indexRig(rig);
	const outs = device.ports.filter(
		({ id, connector, direction }) => connector === 'audio' && direction === 'out' && !index.cablesAt.has(id)
	);
	const audio = audioOf(rig);
	const sides = (['left', 'right'] as const).flatMap((side) => outs.find((out) => out.side === side) ?? []);
	const [pair] = sides.length === 2 ? freePairs(audio) : [];
	const input = audio.inputs.find(({ taken }) => taken === null)?.placed;
	if (pair)
		return [
			{
				title: `Plug them into ${portName(pair[0])} and ${pair[1].port.name}`,
				changes: sides.map(({ id }, i) => ({ do: 'plug', from: id, to: pair[i].port.id }))
			}
		];
	return input && outs.length > 0
		? [
				{
					title: `Plug ${outs[0].name || 'it'} into ${portName(input)}`,
					changes: [{ do: 'plug', from: outs[0].id, to: input.port.id }]
				}
			]
		: [];
}
