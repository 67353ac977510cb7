import type { Rig, RigDevice } from '../rig/schema';
import type { Plan } from './plan';
import type { Goals } from './policy';

/** As much of a plan as its goals depend on. */
export interface Counted extends Pick<Plan, 'policy' | 'assignments' | 'boxes' | 'plugs'> {
	unplaced: readonly string[];
}

const WIRES = ['din', 'trs-a', 'trs-b', 'wireless'];

/** Whether a device's MIDI outs and ins are to be given out: by its kind, and by its sockets where it is for audio too. */
export const isInterface = (device: RigDevice | undefined): boolean => {
	if (device === undefined || /power|supply|hub|merge|thru|splitter|host.?box/i.test(device.kind))
		return false;
	if (!/audio|mixer/i.test(device.kind)) return /interface/i.test(device.kind);
	const has = (connectors: string[]) => device.ports.some(({ connector }) => connectors.includes(connector));
	return has(WIRES) && (/interface/i.test(device.kind) || has(['usb-device', 'virtual']));
};

/** Whether the computer is behind a socket: one of an interface, or one that a host port names. */
export function isGiven(rig: Rig, socket: string): boolean {
	const device = rig.devices.find(({ ports }) => ports.some(({ id }) => id === socket));
	const wire = device?.ports.some(({ id, connector }) => id === socket && WIRES.includes(connector));
	return (
		wire === true &&
		(isInterface(device) || rig.hosts.some(({ ports }) => ports.some(({ port }) => port === socket)))
	);
}

/** Neither box, interface, computer nor supply: something that is played, or plays. */
export const isPlayer = ({ kind, ...device }: RigDevice): boolean =>
	!/power|supply|hub|merge|thru|splitter|host.?box|computer|^host$|audio|mixer/i.test(kind) &&
	!isInterface({ kind, ...device });

/** The goals of a plan, counted by looking at every device and cable: none of the solver's code takes part. */
export function countGoals(rig: Rig, plan: Counted): Goals {
	const deviceOfPort = new Map<string, RigDevice>();
	for (const device of rig.devices) for (const port of device.ports) deviceOfPort.set(port.id, device);
	const device = (id: string) => rig.devices.find((entry) => entry.id === id)!;
	const setting = (id: string) => rig.settings.find((entry) => entry.device === id);
	const today = (id: string): number[] => {
		const noted = setting(id);
		if (noted?.channels?.length) return [...noted.channels].sort((a, b) => a - b);
		if (noted?.channel == null) return [];
		return Array.from({ length: device(id).receive.parts }, (_, i) => noted.channel! + i).filter(
			(c) => c <= 16
		);
	};
	const onWire = plan.assignments.filter(({ out }) => out !== null && isGiven(rig, out));
	const nodes = [...onWire, ...plan.boxes.filter(({ out }) => out !== null)];
	const loads = new Map<string, number>();
	for (const { device: id, out } of onWire)
		loads.set(out!, (loads.get(out!) ?? 0) + device(id).wants.bytesPerSecond);
	const connector = (socket: string) =>
		deviceOfPort.get(socket)!.ports.find(({ id }) => id === socket)!.connector;
	const crossed = (a: string, b: string) =>
		connector(a) !== connector(b) && connector(a).startsWith('trs') && connector(b).startsWith('trs');
	const cabled = (from: string, to: string | undefined) =>
		rig.cables.some(
			(cable) =>
				cable.from === from && cable.to === to && crossed(from, to) === (cable.adapter === 'crossing')
		);
	/** A cable to plug, with an adapter where TRS types cross at the computer's own socket. */
	const plugged = (from: string, to: string, own: string) =>
		cabled(from, to) ? 0 : 1 + (isGiven(rig, own) && crossed(from, to) ? 1 : 0);
	const least = (costs: number[]) => Math.min(...costs);
	const from = (id: string, direction: 'in' | 'out') =>
		device(id).ports.filter(
			(entry) =>
				entry.direction === direction &&
				!entry.connector.startsWith('usb') &&
				entry.connector !== 'audio' &&
				entry.connector !== 'virtual'
		);
	let moves = plan.plugs.length;
	for (const { device: id, out, via } of nodes)
		moves += least(from(id, 'in').map((into) => plugged(via ?? out!, into.id, via ?? out!)));
	for (const { device: id, in: into, merge, out } of plan.assignments) {
		if (into === null || (out !== null && !isGiven(rig, out))) continue;
		const targets = merge === null ? [into] : from(merge, 'in').map((entry) => entry.id);
		moves += least(
			from(id, 'out').flatMap((back) => targets.map((target) => plugged(back.id, target, target)))
		);
	}
	for (const { device: id, in: into } of plan.boxes)
		if (into !== null && !from(id, 'out').some((back) => cabled(back.id, into))) moves++;
	// A socket that the computer does not show, or does not use, is enabled, once.
	const enabling = (socket: string, direction: 'in' | 'out') => {
		const shown = rig.hosts
			.flatMap(({ ports }) => ports)
			.filter((port) => port.port === socket && port.direction === direction);
		return shown.length > 0 && shown.every(({ playing, hidden }) => hidden || !playing) ? 1 : 0;
	};
	for (const out of new Set(nodes.map((node) => node.out!))) moves += enabling(out, 'out');
	// What is in the way of a return, and wants none itself, is pulled.
	const wants = (device: RigDevice) => device.wants.return || device.lock.in !== undefined;
	for (const into of new Set(
		[...plan.assignments, ...plan.boxes].flatMap(({ in: socket, ...rest }) =>
			socket !== null && isGiven(rig, socket) && !('merge' in rest && rest.merge !== null) ? [socket] : []
		)
	)) {
		moves += enabling(into, 'in');
		if (
			rig.cables.some(({ from: source, to }) => {
				const owner = deviceOfPort.get(source)!;
				const merges = /merge/i.test(owner.kind);
				return to === into && !merges && !(isPlayer(owner) && wants(owner));
			})
		)
			moves++;
	}
	// Who plays a device by a cable of their own loses it.
	for (const { device: id } of onWire)
		if (
			rig.cables.some(({ from: source, to }) => {
				const owner = deviceOfPort.get(source)!;
				const socket = owner.ports.find((port) => port.id === source)!;
				return (
					device(id).ports.some((port) => port.id === to && port.direction === 'in') &&
					isPlayer(owner) &&
					socket.direction === 'out' &&
					owner.sends.length > 0 &&
					!isGiven(rig, source)
				);
			})
		)
			moves++;
	for (const { device: id, channels, deviceId, out } of plan.assignments) {
		if (
			out !== null &&
			(isGiven(rig, out) || plan.policy === 'studio-wide-channels') &&
			channels.join() !== today(id).join()
		)
			moves++;
		if (deviceId !== null) moves++;
	}
	const elsewhere = (id: string, socket: string | null) => {
		const [a, b] = [device(id).place, socket === null ? '' : deviceOfPort.get(socket)!.place];
		return a !== '' && b !== '' && a !== b ? 1 : 0;
	};
	return {
		unplaced: plan.unplaced.length,
		broken: 0,
		crowded: onWire.filter(
			({ device: id, out }) =>
				device(id).wants.tight && onWire.some((other) => other.device !== id && other.out === out)
		).length,
		moves,
		busiest: Math.max(0, ...loads.values()),
		away:
			onWire.reduce((sum, { device: id, out }) => sum + elsewhere(id, out), 0) +
			plan.assignments
				.filter(({ merge, out }) => merge === null && (out === null || isGiven(rig, out)))
				.reduce((sum, { device: id, in: into }) => sum + elsewhere(id, into), 0),
		channels: plan.assignments
			.filter(({ out }) => out !== null && (isGiven(rig, out) || plan.policy === 'studio-wide-channels'))
			.reduce((sum, { channels }) => sum + channels.reduce((a, b) => a + b, 0), 0)
	};
}
