import { indexRig, sameModel, type Rig } from '../rig';
import { countGoals } from './count-goals';
import type { Layout } from './layout';
import type { PlanAssignment, PlanBox, PlanPlug } from './plan';
import type { Goals } from './policy';
import type { PlanTask } from './task';

/** A layout as a plan tells it: who is where, which boxes take part, and who has no place. */
export interface Assembled {
	assignments: PlanAssignment[];
	boxes: PlanBox[];
	plugs: PlanPlug[];
	unplaced: string[];
}

/** New device IDs: of one model with one ID on an out, all but the first get the lowest that is free in the studio. */
function newDeviceIds(rig: Rig, task: PlanTask, layout: Layout): Map<string, number> {
	const ids = new Map<string, number>();
	const { settings } = indexRig(rig);
	const alike = (model: string) => rig.devices.filter((device) => sameModel(device.model, model));
	const taken = (model: string) =>
		new Set(alike(model).flatMap(({ id }) => [settings.get(id)?.deviceId, ids.get(id)]));
	const heard = new Set<string>();
	for (const { id, model, present } of task.devices) {
		const feed = layout.feeds.get(id);
		if (!feed || model === '' || present.deviceId === null) continue;
		const key = `${feed.out} ${model} ${present.deviceId}`;
		if (heard.has(key)) {
			let free = 0;
			while (taken(model).has(free)) free++;
			ids.set(id, free);
		}
		heard.add(key);
	}
	return ids;
}

/** Puts a layout into words of the rig. */
export function assemble(task: PlanTask, layout: Layout): Assembled {
	const { rig } = task;
	const ids = newDeviceIds(rig, task, layout);
	const assignments: PlanAssignment[] = [];
	const unplaced: string[] = [];
	for (const device of task.devices) {
		if (device.box) continue;
		const feed = layout.feeds.get(device.id);
		const back = layout.backs.get(device.id);
		if ((device.into !== null && !feed) || (device.back !== null && !back) || device.noOut) {
			unplaced.push(device.id);
			continue;
		}
		assignments.push({
			device: device.id,
			out: feed?.out ?? null,
			in: back?.in ?? null,
			channels: feed?.channels ?? [],
			hop: feed?.hop ?? 0,
			via: feed?.via ?? null,
			merge: back?.merge ?? null,
			deviceId: ids.get(device.id) ?? null
		});
	}
	for (const { id, port, present: channels } of task.direct)
		assignments.push({
			device: id,
			out: port,
			in: port,
			channels: layout.direct.get(id) ?? channels,
			hop: 1,
			via: null,
			merge: null,
			deviceId: null
		});
	const order = new Map(rig.devices.map(({ id }, i) => [id, i]));
	assignments.sort((a, b) => order.get(a.device)! - order.get(b.device)!);
	const boxes: PlanBox[] = [
		...[...layout.boxes].map(([device, { out, hop, via }]) => ({ device, out, in: null, hop, via })),
		...[...layout.merges].map(([device, into]) => ({ device, out: null, in: into, hop: 0, via: null }))
	];
	return { assignments, boxes, plugs: task.plugs, unplaced };
}

/** The goals of a layout, counted from the plan that it makes by code that shares nothing with the programmes. */
export const recount = (task: PlanTask, layout: Layout): Goals =>
	countGoals(task.rig, { policy: task.policy, ...assemble(task, layout) });
