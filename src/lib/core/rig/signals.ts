import { DELAY_MS } from './delays';
import { channelWords, heardBy } from './heard';
import { checkJoin } from './join';
import { canReceive, indexRig, isMidi, isUsb, isWire, portName, type RigIndex } from './rig-index';
import { roleOf, type Role } from './roles';
import type { HostPort, HostTrack, Rig, RigDevice, RigPort } from './schema';
import { reachesComputer } from './usb';

/** A message under way: a note or controller on a channel, or a clock pulse, which has none. */
export interface Message {
	kind: 'note' | 'clock';
	/** 1–16; 0 for clock. */
	channel: number;
}

/** What keeps a message from going on. */
export interface Stop {
	/** In the musician's words. */
	says: string;
	/** Device, cable end, or host entry where it happens. */
	at: string;
	/** How much has to change: 1 is a switch or a setting, more is a cable or a way nobody intends. */
	weight: number;
}

export type EdgeKind = 'key' | 'local' | 'cable' | 'thru' | 'soft-thru' | 'inside' | 'host' | 'ear' | 'clock';

/**
 * One step of a signal. Nodes are `port>` (leaving a socket), `port<` (arriving), `ear:device`, `key:device`,
 * `clock:device`, `track:id`, `hostin:id`, `hostout:id` and `soft:id`.
 */
export interface Edge {
	from: string;
	to: string;
	kind: EdgeKind;
	delayMs: number;
	/** How the step is called in a list of stops. */
	says: string;
	/** The device that it happens at. */
	device: string | null;
	/** What becomes of a message here. A stopped message goes on only in the question what would have to change. */
	pass(message: Message): { message: Message; stop: Stop | null };
}

export interface SignalGraph {
	edges: Edge[];
	from: Map<string, Edge[]>;
}

const freely = (message: Message) => ({ message, stop: null });
const stopped = (stop: Stop) => (message: Message) => ({ message, stop });
const unless = (open: boolean, stop: Stop) => (open ? freely : stopped(stop));

const leaving = (port: RigPort) => `${port.id}>`;
const arriving = (port: RigPort) => `${port.id}<`;

const midi = (device: RigDevice) => device.ports.filter(isMidi);
const ins = (device: RigDevice) => midi(device).filter(canReceive);
const outs = (device: RigDevice) =>
	midi(device).filter(({ direction }) => direction === 'out' || direction === 'both');
const thrus = (device: RigDevice) => midi(device).filter(({ direction }) => direction === 'thru');

/** Delay of leaving a socket that sends anew. */
const sendMs = (port: RigPort) => (isWire(port) ? DELAY_MS.wire : isUsb(port) ? DELAY_MS.usb : 0);

function* cableEdges(index: RigIndex): Generator<Edge> {
	for (const cable of index.rig.cables) {
		const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!];
		if (!isMidi(from.port) || !isMidi(to.port) || from.role === 'host' || to.role === 'host') continue;
		const join = checkJoin(from, to, cable.adapter);
		const pass = unless(join.fits, { says: join.says, at: cable.to, weight: 2 });
		const says = `cable ${portName(from)} → ${portName(to)}`;
		const edge = { kind: 'cable' as const, delayMs: 0, device: null, pass };
		yield { ...edge, from: leaving(from.port), to: arriving(to.port), says };
		if (isUsb(from.port) && isUsb(to.port))
			yield { ...edge, from: leaving(to.port), to: arriving(from.port), says };
	}
}

/** How the ins of a device are joined to its outs, by its role. */
const INSIDE: Partial<Record<Role, (device: RigDevice) => Generator<Edge>>> = {
	*instrument(device) {
		for (const into of ins(device))
			for (const out of outs(device)) {
				if (into.id === out.id) continue;
				yield {
					from: arriving(into),
					to: leaving(out),
					kind: 'soft-thru',
					delayMs: DELAY_MS.softThru + sendMs(out),
					says: `${device.name} repeats it (soft thru)`,
					device: device.id,
					pass: unless(device.softThru, {
						says: `Soft thru of ${device.name} is off.`,
						at: device.id,
						weight: 4
					})
				};
			}
	},
	*merge(device) {
		for (const into of ins(device))
			for (const out of outs(device))
				yield {
					from: arriving(into),
					to: leaving(out),
					kind: 'inside',
					delayMs: DELAY_MS.merge + sendMs(out),
					says: `${device.name} merges`,
					device: device.id,
					pass: freely
				};
	},
	*thru(device) {
		for (const into of ins(device))
			for (const out of outs(device))
				yield {
					from: arriving(into),
					to: leaving(out),
					kind: 'thru',
					delayMs: DELAY_MS.thru,
					says: `${device.name} splits`,
					device: device.id,
					pass: freely
				};
	},
	*'usb-host-box'(device) {
		const usb = midi(device).filter(({ connector }) => connector === 'usb-host');
		const sides = [
			{ from: usb, to: outs(device).filter((port) => !isUsb(port)) },
			{ from: ins(device).filter((port) => !isUsb(port)), to: usb }
		];
		for (const { from, to } of sides)
			for (const into of from)
				for (const out of to)
					yield {
						from: arriving(into),
						to: leaving(out),
						kind: 'inside',
						delayMs: sendMs(out),
						says: `${device.name} passes it on`,
						device: device.id,
						pass: freely
					};
	},
	*hub(device) {
		const up = midi(device).filter(({ connector }) => connector === 'usb-device');
		const down = midi(device).filter(({ connector }) => connector === 'usb-host');
		for (const a of up)
			for (const b of down) {
				const edge = {
					kind: 'inside' as const,
					delayMs: 0,
					says: device.name,
					device: device.id,
					pass: freely
				};
				yield { ...edge, from: arriving(a), to: leaving(b) };
				yield { ...edge, from: arriving(b), to: leaving(a) };
			}
	}
};

function* thruEdges(device: RigDevice): Generator<Edge> {
	for (const into of ins(device))
		for (const thru of thrus(device))
			yield {
				from: arriving(into),
				to: leaving(thru),
				kind: 'thru',
				delayMs: DELAY_MS.thru,
				says: `thru of ${device.name}`,
				device: device.id,
				pass: freely
			};
}

/** Keys and clocks that begin a message, and the voices that end it. */
function* endEdges(index: RigIndex, device: RigDevice): Generator<Edge> {
	const heard = heardBy(index, device);
	const follows = device.clock.mode === 'external' || device.clock.mode === 'auto';
	const hear = (message: Message): ReturnType<Edge['pass']> => {
		if (message.kind === 'clock')
			return {
				message,
				stop: follows ? null : { says: `${device.name} keeps its own time.`, at: device.id, weight: 1 }
			};
		if (heard.includes(message.channel)) return freely(message);
		return {
			message,
			stop: {
				at: device.id,
				weight: 1,
				says:
					heard.length === 0
						? `No receive channel is noted for ${device.name}.`
						: `${device.name} listens on channel ${channelWords(heard)}, the message is on ${message.channel}.`
			}
		};
	};
	for (const into of ins(device))
		yield {
			from: arriving(into),
			to: `ear:${device.id}`,
			kind: 'ear',
			delayMs: 0,
			says: `${device.name} receives it`,
			device: device.id,
			pass: hear
		};
	const begin = { delayMs: 0, device: device.id };
	if (device.sends.length > 0) {
		for (const out of outs(device))
			yield {
				...begin,
				from: `key:${device.id}`,
				to: leaving(out),
				kind: 'key',
				delayMs: sendMs(out),
				says: `${device.name} sends at ${out.name}`,
				pass: freely
			};
		if (ins(device).length > 0)
			yield {
				...begin,
				from: `key:${device.id}`,
				to: `ear:${device.id}`,
				kind: 'local',
				says: 'its own keys (local control)',
				pass: unless(device.local, {
					says: `Local control of ${device.name} is off.`,
					at: device.id,
					weight: 1
				})
			};
	}
	if (device.clock.sends)
		for (const out of outs(device))
			yield {
				...begin,
				from: `clock:${device.id}`,
				to: leaving(out),
				kind: 'clock',
				says: `clock of ${device.name}`,
				pass: freely
			};
}

/** What keeps a host port from being used, if anything. */
function hostPortStop(index: RigIndex, port: HostPort, kind: Message['kind']): Stop | null {
	const { device } = index.ports.get(port.port)!;
	const is = (says: string): Stop => ({ says, at: port.id, weight: 1 });
	if (!reachesComputer(index, device))
		return { ...is(`No USB cable leads from ${device.name} to the computer.`), weight: 2 };
	if (port.hidden) return is(`The system hides the port “${port.name}”.`);
	if (kind === 'clock') {
		if (port.direction === 'out' && !port.clockOut) return is(`Clock out is off for “${port.name}”.`);
		if (port.direction === 'in' && !port.sync) return is(`Sync is off for “${port.name}”.`);
	} else if (!port.playing && !port.control) return is(`“${port.name}” is not enabled in the host.`);
	return null;
}

const trackTakes = (track: HostTrack, port: HostPort) => track.input === null || track.input === port.id;

function* hostEdges(index: RigIndex): Generator<Edge> {
	const { host } = index.rig;
	if (!host) return;
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
				to: `hostin:${port.id}`,
				delayMs: isUsb(socket) ? 0 : usbMs,
				says: `host port “${port.name}”`
			};
		else
			yield {
				...edge,
				from: `hostout:${port.id}`,
				to: isUsb(socket) || socket.connector === 'virtual' ? arriving(socket) : leaving(socket),
				delayMs: usbMs + (isUsb(socket) ? 0 : sendMs(socket)),
				says: `host port “${port.name}”`
			};
		if (host.clock && port.direction === 'out')
			yield {
				from: 'clock:host',
				to: `hostout:${port.id}`,
				kind: 'clock',
				delayMs: 0,
				says: 'clock of the host',
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
			from: `track:${track.id}`,
			to: `hostout:${track.output}`,
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
				from: `hostin:${port.id}`,
				to: `hostout:${track.output}`,
				kind: 'host',
				delayMs: host.latencyMs,
				says: `track “${track.name}” echoes`,
				device: null,
				pass(message) {
					const is = (says: string, weight = 1): ReturnType<Edge['pass']> => ({
						message: channelOf(message),
						stop: { says, at: track.id, weight }
					});
					if (message.kind === 'clock') return is('The host passes no clock on.', 4);
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
				from: `hostin:${port.id}`,
				to: `soft:${instrument.id}`,
				kind: 'ear',
				delayMs: host.latencyMs,
				says: `software instrument “${instrument.name}”`,
				device: null,
				pass(message) {
					const is = (says: string): ReturnType<Edge['pass']> => ({
						message,
						stop: { says, at: instrument.id, weight: 1 }
					});
					if (message.kind === 'clock') return is('Software instruments follow the host.');
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

const known = new WeakMap<Rig, SignalGraph>();

/** Every way that a message can take through the studio, with what stops it. */
export function signalGraph(rig: Rig): SignalGraph {
	const before = known.get(rig);
	if (before) return before;
	const index = indexRig(rig);
	const edges = [
		...cableEdges(index),
		...rig.devices.flatMap((device) => {
			const role = roleOf(device);
			return [
				...(INSIDE[role]?.(device) ?? []),
				...(role === 'instrument' || role === 'thru' ? thruEdges(device) : []),
				...(role === 'instrument' ? endEdges(index, device) : [])
			];
		}),
		...hostEdges(index)
	];
	const from = new Map<string, Edge[]>();
	for (const edge of edges) from.set(edge.from, [...(from.get(edge.from) ?? []), edge]);
	const graph = { edges, from };
	known.set(rig, graph);
	return graph;
}
