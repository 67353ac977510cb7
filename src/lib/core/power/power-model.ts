import { Milp, terms, type Cell, type Terms } from '../plan/milp';
import { BATTERY_SHARE, BUS_HUB_MA, isBus, type Load, type Output, type Power, type Supply } from './power';
import { feedingToday, POWER_GOALS, type Feeding, type PowerGoal } from './feeding';

/** A place that a load may hang on. */
interface Place {
	supply: Supply;
	output: Output;
	/** mA. */
	limit: number;
}

export interface PowerModel {
	milp: Milp;
	goals: Record<PowerGoal, { terms: Terms; plus: number }>;
	read(values: Float64Array): Feeding;
	/** A feeding as a solution to begin with. */
	write(feeding: Feeding): Float64Array;
}

/** Places whose labels say enough. */
const placesOf = (power: Power): Place[] =>
	power.supplies.flatMap((supply) =>
		supply.outputs.flatMap((output): Place[] => {
			const limit =
				supply.is !== 'hub'
					? output.ma
					: supply.powered === 'own'
						? output.ma
						: supply.powered === 'bus'
							? Math.min(output.ma ?? BUS_HUB_MA, BUS_HUB_MA)
							: null;
			const shared = output.group === null ? 1 : supply.groups.find(({ id }) => id === output.group)?.ma;
			const lasts = supply.is !== 'battery' || supply.mah !== null;
			return limit === null || !shared || !lasts ? [] : [{ supply, output, limit }];
		})
	);

/** Whether plug and label allow it, all of it being known. */
function suits(load: Load, { supply, output }: Place): boolean {
	if (isBus(supply)) return load.on === 'usb';
	if (load.on === 'usb' && !load.selfFeeds) return false;
	if (!load.volts || !load.kind || output.kind !== load.kind) return false;
	const [low, high] = load.volts;
	if (output.volts.every((volts) => volts < low || volts > high)) return false;
	if (load.kind === 'AC') return true;
	if (!load.polarity || !output.polarity) return false;
	return load.polarity === output.polarity || [load.polarity, output.polarity].includes('none');
}

/**
 * Which load on which output: a yes or no for each pair that labels allow. A hosted device that feeds itself takes its
 * current off its host; whatever else a host carries is added to its own.
 */
export function powerModel(power: Power): PowerModel {
	const milp = new Milp();
	const places = placesOf(power);
	const loads = power.loads.filter(({ on }) => on !== 'own');
	const hosts = new Map(power.loads.flatMap((host) => host.hosts.map(({ load }) => [load, host] as const)));
	const on = loads.map((load) =>
		places.map((place) =>
			load.ma !== null && suits(load, place) && (!hosts.has(load.id) || load.selfFeeds) ? milp.choice() : null
		)
	);
	const rowOf = new Map(loads.map((load, l) => [load.id, l]));
	const allOf = (l: number): Cell[] =>
		on[l].flatMap((column): Cell[] => (column === null ? [] : [[column, 1]]));
	loads.forEach((_, l) => milp.atMost(allOf(l), 1));

	/** What the other columns are where it is said what hangs where; in the order in which they were made. */
	const follows: [number, (x: Float64Array) => number][] = [];
	const total = (cells: readonly Cell[], x: Float64Array) =>
		cells.reduce((sum, [column, value]) => sum + x[column] * value, 0);

	/** What each load draws at each place, as cells: its own, and what it carries for others. */
	const draws = loads.map((load, l) => {
		const guests = load.hosts.flatMap(({ load: id }) => {
			const g = rowOf.get(id);
			return g === undefined ? [] : [{ guest: loads[g], g }];
		});
		for (const { guest, g } of guests)
			// What nobody knows is not carried: the host hangs on something only where its guest feeds itself.
			if (guest.ma === null) milp.row([...allOf(l), ...allOf(g).map(([c]): Cell => [c, -1])], -Infinity, 0);
		return places.map((_, p): { ma: Cell[]; start: Cell[] } => {
			const column = on[l][p];
			if (column === null) return { ma: [], start: [] };
			const carried = guests
				.filter(({ guest }) => guest.ma !== null)
				.map(({ guest, g }) => {
					const self = allOf(g);
					if (self.length === 0) return { column, guest };
					// Carried where the host hangs here and the guest does not feed itself.
					const both = milp.share();
					milp.row([[column, 1], [both, -1], ...self.map(([c]): Cell => [c, -1])], -Infinity, 0);
					follows.push([both, (x) => Math.max(0, x[column] - total(self, x))]);
					return { column: both, guest };
				});
			return {
				ma: [[column, load.ma!], ...carried.map(({ column: c, guest }): Cell => [c, guest.ma!])],
				start: [
					[column, load.startMa ?? load.ma!],
					...carried.map(({ column: c, guest }): Cell => [c, guest.startMa ?? guest.ma!])
				]
			};
		});
	});
	const at = (p: number, of: 'ma' | 'start'): Cell[] => loads.flatMap((_, l) => draws[l][p][of]);
	const scaled = (cells: readonly Cell[], by: number): Cell[] => cells.map(([c, value]) => [c, value * by]);

	/** Per cent of the fullest output or group. */
	const tight = milp.column(0, 100, true);
	const fills: { cells: Cell[]; limit: number }[] = [];
	const factor = (100 + power.margin) / 100;
	places.forEach(({ output, limit }, p) => {
		milp.atMost(scaled(at(p, 'ma'), factor), limit);
		milp.atMost(at(p, 'start'), limit);
		milp.atMost(
			on.flatMap((row): Cell[] => (row[p] === null ? [] : [[row[p], 1]])),
			output.plugs
		);
		if (limit > 0) fills.push({ cells: at(p, 'ma'), limit });
	});
	for (const supply of power.supplies) {
		for (const { id, ma } of supply.groups) {
			if (!ma) continue;
			const cells = places.flatMap((place, p) =>
				place.supply === supply && place.output.group === id ? at(p, 'ma') : []
			);
			milp.atMost(scaled(cells, factor), ma);
			fills.push({ cells, limit: ma });
		}
		if (supply.is === 'battery' && supply.mah !== null)
			milp.atMost(
				places.flatMap((place, p) => (place.supply === supply ? scaled(at(p, 'ma'), power.hours) : [])),
				supply.mah * BATTERY_SHARE
			);
	}

	for (const { cells, limit } of fills) milp.row([...scaled(cells, 100), [tight, -limit]], -Infinity, 0);
	follows.push([
		tight,
		(x) => Math.max(0, ...fills.map(({ cells, limit }) => Math.ceil((total(cells, x) * 100) / limit - 1e-9)))
	]);

	// Fed by an output of its own, or by a host that is fed.
	const fed = loads.map((load, l): { cells: Cell[]; always: boolean } => {
		const host = hosts.get(load.id);
		if (!host) return { cells: allOf(l), always: false };
		if (host.on === 'own') return { cells: [], always: true };
		const h = rowOf.get(host.id);
		const sources = [...allOf(l), ...(h === undefined ? [] : allOf(h))];
		if (sources.length === 0) return { cells: [], always: false };
		const column = milp.share();
		milp.row([[column, 1], ...sources.map(([c]): Cell => [c, -1])], -Infinity, 0);
		follows.push([column, (x) => Math.min(1, total(sources, x))]);
		return { cells: [[column, 1]], always: false };
	});
	const today = feedingToday(power);
	const stays = loads.map((load, l): { cells: Cell[]; plus: number } => {
		const now = today.get(load.id);
		// It hangs on nothing today: staying so is not being moved.
		if (!now) return { cells: allOf(l), plus: 0 };
		const p = places.findIndex(({ supply, output }) => supply.id === now.supply && output.id === now.output);
		const column = p < 0 ? null : on[l][p];
		return { cells: column === null ? [] : [[column, -1]], plus: 1 };
	});
	const used = power.supplies.map((supply) => {
		const column = milp.choice();
		const own = places.flatMap((place, p) => (place.supply === supply ? [p] : []));
		for (const p of own) {
			for (const row of on) if (row[p] !== null) milp.needs(row[p], column);
			// Said once more of each output as a whole: the bound is better by it.
			milp.row([...scaled(at(p, 'ma'), factor), [column, -places[p].limit]], -Infinity, 0);
		}
		follows.push([
			column,
			(x) => (own.some((p) => on.some((row) => row[p] !== null && x[row[p]] > 0.5)) ? 1 : 0)
		]);
		return column;
	});
	// Grounds: an isolated output is one by itself, the others of a group, or of none, are one together.
	const grounds = new Map<string, number[]>();
	places.forEach(({ supply, output }, p) => {
		const key = output.isolated
			? JSON.stringify([supply.id, 'output', output.id])
			: JSON.stringify([supply.id, 'group', output.group]);
		grounds.set(key, [...(grounds.get(key) ?? []), p]);
	});
	/** Who wants a ground of its own and has it, for each ground. */
	const alone = loads.map((load) => (load.isolated ? new Map<string, number>() : null));
	/** What all outputs of a ground give together, and how many plugs they have. */
	const roomOf = (all: readonly number[]) => {
		const [{ supply, output }] = all.map((p) => places[p]);
		const sum = all.reduce((mA, p) => mA + places[p].limit, 0);
		const group = output.isolated ? null : supply.groups.find(({ id }) => id === output.group);
		return {
			ma: group?.ma ? Math.min(sum, group.ma) : sum,
			plugs: all.reduce((plugs, p) => plugs + places[p].output.plugs, 0)
		};
	};
	/** mA that a load draws with everything that it hosts. */
	const most = (l: number) =>
		loads[l].hosts.reduce(
			(ma, { load: id }) => ma + (loads.find((each) => each.id === id)?.ma ?? 0),
			loads[l].ma ?? 0
		);
	const onGround = (l: number, all: readonly number[]): Cell[] =>
		all.flatMap((p): Cell[] => (on[l][p] === null ? [] : [[on[l][p], 1]]));
	for (const [key, all] of grounds) {
		const wanting = loads.flatMap((_, l) => {
			const mine = onGround(l, all);
			if (!alone[l] || mine.length === 0) return [];
			const column = milp.share();
			alone[l].set(key, column);
			milp.row([[column, 1], ...scaled(mine, -1)], -Infinity, 0);
			follows.push([
				column,
				(x) =>
					total(mine, x) > 0.5 && loads.every((_, m) => m === l || total(onGround(m, all), x) < 0.5) ? 1 : 0
			]);
			return [{ l, column }];
		});
		if (wanting.length === 0) continue;
		// Said of the ground as a whole, too, the bound is better by it: whoever is alone leaves nothing to anybody else.
		const room = roomOf(all);
		milp.atMost(
			[
				...scaled(
					all.flatMap((p) => at(p, 'ma')),
					factor
				),
				...wanting.map(({ l, column }): Cell => [column, room.ma - factor * most(l)])
			],
			room.ma
		);
		milp.atMost(
			[
				...loads.flatMap((_, m) => onGround(m, all)),
				...wanting.map(({ column }): Cell => [column, room.plugs - 1])
			],
			room.plugs
		);
		// Where one is alone there is nobody else: at most one of them, or whoever it may be.
		loads.forEach((_, m) => {
			const theirs = onGround(m, all);
			const others = wanting.flatMap(({ l, column }): Cell[] => (l === m ? [] : [[column, 1]]));
			if (theirs.length > 0 && others.length > 0) milp.atMost([...theirs, ...others], 1);
		});
	}
	const shared = loads.flatMap((_, l): Cell[] =>
		alone[l] ? [...allOf(l), ...[...alone[l].values()].map((column): Cell => [column, -1])] : []
	);
	const sum = (cells: Iterable<Cell>, plus = 0) => ({ terms: terms(cells), plus });
	const goals: Record<PowerGoal, { terms: Terms; plus: number }> = {
		unfed: sum(
			fed.flatMap(({ cells }) => scaled(cells, -1)),
			fed.filter(({ always }) => !always).length
		),
		moved: sum(
			stays.flatMap(({ cells }) => cells),
			stays.reduce((all, { plus }) => all + plus, 0)
		),
		supplies: sum(used.map((column): Cell => [column, 1])),
		shared: sum(shared),
		tightest: sum([[tight, 1]])
	};
	return {
		milp,
		goals,
		read: (values) =>
			new Map(
				loads.flatMap(({ id }, l) =>
					places.flatMap(({ supply, output }, p) =>
						on[l][p] !== null && values[on[l][p]] > 0.5
							? [[id, { supply: supply.id, output: output.id }] as const]
							: []
					)
				)
			),
		write: (feeding) => {
			const x = new Float64Array(milp.columns);
			loads.forEach(({ id }, l) => {
				const there = feeding.get(id);
				const p = places.findIndex(
					({ supply, output }) => supply.id === there?.supply && output.id === there.output
				);
				const column = p < 0 ? null : on[l][p];
				if (column !== null) x[column] = 1;
			});
			for (const [column, value] of follows) x[column] = value(x);
			return x;
		}
	};
}

export const goalsBefore = (goal: PowerGoal): readonly PowerGoal[] =>
	POWER_GOALS.slice(0, POWER_GOALS.indexOf(goal));
