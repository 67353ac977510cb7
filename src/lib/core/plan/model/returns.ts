import { compatible, crosses, servedAt } from '../task';
import { each, type Draft, type PlanModel } from './draft';

/** As much of a draft as returns need. */
export type ReturnsDraft = Pick<Draft, 'task' | 'real' | 'moves' | 'away'> & {
	model: Pick<PlanModel, 'milp' | 'placed' | 'backs' | 'merged' | 'mergeBacks'>;
};

/** Returns: each to an in of its own, or to a merge box that has one. */
export function bringBack(draft: ReturnsDraft): void {
	const { task, model, real, moves, away } = draft;
	const { milp } = model;
	const inUse = new Map<string, number[]>(task.ins.map(({ id }) => [id, []]));
	const inMerge = new Map<string, number[]>(task.merges.map(({ id }) => [id, []]));
	for (const device of real) {
		if (device.back === null) continue;
		const placed = model.placed.get(device.id)!;
		const able = task.ins.filter(
			(into) => compatible(device, into) && (device.lockIn === null || device.lockIn === into.id)
		);
		const direct = new Map(able.map((into) => [into.id, milp.choice()]));
		const boxes = device.lockIn === null && !device.wireless ? task.merges : [];
		const boxed = new Map(boxes.map(({ id }) => [id, milp.choice()]));
		model.backs.set(device.id, direct);
		model.merged.set(device.id, boxed);
		milp.equal([...each(direct.values()), ...each(boxed.values()), [placed, -1]], 0);
		const { back } = device.present;
		for (const into of able) {
			const column = direct.get(into.id)!;
			inUse.get(into.id)!.push(column);
			if (device.place && into.place && device.place !== into.place) away.push([column, 1]);
			if (!(back && 'in' in back && back.in === into.id))
				moves.push([column, 1 + (crosses(device.backTrs, into.trs) ? 1 : 0)]);
		}
		for (const [box, column] of boxed) {
			inMerge.get(box)!.push(column);
			if (!(back && 'merge' in back && back.merge === box)) moves.push([column, 1]);
		}
	}
	for (const box of task.merges) {
		const columns = new Map(
			task.ins.filter(({ wireless }) => !wireless).map(({ id }) => [id, milp.choice()])
		);
		model.mergeBacks.set(box.id, columns);
		milp.atMost(each(columns.values()), 1);
		for (const [into, column] of columns) {
			inUse.get(into)!.push(column);
			if (box.present !== into) moves.push([column, 1]);
		}
		// What comes back by a box comes to the host that the box goes to.
		for (const device of real) {
			const boxed = model.merged.get(device.id)?.get(box.id);
			if (boxed === undefined) continue;
			const elsewhere = task.ins.filter((into) => columns.has(into.id) && !servedAt(device.host, into));
			if (elsewhere.length > 0) milp.atMost(each([boxed, ...elsewhere.map(({ id }) => columns.get(id)!)]), 1);
		}
		milp.atMost([...each(inMerge.get(box.id)!), ...each(columns.values(), -box.sockets.length)], 0);
	}
	for (const { id, inTheWay, off } of task.ins)
		moves.push(...each(inUse.get(id)!, Number(inTheWay) + Number(off)).filter(([, more]) => more > 0));
	for (const columns of inUse.values()) milp.atMost(each(columns), 1);
}
