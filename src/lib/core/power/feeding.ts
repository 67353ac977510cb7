import { BATTERY_SHARE, BUS_HUB_MA, isBus, type Load, type Output, type Power, type Supply } from './power';

/** Which output each load hangs on; what hangs on nothing is left out. */
export type Feeding = ReadonlyMap<string, { supply: string; output: string }>;

export const POWER_GOALS = ['unfed', 'moved', 'supplies', 'shared', 'tightest'] as const;
export type PowerGoal = (typeof POWER_GOALS)[number];
export type PowerGoals = Record<PowerGoal, number>;

/** Loads that something here must feed. */
export const wantsFeeding = (load: Load): boolean => load.on !== 'own';

/** The output of a place, with its supply; null where it is not there. */
export const outputAt = (
	power: Power,
	at: { supply: string; output: string }
): { supply: Supply; output: Output } | null => {
	const supply = power.supplies.find(({ id }) => id === at.supply);
	const output = supply?.outputs.find(({ id }) => id === at.output);
	return supply && output ? { supply, output } : null;
};

/** How it is today, each load where its first cable says. */
export function feedingToday(power: Power): Feeding {
	const today = new Map<string, { supply: string; output: string }>();
	for (const { load, supply, output } of power.cables)
		if (!today.has(load)) today.set(load, { supply, output });
	return today;
}

/** Whether something of a load’s label, or of an output’s, forbids the pair, or is not known. */
function refuses(load: Load, supply: Supply, output: Output): string | null {
	if (isBus(supply)) return load.on === 'usb' ? null : 'not fed by USB';
	if (load.on === 'usb' && !load.selfFeeds) return 'fed by USB alone';
	if (load.volts === null || output.volts.length === 0) return 'volts not known';
	const [low, high] = load.volts;
	if (!output.volts.some((volts) => volts >= low && volts <= high)) return 'volts';
	if (load.kind === null || output.kind === null) return 'AC or DC not known';
	if (load.kind !== output.kind) return 'AC or DC';
	if (load.kind === 'AC') return null;
	if (load.polarity === null || output.polarity === null) return 'polarity not known';
	if (load.polarity !== output.polarity && load.polarity !== 'none' && output.polarity !== 'none')
		return 'polarity';
	return null;
}

/** Who hosts a load. */
export const hostOf = (power: Power, id: string): Load | undefined =>
	power.loads.find(({ hosts }) => hosts.some(({ load }) => load === id));

/** mA that a load takes from its own output with what it hosts, running and starting; null where a label must be read. */
export function drawOf(
	power: Power,
	feeding: Feeding,
	load: Load
): { ma: number | null; startMa: number | null } {
	let [ma, startMa] = [load.ma, load.startMa ?? load.ma];
	for (const { load: id } of load.hosts) {
		const guest = power.loads.find((each) => each.id === id);
		if (!guest || guest.on === 'own' || (guest.selfFeeds && feeding.has(id))) continue;
		ma = ma === null || guest.ma === null ? null : ma + guest.ma;
		const start = guest.startMa ?? guest.ma;
		startMa = startMa === null || start === null ? null : startMa + start;
	}
	return { ma, startMa };
}

/** mA that an output gives, as its label says, or as the bus leaves it; null where somebody must look. */
export function outputLimit(supply: Supply, output: Output): number | null {
	if (supply.is !== 'hub' || supply.powered === 'own') return output.ma;
	return supply.powered === null ? null : Math.min(BUS_HUB_MA, output.ma ?? BUS_HUB_MA);
}

interface Pool {
	what: string;
	/** mA; null where it is not known. */
	limit: number | null;
	loads: Load[];
	/** Also when switched on, and with the margin. */
	output: boolean;
}

/** Outputs and groups that something hangs on, with what hangs there. */
function poolsOf(power: Power, feeding: Feeding): Pool[] {
	const pools = new Map<string, Pool>();
	const put = (key: string, pool: Omit<Pool, 'loads'>, load: Load) => {
		const there = pools.get(key) ?? { ...pool, loads: [] };
		there.loads.push(load);
		pools.set(key, there);
	};
	for (const load of power.loads) {
		const at = feeding.get(load.id);
		const found = at && outputAt(power, at);
		if (!found) continue;
		const { supply, output } = found;
		const limit = outputLimit(supply, output);
		put(`o ${supply.id} ${output.id}`, { what: `${supply.name} ${output.name}`, limit, output: true }, load);
		if (output.group === null) continue;
		const group = supply.groups.find(({ id }) => id === output.group);
		put(
			`g ${supply.id} ${output.group}`,
			{ what: `the group ${output.group} of ${supply.name}`, limit: group?.ma ?? null, output: false },
			load
		);
	}
	return [...pools.values()];
}

/** Why a feeding is none: empty where it keeps every rule. Counted from the labels alone, apart from what makes plans. */
export function faultsOfFeeding(power: Power, feeding: Feeding): string[] {
	const faults: string[] = [];
	for (const [id, at] of feeding) {
		const load = power.loads.find((each) => each.id === id);
		const found = outputAt(power, at);
		if (!load || !found) {
			faults.push(`${id} hangs on something that is not there.`);
			continue;
		}
		if (!wantsFeeding(load)) faults.push(`${load.name} has a supply of its own.`);
		const why = refuses(load, found.supply, found.output);
		if (why) faults.push(`${load.name} at ${found.supply.name} ${found.output.name}: ${why}.`);
		if (hostOf(power, id) && !load.selfFeeds) faults.push(`${load.name} is fed by its host alone.`);
	}
	for (const { what, limit, loads, output } of poolsOf(power, feeding)) {
		const all = loads.map((load) => drawOf(power, feeding, load));
		if (limit === null || all.some(({ ma }) => ma === null)) {
			faults.push(`${what}: read the labels.`);
			continue;
		}
		const running = all.reduce((sum, { ma }) => sum + ma!, 0);
		const starting = all.reduce((sum, { startMa }) => sum + startMa!, 0);
		if (running * (100 + power.margin) > limit * 100) faults.push(`${what}: ${running} of ${limit} mA.`);
		if (output && starting > limit) faults.push(`${what}: ${starting} of ${limit} mA when switched on.`);
	}
	const plugs = new Map<string, number>();
	for (const at of feeding.values()) {
		const key = JSON.stringify([at.supply, at.output]);
		plugs.set(key, (plugs.get(key) ?? 0) + 1);
		if (plugs.get(key)! > (outputAt(power, at)?.output.plugs ?? 0))
			faults.push(`${key} has not so many plugs.`);
	}
	for (const supply of power.supplies.filter(({ is }) => is === 'battery')) {
		const on = power.loads.filter(({ id }) => feeding.get(id)?.supply === supply.id);
		if (on.length === 0) continue;
		const sum = on.reduce((all, load) => all + (drawOf(power, feeding, load).ma ?? Infinity), 0);
		if (supply.mah === null || sum * power.hours > supply.mah * BATTERY_SHARE)
			faults.push(`${supply.name} does not last.`);
	}
	return faults;
}

/** Whom a load shares its ground with: an isolated output with what hangs on it, any other with its group of that supply. */
function groundOf(power: Power, at: { supply: string; output: string }): string {
	const found = outputAt(power, at)!;
	return JSON.stringify(
		found.output.isolated ? [at.supply, 'output', at.output] : [at.supply, 'group', found.output.group]
	);
}

/** The goals of a feeding, in the order in which they matter. */
export function countPower(power: Power, feeding: Feeding): PowerGoals {
	const today = feedingToday(power);
	const loads = power.loads.filter(wantsFeeding);
	const fed = (load: Load): boolean => {
		if (feeding.has(load.id)) return true;
		const host = hostOf(power, load.id);
		return host !== undefined && (host.on === 'own' || feeding.has(host.id));
	};
	const same = (id: string) => {
		const [a, b] = [today.get(id), feeding.get(id)];
		return a?.supply === b?.supply && a?.output === b?.output;
	};
	const grounds = new Map<string, number>();
	for (const at of feeding.values()) {
		const key = groundOf(power, at);
		grounds.set(key, (grounds.get(key) ?? 0) + 1);
	}
	let tightest = 0;
	for (const { limit, loads: on } of poolsOf(power, feeding)) {
		const sum = on.reduce((all, load) => all + (drawOf(power, feeding, load).ma ?? 0), 0);
		if (limit) tightest = Math.max(tightest, Math.ceil((sum * 100) / limit - 1e-9));
	}
	return {
		unfed: loads.filter((load) => !fed(load)).length,
		moved: loads.filter(({ id }) => !same(id)).length,
		supplies: new Set([...feeding.values()].map(({ supply }) => supply)).size,
		shared: loads.filter((load) => {
			const at = feeding.get(load.id);
			return load.isolated && at !== undefined && grounds.get(groundOf(power, at))! > 1;
		}).length,
		tightest
	};
}
