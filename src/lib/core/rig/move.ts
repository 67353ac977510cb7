import { Problem } from '../problem';
import { applyChange, type RigChange } from './change';
import { feedsOf } from './feeds';
import { checkJoin } from './join';
import { canReceive, indexRig, isWire, portName, type RigIndex } from './rig-index';
import type { Rig, RigDevice } from './schema';

/** The in of a device that is used today, or its first. */
function inOf(index: RigIndex, device: RigDevice) {
	const ins = device.ports.filter((port) => isWire(port) && canReceive(port));
	return ins.find(({ id }) => index.cablesAt.has(id)) ?? ins[0] ?? null;
}

/** The socket that a device would hang on at an out: the out itself, or the last free thru socket behind it. */
function socketAt(rig: Rig, out: string, device: RigDevice): string {
	const index = indexRig(rig);
	if (!index.cablesAt.has(out)) return out;
	const hearers = feedsOf(rig).find((feed) => feed.out.port.id === out)?.hearers ?? [];
	const free = hearers
		.filter((hearer) => hearer.device.id !== device.id)
		.sort((a, b) => b.hop - a.hop)
		.flatMap((hearer) => hearer.device.ports)
		.find((port) => port.direction === 'thru' && !index.cablesAt.has(port.id));
	if (free) return free.id;
	const last = hearers.at(-1)?.device.name ?? 'what is plugged in there';
	throw new Problem(
		'rig.move.no-socket',
		`${portName(index.ports.get(out)!)} is taken, and there is no free thru socket behind ${last}.`,
		'Choose another out, or put a thru box there.'
	);
}

/**
 * What has to be done so that a device is on an out and a channel: a cable, a panel setting, or both.
 * @param channel 1–16, the first of its block; `null` leaves it as it is
 * @throws Problem `rig.move.no-in`, `rig.move.no-socket`, `rig.move.join`, `rig.move.channel`
 */
export function moveTo(rig: Rig, deviceId: string, out: string, channel: number | null): RigChange[] {
	const index = indexRig(rig);
	const device = index.devices.get(deviceId)!;
	const changes: RigChange[] = [];
	const feed = feedsOf(rig).find(
		({ hearers, out: from }) =>
			from.port.id === out && hearers.some((hearer) => hearer.device.id === deviceId)
	);
	if (!feed) {
		const into = inOf(index, device);
		if (!into)
			throw new Problem(
				'rig.move.no-in',
				`${device.name} has no MIDI in for a cable.`,
				'It is reached by USB alone.'
			);
		const pulls = (index.cablesAt.get(into.id) ?? []).map(({ from, to }): RigChange => ({
			do: 'pull',
			from,
			to
		}));
		const without = pulls.reduce(applyChange, rig);
		const socket = socketAt(without, out, device);
		const join = checkJoin(index.ports.get(socket)!, index.ports.get(into.id)!);
		if (!join.fits) throw new Problem('rig.move.join', join.says, 'Choose another out.');
		changes.push(...pulls, { do: 'plug', from: socket, to: into.id });
	}
	if (channel !== null && channel !== (index.settings.get(deviceId)?.channel ?? null)) {
		const last = channel + device.receive.parts - 1;
		if (last > 16)
			throw new Problem(
				'rig.move.channel',
				`The ${device.receive.parts} parts of ${device.name} would reach beyond channel 16.`,
				`Begin at channel ${17 - device.receive.parts} or lower.`
			);
		changes.push({ do: 'set', device: deviceId, channel });
	}
	return changes;
}
