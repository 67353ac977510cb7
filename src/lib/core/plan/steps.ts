import {
	channelWords,
	channelsOf,
	checkJoin,
	hostName,
	indexRig,
	isHostSocket,
	isMidi,
	panelId,
	portName,
	type Cable,
	type Rig,
	type RigChange,
	type RigIndex
} from '../rig';
import { offInHost } from './task';
import type { Plan, PlanStep } from './plan';
import { planCables, type Ends } from './sockets';

/**
 * From today's wiring to the plan, in an order in which every step is possible: what is in the way is pulled, then
 * plugged, then panels are set. A pull right before the plug that needs it, place by place.
 */
export function planSteps(
	rig: Rig,
	plan: Pick<Plan, 'assignments' | 'boxes' | 'plugs'> & { unplaced: readonly string[] },
	ends: ReadonlyMap<string, Ends>
): PlanStep[] {
	const index = indexRig(rig);
	const name = (id: string) => portName(index.ports.get(id)!);
	const wanted = planCables(plan, ends, rig.cables);
	const same = (a: { from: string; to: string }, b: { from: string; to: string }) =>
		a.from === b.from && a.to === b.to;
	const works = ({ from, to, adapter }: Cable) =>
		checkJoin(index.ports.get(from)!, index.ports.get(to)!, adapter).fits;
	const stays = (cable: Cable) => works(cable) && wanted.some((other) => same(cable, other));
	const pulled = new Set<string>();
	const steps: PlanStep[] = [];
	const fresh = wanted
		.filter((cable) => !rig.cables.some((today) => same(today, cable) && works(today)))
		.map((cable) => ({ cable, place: index.ports.get(cable.to)!.device.place }))
		.sort((a, b) => a.place.localeCompare(b.place));
	// What has no place is unplugged too: left hanging, it would play along where the plan wants silence.
	const left = plan.unplaced.flatMap((id) => ends.get(id)?.into ?? []);
	for (const socket of [...left, ...fresh.flatMap(({ cable }) => [cable.to, cable.from])])
		for (const today of index.cablesAt.get(socket) ?? []) {
			const key = `${today.from} ${today.to}`;
			if (pulled.has(key) || stays(today)) continue;
			pulled.add(key);
			steps.push({
				says: `Pull the cable from ${name(today.from)} to ${name(today.to)}${endOf(index, today, pulled)}.`,
				change: { do: 'pull', from: today.from, to: today.to }
			});
		}
	for (const { cable } of fresh) {
		const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!];
		const crossing = checkJoin(from, to).fault === 'trs-crossing';
		const { adapter } = checkJoin(from, to, crossing ? 'crossing' : undefined);
		steps.push({
			says: `Plug ${name(cable.from)} into ${name(cable.to)}${adapter ? ` with a ${adapter}` : ''}.`,
			change: {
				do: 'plug',
				from: cable.from,
				to: cable.to,
				...(crossing ? { adapter: 'crossing' as const } : {})
			}
		});
	}
	for (const { from, to } of plan.plugs)
		steps.push({ says: `Plug ${name(from)} into ${name(to)}.`, change: { do: 'plug', from, to } });
	return [...steps, ...enablingSteps(rig, plan), ...settingSteps(rig, plan)];
}

/** What a cable that is pulled leaves behind: somebody who no longer plays a device, or leads nowhere from then on. */
function endOf(index: RigIndex, { from, to }: Cable, pulled: ReadonlySet<string>): string {
	const { device, role } = index.ports.get(from)!;
	const leads = device.ports
		.filter((entry) => isMidi(entry) && entry.direction !== 'in')
		.some(
			({ id }) =>
				index.hostPortsOf.has(id) ||
				(index.cablesAt.get(id) ?? []).some((cable) => !pulled.has(`${cable.from} ${cable.to}`))
		);
	if (role !== 'instrument' || device.sends.length === 0) return '';
	if (!leads) return `: ${device.name} then leads nowhere, since a lock wants its place`;
	const there = index.ports.get(to)!;
	return isHostSocket(index, there)
		? ''
		: `: ${device.name} no longer plays ${there.device.name}, which the computer plays from then on`;
}

/** Sockets that the computer does not show, or does not use, are enabled before they are used. */
function enablingSteps(rig: Rig, plan: Pick<Plan, 'assignments' | 'boxes'>): PlanStep[] {
	const index = indexRig(rig);
	const places = [...plan.assignments, ...plan.boxes];
	const used = [
		...new Set(places.flatMap(({ out }) => out ?? [])),
		...new Set(places.flatMap(({ in: into }) => into ?? []))
	];
	const steps: PlanStep[] = [];
	for (const socket of used) {
		const placed = index.ports.get(socket);
		if (!placed || !isHostSocket(index, placed)) continue;
		for (const { id, name, hidden } of offInHost(
			index,
			socket,
			placed.port.direction === 'in' ? 'in' : 'out'
		).slice(0, 1)) {
			const host = index.hostOf.get(id)!;
			steps.push({
				says: `Enable “${name}” for playing in ${hostName(index, host)}${hidden ? ', and let the system show it' : ''}.`,
				change: { do: 'host-port', host: host.id, port: id, playing: true, hidden: false }
			});
		}
	}
	return steps;
}

function settingSteps(rig: Rig, plan: Pick<Plan, 'assignments'>): PlanStep[] {
	const index = indexRig(rig);
	const steps: PlanStep[] = [];
	for (const { device: id, channels, deviceId } of plan.assignments) {
		const device = index.devices.get(id)!;
		const today = channelsOf(device, index.settings.get(id));
		if (channels.length > 0 && channels.join() !== today.join()) {
			const adjacent = channels.every((channel, i) => channel === channels[0] + i);
			const change: RigChange = {
				do: 'set',
				device: id,
				channel: channels[0],
				...(adjacent ? {} : { channels })
			};
			steps.push({
				says: `Set ${device.name} to channel ${channelWords(channels)}${today.length > 0 ? ` (now ${channelWords(today)})` : ''}.`,
				change
			});
		}
		if (deviceId !== null)
			steps.push({
				says: `Set ${device.name} to device ID ${panelId(device, deviceId)}${device.panelAdd > 0 ? ' (as its panel counts)' : ''}.`,
				change: { do: 'set', device: id, deviceId }
			});
	}
	return steps;
}
