import type { Highs } from 'highs';
import { Problem } from '../problem';
import { isBetter, lookFor, type ShownOfGoal } from '../plan/one-goal';
import { Solver } from '../plan/solver';
import {
	countPower,
	drawOf,
	faultsOfFeeding,
	feedingToday,
	hostOf,
	outputAt,
	POWER_GOALS,
	wantsFeeding,
	type Feeding,
	type PowerGoal
} from './feeding';
import { knownPart } from './left-alone';
import { specification, type Load, type Power } from './power';
import { goalsBefore, powerModel } from './power-model';
import { unreadOf } from './unread';

export interface PowerGoalResult extends ShownOfGoal {
	goal: PowerGoal;
	value: number;
}

/** One thing that a hand does: pull, plug, or both. */
export interface PowerStep {
	load: string;
	says: string;
	from: { supply: string; output: string } | null;
	to: { supply: string; output: string } | null;
}

export interface PowerPlan {
	format: 'silent-drawer.power-plan';
	version: 1;
	proved: boolean;
	goals: PowerGoalResult[];
	feeding: { load: string; supply: string; output: string }[];
	/** What is to be done, pulling before plugging. */
	steps: PowerStep[];
	/** What stays as it hangs, because its label was not read: no goal speaks of it. */
	left: { load: string; read: string[] }[];
	/** Why each load is where it is, or nowhere. */
	reasons: { load: string; says: string }[];
	/** What would feed what is left: specifications, never a product. */
	wants: { says: string; loads: string[] }[];
	tookMs: number;
}

export interface PowerPlanOptions {
	seconds: number;
	/** Now, in milliseconds. */
	now(): number;
	cancelled?(): boolean;
}

/**
 * Which output feeds what: everything fed within rules and margin, then the fewest plugs moved, the fewest supplies,
 * isolation where it is wanted, and the most headroom, each without making one before it worse. What is given out was
 * counted and checked apart from what made it.
 * @throws Problem `power-plan.solver` where solver and checker contradict each other
 */
export function planPower(
	highs: Highs,
	whole: Power,
	options: PowerPlanOptions,
	solver = new Solver(highs, options)
): PowerPlan {
	const began = options.now();
	const { power, left } = knownPart(whole);
	const model = powerModel(power);
	const today = feedingToday(power);
	// Nothing on nothing keeps every rule; today may not.
	let feeding: Feeding = faultsOfFeeding(power, today).length === 0 ? today : new Map();
	let counted = countPower(power, feeding);
	const results: PowerGoalResult[] = [];
	/** Takes what was found where it is better, counted and checked apart from what found it. */
	const take = (values: Float64Array) => {
		const next = model.read(values);
		const faults = faultsOfFeeding(power, next);
		if (faults.length > 0)
			throw new Problem(
				'power-plan.solver',
				`The plan that was found breaks a rule: ${faults[0]}`,
				'This is a fault of the app; the file would help to mend it.'
			);
		const goals = countPower(power, next);
		if (isBetter(POWER_GOALS, goals, counted)) [feeding, counted] = [next, goals];
	};
	for (const goal of POWER_GOALS) {
		const settled = results.every(({ proof }) => proof !== null);
		const { terms, plus } = model.goals[goal];
		const shown = lookFor(solver, {
			milp: model.milp.with((programme) => {
				for (const before of goalsBefore(goal))
					programme.atMost(model.goals[before].terms, counted[before] - model.goals[before].plus);
			}),
			terms,
			plus,
			// Less than nought there is not; and what nothing can change is what it is.
			floor: terms.size === 0 ? counted[goal] : 0,
			settled,
			seconds: solver.leftSeconds * 0.7,
			value: () => counted[goal],
			begin: () => model.write(feeding),
			take
		});
		results.push({ goal, value: counted[goal], ...shown });
	}
	for (const result of results) result.value = counted[result.goal];
	const tidy = firstOfAlike(power, today, feeding);
	const as = countPower(power, tidy);
	if (faultsOfFeeding(power, tidy).length === 0 && POWER_GOALS.every((goal) => as[goal] === counted[goal]))
		feeding = tidy;
	return {
		format: 'silent-drawer.power-plan',
		version: 1,
		proved: results.every(({ proof }) => proof !== null),
		goals: results,
		feeding: [...feeding].map(([load, at]) => ({ load, ...at })),
		// What stays as it hangs is no step; the outputs that it takes have names all the same.
		steps: stepsBetween({ ...whole, loads: power.loads }, today, feeding),
		left: left.map(({ load, read }) => ({ load: load.id, read })),
		reasons: [
			...power.loads.filter(wantsFeeding).map((load) => ({
				load: load.id,
				says: reasonOf(power, feeding, load, results[0].proof !== null)
			})),
			...left.map(({ load, read }) => ({
				load: load.id,
				says: `${load.name} stays where it hangs, and nothing else uses that output: read ${read.join(', ')} first. What it adds to a group is not known.`
			}))
		],
		wants: wantsOf(power, feeding),
		tookMs: Math.round(options.now() - began)
	};
}

/** Of outputs that are alike the first ones are used, where nothing stays on the others: a plan that a hand finds its way by. */
function firstOfAlike(power: Power, today: Feeding, feeding: Feeding): Feeding {
	const tidy = new Map(feeding);
	const on = (supply: string, output: string) =>
		[...tidy].filter(([, at]) => at.supply === supply && at.output === output).map(([load]) => load);
	for (const supply of power.supplies)
		supply.outputs.forEach((output, o) => {
			const loads = on(supply.id, output.id);
			const stays = loads.some((load) => {
				const now = today.get(load);
				return now?.supply === supply.id && now.output === output.id;
			});
			if (loads.length === 0 || stays) return;
			const alike = ({ id: _, name: __, ...label }: typeof output) => JSON.stringify(label);
			const first = supply.outputs
				.slice(0, o)
				.find((other) => alike(other) === alike(output) && on(supply.id, other.id).length === 0);
			if (first) for (const load of loads) tidy.set(load, { supply: supply.id, output: first.id });
		});
	return tidy;
}

const titleOf = (power: Power, at: { supply: string; output: string }): string => {
	const found = outputAt(power, at);
	return found ? `${found.supply.name} ${found.output.name}` : `${at.supply} ${at.output}`;
};

function stepsBetween(power: Power, today: Feeding, then: Feeding): PowerStep[] {
	return power.loads
		.flatMap(({ id, name }): PowerStep[] => {
			const [from, to] = [today.get(id) ?? null, then.get(id) ?? null];
			if (from?.supply === to?.supply && from?.output === to?.output) return [];
			const says =
				from && to
					? `Move ${name} from ${titleOf(power, from)} to ${titleOf(power, to)}.`
					: from
						? `Pull ${name} out of ${titleOf(power, from)}.`
						: `Plug ${name} in at ${titleOf(power, to!)}.`;
			return [{ load: id, says, from, to }];
		})
		.sort(
			(a, b) =>
				Number(a.to !== null) - Number(b.to !== null) || Number(b.from !== null) - Number(a.from !== null)
		);
}

function reasonOf(power: Power, feeding: Feeding, load: Load, proved: boolean): string {
	const at = feeding.get(load.id);
	const host = hostOf(power, load.id);
	const ma = drawOf(power, feeding, load).ma;
	if (at) {
		const { supply, output } = outputAt(power, at)!;
		const label = [
			output.volts.length > 0 ? `${output.volts.join('/')} V ${output.kind ?? ''}`.trim() : '',
			`${output.ma} mA`,
			output.isolated ? 'isolated' : ''
		]
			.filter(Boolean)
			.join(', ');
		return `${load.name} takes ${ma} mA${load.hosts.length > 0 && ma !== load.ma ? ' with what is plugged in to it' : ''} at ${titleOf(power, at)} (${label})${supply.is === 'hub' && supply.powered === 'bus' ? ': a hub without a supply of its own' : ''}.`;
	}
	if (host) return `${load.name} is fed by ${host.name}.`;
	const unread = unreadOf(power, load, null);
	if (unread.length > 0) return `${load.name} is fed by nothing: read ${unread.join(', ')} first.`;
	return proved
		? `${load.name} is fed by nothing: no plan feeds more.`
		: `${load.name} is fed by nothing: whether a plan could feed it is open.`;
}

/** What is to be got for loads that nothing feeds: alike ones together, with the margin in the current. */
function wantsOf(power: Power, feeding: Feeding): PowerPlan['wants'] {
	const wants = new Map<string, string[]>();
	for (const load of power.loads.filter(wantsFeeding)) {
		const host = hostOf(power, load.id);
		const ma = drawOf(power, feeding, load).ma;
		if (feeding.has(load.id) || host || ma === null || load.on === 'usb') continue;
		if (!load.volts || !load.kind || (load.kind === 'DC' && !load.polarity)) continue;
		const starting = load.startMa ?? 0;
		const says = specification(
			load,
			Math.max(Math.ceil((ma * (100 + power.margin)) / 100), starting),
			load.isolated
		);
		wants.set(says, [...(wants.get(says) ?? []), load.id]);
	}
	return [...wants].map(([says, loads]) => ({ says, loads }));
}
