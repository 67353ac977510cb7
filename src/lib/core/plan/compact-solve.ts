import type { GoalResult, Layout, Solved } from './layout';
import { planModel, bestAlone, type PlanModel } from './model';
import { readReturns } from './sets/set-programme';
import type { Solver } from './solver';
import type { Candidate, PlanTask } from './task';

const EPSILON = 1e-6;

/**
 * Solves a task as one programme, goal after goal, each holding all earlier ones at their best.
 * Takes every task: thru boxes, wide thru sockets, loose channels, and the policies without shared ports.
 */
export function solveCompact(task: PlanTask, solver: Solver): Solved | null {
	const model = planModel(task);
	const goals: GoalResult[] = [];
	let values: Float64Array | null = null;
	for (const { goal, terms, constant } of model.goals) {
		if (goal === 'broken') continue;
		const valueOf = (at: Float64Array) =>
			Math.round([...terms].reduce((sum, [column, factor]) => sum + factor * at[column], constant) * 1e6) /
			1e6;
		if (values && (terms.size === 0 || solver.over)) {
			goals.push({
				goal,
				value: valueOf(values),
				bound: terms.size === 0 ? valueOf(values) : 0,
				proved: terms.size === 0
			});
			continue;
		}
		const report = (best: number | null, bound: number | null) =>
			solver.options.onProgress?.({
				goal,
				proved: goals.filter(({ proved }) => proved).length,
				of: model.goals.length,
				best: best === null ? null : best + constant,
				bound: bound === null ? null : bound + constant
			});
		const run = solver.run(model.milp, {
			goal: terms,
			begin: values ?? undefined,
			// Loads are whole steps, everything else is whole numbers.
			gap: goal === 'busiest' ? (model.whole ? 0.99 * model.step : 1e-6) : 0.99,
			onBounds: report
		});
		if (run.values) values = run.values;
		if (!values) return null;
		const value = valueOf(values);
		const proved = run.status === 'optimal';
		goals.push({
			goal,
			value,
			bound: proved ? value : Math.max(0, Math.min(value, run.bound + constant)),
			proved
		});
		report(value - constant, (proved ? value : run.bound + constant) - constant);
		model.milp.atMost(terms, value - constant + EPSILON);
	}
	return values && { layout: readLayout(task, model, values), goals, cancelled: solver.cancelled };
}

function readLayout(task: PlanTask, model: PlanModel, values: Float64Array): Layout {
	const on = (column: number) => values[column] > 0.5;
	const { backs, merges } = readReturns(model, values);
	const layout: Layout = { feeds: new Map(), boxes: new Map(), backs, merges, direct: new Map() };
	const chosen = (options: readonly { covers: number[]; column: number }[]) =>
		options.flatMap(({ covers, column }) => (on(column) ? covers : [])).sort((a, b) => a - b);
	for (const out of task.outs) {
		const here = task.devices.filter((device) =>
			model.seats.get(device.id)?.some((seat) => seat.out === out && on(seat.here))
		);
		for (const { device, hop, via } of chain(task, model, out.id, here, values)) {
			if (device.box) {
				layout.boxes.set(device.id, { out: out.id, hop, via });
				continue;
			}
			const seat = model.seats.get(device.id)!.find((entry) => entry.out === out)!;
			const studio = model.studioOptions.get(device.id);
			const channels =
				task.policy === 'port-per-instrument'
					? bestAlone(device, out.reserved)!
					: chosen(studio ?? seat.options);
			layout.feeds.set(device.id, { out: out.id, hop, via, channels });
		}
	}
	for (const { id } of task.direct) {
		const options = model.studioOptions.get(id);
		if (options) layout.direct.set(id, chosen(options));
	}
	return layout;
}

interface Link {
	device: Candidate;
	hop: number;
	via: string | null;
}

/** Who hangs on which thru socket: hops as the solver gave them, today's cables first. */
function chain(
	task: PlanTask,
	model: PlanModel,
	out: string,
	here: Candidate[],
	values: Float64Array
): Link[] {
	if (task.policy === 'port-per-instrument') return here.map((device) => ({ device, hop: 1, via: null }));
	const hopOf = new Map<Candidate, number>();
	for (const device of here) {
		const followed = model.hops
			.get(device.id)
			?.find((entry) => entry.out === out && values[entry.column] > 0.5);
		if (followed) hopOf.set(device, followed.hop);
	}
	const counted = here.filter((device) => !hopOf.has(device));
	const keepsFirst = (device: Candidate) =>
		device.present.feed && 'out' in device.present.feed && device.present.feed.out === out ? 0 : 1;
	for (const thrus of new Set(counted.map((device) => device.thrus.length))) {
		const alike = counted
			.filter((device) => device.thrus.length === thrus)
			.sort((a, b) => keepsFirst(a) - keepsFirst(b));
		model.counts.get(`${out} ${thrus}`)!.forEach((column, i) => {
			for (let n = Math.round(values[column]); n > 0; n--) hopOf.set(alike.shift()!, i + 1);
		});
	}
	const links: Link[] = [];
	let sockets: string[] = [];
	for (let hop = 1; hop <= task.chain; hop++) {
		const level = here.filter((device) => hopOf.get(device) === hop);
		const next: string[] = [];
		const stays = ({ present: { feed } }: Candidate) =>
			feed !== null && 'socket' in feed && sockets.includes(feed.socket) ? feed.socket : null;
		const kept = new Set(level.flatMap((device) => (hop > 1 ? (stays(device) ?? []) : [])));
		const free = sockets.filter((socket) => !kept.has(socket));
		for (const device of level) {
			const via = hop === 1 ? null : (stays(device) ?? free.shift()!);
			links.push({ device, hop, via });
			next.push(...device.thrus);
		}
		sockets = next;
	}
	return links;
}
