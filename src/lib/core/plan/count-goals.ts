import type { Rig, RigDevice } from '../rig/schema';
import type { Plan } from './plan';
import type { Goals } from './policy';

/** As much of a plan as its goals depend on. */
export interface Counted extends Pick<Plan, 'policy' | 'assignments' | 'boxes'> {
	unplaced: readonly string[];
}

/** Whether a device's MIDI outs and ins are to be given out: by its kind, and by its sockets where it is for audio too. */
export const isInterface = (device: RigDevice | undefined): boolean =>
	device !== undefined &&
	/interface/i.test(device.kind) &&
	!/power|supply|hub|merge|thru/i.test(device.kind) &&
	(!/audio|mixer/i.test(device.kind) ||
		device.ports.some(
			({ connector }) => !connector.startsWith('usb') && connector !== 'audio' && connector !== 'virtual'
		));

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
	const onWire = plan.assignments.filter(({ out }) => out !== null && isInterface(deviceOfPort.get(out)));
	const nodes = [...onWire, ...plan.boxes.filter(({ out }) => out !== null)];
	const loads = new Map<string, number>();
	for (const { device: id, out } of onWire)
		loads.set(out!, (loads.get(out!) ?? 0) + device(id).wants.bytesPerSecond);
	const cabled = (from: string, to: string | undefined) =>
		rig.cables.some((cable) => cable.from === from && cable.to === to);
	const from = (id: string, direction: 'in' | 'out') =>
		device(id).ports.filter(
			(entry) =>
				entry.direction === direction &&
				!entry.connector.startsWith('usb') &&
				entry.connector !== 'audio' &&
				entry.connector !== 'virtual'
		);
	let moves = 0;
	for (const { device: id, out, via } of nodes)
		if (!from(id, 'in').some((into) => cabled(via ?? out!, into.id))) moves++;
	for (const { device: id, in: into, merge, out } of plan.assignments) {
		if (into === null || (out !== null && !isInterface(deviceOfPort.get(out)))) continue;
		const targets = merge === null ? [into] : from(merge, 'in').map((entry) => entry.id);
		if (!from(id, 'out').some((back) => targets.some((target) => cabled(back.id, target)))) moves++;
	}
	for (const { device: id, in: into } of plan.boxes)
		if (into !== null && !from(id, 'out').some((back) => cabled(back.id, into))) moves++;
	for (const { device: id, channels, deviceId, out } of plan.assignments) {
		if (
			out !== null &&
			(isInterface(deviceOfPort.get(out)) || plan.policy === 'studio-wide-channels') &&
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
				.filter(({ merge, out }) => merge === null && (out === null || isInterface(deviceOfPort.get(out))))
				.reduce((sum, { device: id, in: into }) => sum + elsewhere(id, into), 0),
		channels: plan.assignments
			.filter(
				({ out }) =>
					out !== null && (isInterface(deviceOfPort.get(out)) || plan.policy === 'studio-wide-channels')
			)
			.reduce((sum, { channels }) => sum + channels.reduce((a, b) => a + b, 0), 0)
	};
}
