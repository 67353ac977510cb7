import { DELAY_MS } from './delays';
import { hostName } from './hosts';
import { isUsb, type RigIndex } from './rig-index';
import type { Host, HostPort, HostTrack } from './schema';
import { arriving, freely, leaving, node, sendMs, type Edge, type Message, type Stop } from './step';
import { reachesComputer } from './usb';

/** What keeps a host port from being used, if anything. */
function hostPortStop(index: RigIndex, port: HostPort, kind: Message['kind']): Stop | null {
	const { device } = index.ports.get(port.port)!;
	const is = (says: string): Stop => ({ says, at: port.id, weight: 1 });
	const host = index.hostOf.get(port.id)!;
	if (!reachesComputer(index, device, host.computer))
		return {
			...is(
				`No USB cable leads from ${device.name} to ${host.computer === null ? 'the computer' : index.devices.get(host.computer)!.name}.`
			),
			weight: 2
		};
	if (port.hidden) return is(`The system hides the port “${port.name}”.`);
	if (kind === 'clock') {
		if (port.direction === 'out' && !port.clockOut) return is(`Clock out is off for “${port.name}”.`);
		if (port.direction === 'in' && !port.sync) return is(`Sync is off for “${port.name}”.`);
	} else if (!port.playing && !port.control)
		return is(`“${port.name}” is not enabled in ${hostName(index, host)}.`);
	return null;
}

/** What the sound of a software instrument takes to be heard: its buffer is played out first, then the driver takes its time. */
const audioMs = ({ audio }: Host) => (1000 * audio.buffer) / audio.rate + audio.driverMs;

const trackTakes = (track: HostTrack, port: HostPort) => track.input === null || track.input === port.id;

/** Ways through the hosts: their ports, the tracks that echo or play, and their software instruments. */
export function* hostEdges(index: RigIndex): Generator<Edge> {
	for (const host of index.rig.hosts) yield* edgesOf(index, host);
}

function* edgesOf(index: RigIndex, host: Host): Generator<Edge> {
	const through = (port: HostPort) => (message: Message) => ({
		message,
		stop: hostPortStop(index, port, message.kind)
	});
	for (const port of host.ports) {
		const { port: socket, device } = index.ports.get(port.port)!;
		const usbMs = DELAY_MS.usb;
		const edge = { kind: 'host' as const, device: device.id, pass: through(port) };
		// A USB instrument is at the end of its own cable; an interface repeats at its socket.
		if (port.direction === 'in')
			yield {
				...edge,
				from: isUsb(socket) || socket.connector === 'virtual' ? leaving(socket) : arriving(socket),
				to: node('host-in', port.id),
				delayMs: isUsb(socket) ? 0 : usbMs,
				says: `host port “${port.name}”`
			};
		else
			yield {
				...edge,
				from: node('host-out', port.id),
				to: isUsb(socket) || socket.connector === 'virtual' ? arriving(socket) : leaving(socket),
				delayMs: usbMs + (isUsb(socket) ? 0 : sendMs(socket)),
				says: `host port “${port.name}”`
			};
		if (host.clock && port.direction === 'out')
			yield {
				from: node('host-clock', host.id),
				to: node('host-out', port.id),
				kind: 'clock',
				delayMs: 0,
				says: `clock of ${hostName(index, host)}`,
				device: null,
				pass: freely
			};
	}
	for (const track of host.tracks) {
		if (track.output === null || !index.hostPorts.has(track.output)) continue;
		const channelOf = (message: Message): Message => ({
			...message,
			channel: track.outputChannel ?? message.channel
		});
		yield {
			from: node('track', track.id),
			to: node('host-out', track.output),
			kind: 'host',
			delayMs: 0,
			says: `track “${track.name}” plays`,
			device: null,
			pass: (message) => freely(channelOf(message))
		};
		for (const port of host.ports.filter(
			(candidate) => candidate.direction === 'in' && trackTakes(track, candidate)
		))
			yield {
				from: node('host-in', port.id),
				to: node('host-out', track.output),
				kind: 'host',
				delayMs: host.latencyMs,
				says: `track “${track.name}” echoes`,
				device: null,
				pass(message) {
					const is = (says: string, weight = 1): ReturnType<Edge['pass']> => ({
						message: channelOf(message),
						stop: { says, at: track.id, weight }
					});
					if (message.kind === 'clock')
						return is(`Clock does not go on through ${hostName(index, host)}.`, 4);
					if (track.inputChannel !== null && track.inputChannel !== message.channel)
						return is(
							`The track “${track.name}” takes channel ${track.inputChannel}, the message is on ${message.channel}.`,
							2
						);
					if (!track.echo) return is(`The track “${track.name}” does not echo what comes in.`);
					return freely(channelOf(message));
				}
			};
	}
	for (const instrument of host.instruments)
		for (const port of host.ports.filter(({ direction }) => direction === 'in'))
			yield {
				from: node('host-in', port.id),
				to: node('soft', instrument.id),
				kind: 'ear',
				delayMs: host.latencyMs + audioMs(host),
				says: `software instrument “${instrument.name}”`,
				device: null,
				pass(message) {
					const is = (says: string): ReturnType<Edge['pass']> => ({
						message,
						stop: { says, at: instrument.id, weight: 1 }
					});
					if (message.kind === 'clock') return is(`Software instruments follow ${hostName(index, host)}.`);
					if (!instrument.on) return is(`“${instrument.name}” is switched off.`);
					if (instrument.input !== null && instrument.input !== port.number)
						return is(
							`“${instrument.name}” listens to input ${instrument.input}, this is input ${port.number}.`
						);
					if (instrument.channel !== null && instrument.channel !== message.channel)
						return is(
							`“${instrument.name}” listens on channel ${instrument.channel}, the message is on ${message.channel}.`
						);
					return freely(message);
				}
			};
}
