import { DELAY_MS } from './delays';
import { channelWords, heardBy } from './heard';
import { hostEdges } from './host-signals';
import { checkJoin } from './join';
import { canReceive, indexRig, isMidi, isUsb, portName, type RigIndex } from './rig-index';
import { roleOf, type Role } from './roles';
import type { Rig, RigDevice } from './schema';
import {
	arriving,
	freely,
	leaving,
	node,
	sendMs,
	unless,
	type Edge,
	type Message,
	type SignalGraph
} from './step';

const midi = (device: RigDevice) => device.ports.filter(isMidi);
const ins = (device: RigDevice) => midi(device).filter(canReceive);
const outs = (device: RigDevice) =>
	midi(device).filter(({ direction }) => direction === 'out' || direction === 'both');
const thrus = (device: RigDevice) => midi(device).filter(({ direction }) => direction === 'thru');

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
			to: node('ear', device.id),
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
				from: node('keys', device.id),
				to: leaving(out),
				kind: 'key',
				delayMs: sendMs(out),
				says: `${device.name} sends at ${out.name}`,
				pass: freely
			};
		if (ins(device).length > 0)
			yield {
				...begin,
				from: node('keys', device.id),
				to: node('ear', device.id),
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
				from: node('clock', device.id),
				to: leaving(out),
				kind: 'clock',
				says: `clock of ${device.name}`,
				pass: freely
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
	const steps = new Map<string, Edge[]>();
	for (const edge of edges) {
		const known = steps.get(edge.from.key);
		if (known) known.push(edge);
		else steps.set(edge.from.key, [edge]);
	}
	const graph: SignalGraph = { edges, after: ({ key }) => steps.get(key) ?? [] };
	known.set(rig, graph);
	return graph;
}
