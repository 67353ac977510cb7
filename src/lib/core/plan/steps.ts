import { channelWords, channelsOf, checkJoin, indexRig, portName, type Rig, type RigChange } from '../rig';
import type { Plan, PlanStep } from './plan';
import { planCables, type Ends } from './sockets';

/**
 * From today's wiring to the plan, in an order in which every step is possible: what is in the way is pulled, then
 * plugged, then panels are set. A pull right before the plug that needs it, place by place.
 */
export function planSteps(
	rig: Rig,
	plan: Pick<Plan, 'assignments' | 'boxes'> & { unplaced: readonly string[] },
	ends: ReadonlyMap<string, Ends>
): PlanStep[] {
	const index = indexRig(rig);
	const name = (id: string) => portName(index.ports.get(id)!);
	const wanted = planCables(plan, ends, rig.cables);
	const same = (a: { from: string; to: string }, b: { from: string; to: string }) =>
		a.from === b.from && a.to === b.to;
	const stays = (cable: { from: string; to: string }) => wanted.some((other) => same(cable, other));
	const pulled = new Set<string>();
	const steps: PlanStep[] = [];
	const fresh = wanted
		.filter((cable) => !rig.cables.some((today) => same(today, cable)))
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
				says: `Pull the cable from ${name(today.from)} to ${name(today.to)}.`,
				change: { do: 'pull', from: today.from, to: today.to }
			});
		}
	for (const { cable } of fresh) {
		const { adapter } = checkJoin(index.ports.get(cable.from)!, index.ports.get(cable.to)!);
		steps.push({
			says: `Plug ${name(cable.from)} into ${name(cable.to)}${adapter ? ` with a ${adapter}` : ''}.`,
			change: { do: 'plug', from: cable.from, to: cable.to }
		});
	}
	return [...steps, ...settingSteps(rig, plan)];
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
				says: `Set ${device.name} to device ID ${deviceId}.`,
				change: { do: 'set', device: id, deviceId }
			});
	}
	return steps;
}
