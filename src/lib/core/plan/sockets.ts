import type { Plan } from './plan';

/** A cable that a plan asks for. */
export interface PlanCable {
	from: string;
	to: string;
	/** Device that it is for. */
	device: string;
	kind: 'feed' | 'return';
}

/** Sockets of a device as the plan uses them: where it is fed, and where it comes back from. */
export interface Ends {
	into: string | null;
	back: string | null;
	/** Sockets of a merge box that returns may go to. */
	merge: string[];
	mergeOut: string | null;
}

/** The cables of a plan. Today's sockets of a merge box are kept where they can be. */
export function planCables(
	plan: Pick<Plan, 'assignments' | 'boxes'>,
	ends: ReadonlyMap<string, Ends>,
	today: readonly { from: string; to: string }[]
): PlanCable[] {
	const cables: PlanCable[] = [];
	const used = new Set<string>();
	for (const { device, out, via, hop } of [...plan.boxes, ...plan.assignments]) {
		const { into } = ends.get(device)!;
		if (hop > 0 && into !== null && out !== null && into !== out)
			cables.push({ from: via ?? out, to: into, device, kind: 'feed' });
	}
	for (const { device, in: into, merge } of plan.assignments) {
		const { back } = ends.get(device)!;
		if (into === null || back === null || back === into) continue;
		if (merge === null) {
			cables.push({ from: back, to: into, device, kind: 'return' });
			continue;
		}
		const sockets = ends.get(merge)!.merge;
		const kept = today.find(({ from, to }) => from === back && sockets.includes(to))?.to;
		if (kept) {
			used.add(kept);
			cables.push({ from: back, to: kept, device, kind: 'return' });
		}
	}
	for (const { device, merge } of plan.assignments) {
		const { back } = ends.get(device)!;
		if (merge === null || back === null || cables.some(({ from }) => from === back)) continue;
		const taken = new Set([
			...used,
			...today.filter(({ from }) => cables.some((cable) => cable.from === from)).map(({ to }) => to)
		]);
		const socket =
			ends.get(merge)!.merge.find((id) => !used.has(id) && !taken.has(id)) ??
			ends.get(merge)!.merge.find((id) => !used.has(id))!;
		used.add(socket);
		cables.push({ from: back, to: socket, device, kind: 'return' });
	}
	for (const { device, in: into } of plan.boxes) {
		const { mergeOut } = ends.get(device)!;
		if (into !== null && mergeOut !== null) cables.push({ from: mergeOut, to: into, device, kind: 'return' });
	}
	return cables;
}
