import { Problem } from '../problem';
import {
	ALL_CHANNELS,
	canReceive,
	channelsOf,
	indexRig,
	isHostSocket,
	freeComputerSockets,
	hostsOf,
	isWire,
	playingHost,
	plainModel,
	reachesComputer,
	roleOf,
	type HostPort,
	type Placed,
	type Rig,
	type RigDevice,
	type RigIndex,
	type RigPort
} from '../rig';
import type { Policy } from './policy';
import { homeOf, joined, presentOf, wireIns, wireOuts, type Present } from './present';

/** A socket of an interface that may be given out. */
export interface Socket {
	id: string;
	/** Whose it is: nobody is fed from their own. */
	device: string;
	place: string;
	wireless: boolean;
	trs: Trs;
	/** Channels that a map of the host keeps for itself there. */
	reserved: number[];
	/** Hosts that it belongs to; none: any. */
	hosts: readonly string[];
	/** The host does not show it, or neither plays to it nor listens to it: it is enabled first. */
	off: boolean;
	/** An in that something is plugged into which wants no return: it is pulled first. */
	inTheWay: boolean;
}

/** Which of the two TRS types a socket is, if it is one. */
export type Trs = 'trs-a' | 'trs-b' | null;

/** Whether a cable between two sockets needs an adapter that crosses its wires. */
export const crosses = (a: Trs, b: Trs): boolean => a !== null && b !== null && a !== b;

/** Whether a host may have a socket. */
export const servedAt = (host: string | null, { hosts }: Pick<Socket, 'hosts'>): boolean =>
	host === null || hosts.length === 0 || hosts.includes(host);

/** Whether a socket can be given to a device at all. */
export const compatible = (device: Candidate, socket: Socket): boolean =>
	device.wireless === socket.wireless && device.id !== socket.device && servedAt(device.host, socket);

/** A device that the plan gives a place to, or a thru box that may help. */
export interface Candidate {
	id: string;
	place: string;
	/** Its in, if it is to be fed. */
	into: string | null;
	/** Its out, if it is to come back. */
	back: string | null;
	/** It needs a return but has no out. */
	noOut: boolean;
	wireless: boolean;
	/** The host that plays it, and that it comes back to; `null` where it does not matter which. */
	host: string | null;
	intoTrs: Trs;
	backTrs: Trs;
	/** Sockets that pass on what it hears. */
	thrus: string[];
	/** Sets of channels that it could be given, each whole. Only for those with adjacent parts (or one part). */
	blocks: number[][];
	/** Single channels to choose `parts` from, when its parts need not be adjacent. */
	loose: number[];
	/** A loose channel that must be among them, as the lowest. */
	lockChannel: number | null;
	parts: number;
	omni: boolean;
	bytesPerSecond: number;
	tight: boolean;
	model: string;
	lockOut: string | null;
	lockIn: string | null;
	present: Present;
	/** A thru box: it takes part only where it is of use. */
	box: boolean;
}

export interface MergeBox {
	id: string;
	sockets: string[];
	out: string;
	present: string | null;
}

/** A device that is reached by USB alone: it has a place without any of our doing. */
export interface Direct {
	id: string;
	port: string;
	blocks: number[][];
	present: number[];
}

export interface PlanTask {
	policy: Policy;
	outs: Socket[];
	ins: Socket[];
	devices: Candidate[];
	merges: MergeBox[];
	direct: Direct[];
	/** What is reached by USB alone and hangs on nothing, with a free socket of the computer for each, as far as they go. */
	plugs: { device: string; from: string; to: string }[];
	/** What is left of these without a socket. */
	unpluggable: string[];
	/** Devices of which nobody said which of several hosts plays them, and the host that is taken to. */
	supposed: { device: string; host: string }[];
	chain: number;
	/** Bytes/s that an out may be planned for. */
	capacity: number;
	/** Ids of the rig, in its order, for explanations. */
	rig: Rig;
}

/** A return is given where one is wanted, and where one is locked. */
const wantsReturn = ({ wants, lock }: RigDevice) => wants.return || lock.in !== undefined;

/** Blocks of channels that a device could be set to. */
export function blocksOf(device: RigDevice): number[][] {
	const { channels, parts } = device.receive;
	const able = new Set(channels);
	return ALL_CHANNELS.map((first) => Array.from({ length: parts }, (_, i) => first + i)).filter((block) =>
		block.every((channel) => able.has(channel))
	);
}

const usbOf = (device: RigDevice) =>
	device.ports.find(({ connector }) => connector === 'usb-device' || connector === 'virtual');

/** Whether the plan leaves a device on its own USB cable: it has no other in, or that is how it is used today. */
function isDirect(index: RigIndex, device: RigDevice): boolean {
	const usb = usbOf(device);
	return (
		usb !== undefined && (wireIns(device).length === 0 || (index.hostPortsOf.get(usb.id)?.length ?? 0) > 0)
	);
}

/** Free sockets of the computer for what is reached by USB alone and hangs on nothing yet, in the order of the rig. */
function usbPlugs(index: RigIndex, direct: readonly RigDevice[]): Pick<PlanTask, 'plugs' | 'unpluggable'> {
	const loose = direct.filter(
		(device) =>
			wireIns(device).length === 0 &&
			device.ports.some(({ connector }) => connector === 'usb-device') &&
			!reachesComputer(index, device)
	);
	const free = freeComputerSockets(index);
	const wished = ({ wants }: RigDevice) => index.hosts.get(wants.host ?? '')?.computer ?? null;
	const plugs: PlanTask['plugs'] = [];
	// Those that one computer is meant for choose first.
	for (const device of loose.toSorted((a, b) => Number(wished(b) !== null) - Number(wished(a) !== null))) {
		const at = free.findIndex((socket) => [null, socket.device.id].includes(wished(device)));
		if (at < 0) continue;
		const [socket] = free.splice(at, 1);
		plugs.push({
			device: device.id,
			from: device.ports.find(({ connector }) => connector === 'usb-device')!.id,
			to: socket.port.id
		});
	}
	return {
		plugs,
		unpluggable: loose.map(({ id }) => id).filter((id) => plugs.every(({ device }) => device !== id))
	};
}

function candidate(index: RigIndex, device: RigDevice): Candidate | null {
	const box = roleOf(device) === 'thru';
	const ins = wireIns(device);
	const outs = wireOuts(device);
	const into = ins.find(({ id }) => joined(index, id)) ?? ins[0];
	const back = outs.find(({ id }) => homeOf(index, id) !== null) ?? outs[0];
	const returns = !box && wantsReturn(device);
	if (!into && !returns) return null;
	const locked = device.lock.channel;
	const fits = (block: number[]) => locked === undefined || block[0] === locked;
	return {
		id: device.id,
		place: device.place,
		into: into?.id ?? null,
		back: returns ? (back?.id ?? null) : null,
		noOut: returns && !back,
		wireless: (into ?? back)?.connector === 'wireless',
		host: box ? null : (playingHost(index, device)?.host.id ?? null),
		intoTrs: trsOf(into),
		backTrs: trsOf(back),
		thrus: [
			...device.ports.filter((port) => isWire(port) && port.direction === 'thru'),
			...(box ? outs : [])
		].map(({ id }) => id),
		blocks: device.receive.adjacent || device.receive.parts === 1 ? blocksOf(device).filter(fits) : [],
		loose:
			device.receive.adjacent || device.receive.parts === 1
				? []
				: device.receive.channels.filter((channel) => channel >= (locked ?? 1)).sort((a, b) => a - b),
		lockChannel: locked ?? null,
		parts: device.receive.parts,
		omni: device.receive.omni,
		bytesPerSecond: box ? 0 : device.wants.bytesPerSecond,
		tight: !box && device.wants.tight,
		model: plainModel(device.model),
		lockOut: device.lock.out ?? null,
		lockIn: device.lock.in ?? null,
		present: presentOf(index, device, into, back),
		box
	};
}

const trsOf = (port: RigPort | undefined): Trs =>
	port?.connector === 'trs-a' || port?.connector === 'trs-b' ? port.connector : null;

const socket = (index: RigIndex, { device, port }: Placed): Socket => ({
	id: port.id,
	device: device.id,
	place: device.place,
	wireless: port.connector === 'wireless',
	trs: trsOf(port),
	reserved: (index.hostPortsOf.get(port.id) ?? []).flatMap(({ reserved }) => reserved ?? []),
	hosts: hostsOf(index, { device, port }).map(({ id }) => id),
	off: offInHost(index, port.id, port.direction === 'in' ? 'in' : 'out').length > 0,
	inTheWay:
		port.direction === 'in' && (index.cablesAt.get(port.id) ?? []).some(({ from }) => !returned(index, from))
});

/** Whether what comes in by a cable is wanted: the return of a device, or a merge box. */
function returned(index: RigIndex, from: string): boolean {
	const { device, role, port } = index.ports.get(from)!;
	if (role === 'merge') return port.direction === 'out';
	return role === 'instrument' && wantsReturn(device) && port.direction === 'out';
}

/** Host ports of a socket, where none of them is in use: hidden, or not enabled for playing. */
export function offInHost(index: RigIndex, socket: string, way: 'in' | 'out'): HostPort[] {
	const ports = (index.hostPortsOf.get(socket) ?? []).filter(({ direction }) => direction === way);
	return ports.every(({ playing, hidden }) => !playing || hidden) ? ports : [];
}

/**
 * What is to be planned, out of a rig: sockets to give out, devices that want them, and how things are today.
 * @throws Problem `plan.no-interface` when the rig has no interface with an out
 */
export function planTask(rig: Rig, policy: Policy): PlanTask {
	const index = indexRig(rig);
	const sockets = [...index.ports.values()].filter((placed) => isHostSocket(index, placed));
	const outs = sockets
		.filter(({ port }) => port.direction === 'out' || port.direction === 'both')
		.map((placed) => socket(index, placed));
	if (outs.length === 0)
		throw new Problem(
			'plan.no-interface',
			'There is no interface with a MIDI out in this rig, so nothing can be given out.',
			'Add an interface to the catalogue, or correct its kind and its ports.'
		);
	const direct = rig.devices.filter((device) => roleOf(device) === 'instrument' && isDirect(index, device));
	const usb = usbPlugs(index, direct);
	const devices = rig.devices
		.filter((device) => ['instrument', 'thru'].includes(roleOf(device)) && !direct.includes(device))
		.flatMap((device) => candidate(index, device) ?? []);
	return {
		policy,
		rig,
		outs,
		ins: sockets
			.filter(({ port }) => port.direction === 'in' || port.direction === 'both')
			.map((placed) => socket(index, placed)),
		devices,
		supposed: devices.flatMap(({ id, host }) =>
			host !== null && !playingHost(index, index.devices.get(id)!)!.known ? [{ device: id, host }] : []
		),
		merges: rig.devices
			.filter((device) => roleOf(device) === 'merge')
			.flatMap((device) => {
				const out = wireOuts(device)[0];
				if (!out) return [];
				return [
					{
						id: device.id,
						// What comes in from elsewhere is left alone.
						sockets: wireIns(device)
							.map(({ id }) => id)
							.filter((id) => (index.cablesAt.get(id) ?? []).every(({ from }) => returned(index, from))),
						out: out.id,
						present: homeOf(index, out.id)
					}
				];
			}),
		direct: direct
			.filter((device) => device.ports.some((port) => port.id === usbOf(device)!.id && canReceive(port)))
			.filter((device) => index.settings.get(device.id)?.channel != null || device.sends.length === 0)
			.map((device) => ({
				id: device.id,
				port: usbOf(device)!.id,
				blocks: blocksOf(device),
				present: channelsOf(device, index.settings.get(device.id))
			})),
		...usb,
		chain: rig.limits.chain,
		capacity: rig.limits.load * 3125
	};
}
