import type { Edit } from '../../edit';
import { drawOf, outputAt, outputLimit, type Feeding } from '../feeding';
import type { Load, Output, Power, PowerCable, Supply } from '../power';

export interface PowerFinding {
	rule: string;
	/** `danger`: it may destroy something or not work at all; `unknown`: the label must be read first. */
	severity: 'danger' | 'warning' | 'unknown' | 'note';
	/** Loads that it is about. */
	loads: string[];
	supply: string | null;
	says: string;
	/** What puts it right; without edits, what a hand does or finds out. */
	cure: { says: string; edits: Edit[] };
}

/** A cable whose two ends are there. */
export interface Fed {
	cable: PowerCable;
	load: Load;
	supply: Supply;
	output: Output;
}

export interface Ground {
	power: Power;
	fed: Fed[];
	/** Hosted load → its host. */
	hostOf: Map<string, Load>;
	/** What a load takes from its output, with what it hosts; null where a label must be read, or two outputs share it. */
	takes(load: Load, of: 'ma' | 'startMa'): number | null;
	/** A cable of its own feeds it. */
	isFed(load: Load): boolean;
}

/** How things hang today, as every rule wants it. */
export function groundOf(power: Power): Ground {
	const loads = new Map(power.loads.map((load) => [load.id, load]));
	const fed = power.cables.flatMap((cable): Fed[] => {
		const load = loads.get(cable.load);
		const found = outputAt(power, cable);
		return load && found ? [{ cable, load, ...found }] : [];
	});
	const today: Feeding = new Map(fed.map(({ load, cable }) => [load.id, cable]));
	// How two outputs share what a doubling cable draws, nobody has said.
	const doubled = new Set(fed.filter(({ cable }) => cable.through === 'doubling').map(({ load }) => load.id));
	return {
		power,
		fed,
		hostOf: new Map(power.loads.flatMap((host) => host.hosts.map(({ load }) => [load, host] as const))),
		isFed: (load) => today.has(load.id),
		takes: (load, of) => (doubled.has(load.id) ? null : drawOf(power, today, load)[of])
	};
}

/** mA of an output as it is noted: whether a hub has its own supply is asked by a rule of its own. */
export const limitOf = (supply: Supply, output: Output): number | null =>
	supply.powered === null ? output.ma : outputLimit(supply, output);
export const at = ({ supply, output }: Pick<Fed, 'supply' | 'output'>) => `${supply.name} ${output.name}`;
export const sumOf = (parts: readonly (number | null)[]): number | null =>
	parts.reduce<number | null>((sum, part) => (sum === null || part === null ? null : sum + part), 0);

export const pull = (power: Power, cables: readonly PowerCable[]): Edit[] => [
	{ path: ['cables'], value: power.cables.filter((cable) => !cables.includes(cable)) }
];
export const hand = (says: string) => ({ says, edits: [] });
export const out = (ground: Ground, { cable, load }: Fed) => ({
	says: `Pull ${load.name} out, and plan anew.`,
	edits: pull(ground.power, [cable])
});

export interface Rule {
	id: string;
	find(ground: Ground): Omit<PowerFinding, 'rule'>[];
}
/** A rule about single cables. */
export const eachCable = (
	id: string,
	find: (fed: Fed, ground: Ground) => Omit<PowerFinding, 'rule' | 'loads' | 'supply'> | null
): Rule => ({
	id,
	find: (ground) =>
		ground.fed.flatMap((fed) => {
			const found = find(fed, ground);
			return found ? [{ ...found, loads: [fed.load.id], supply: fed.supply.id }] : [];
		})
});

/** Everything that draws from an output. */
export const byOutput = (ground: Ground): Fed[][] => {
	const groups = new Map<string, Fed[]>();
	for (const fed of ground.fed) {
		const key = JSON.stringify([fed.supply.id, fed.output.id]);
		groups.set(key, [...(groups.get(key) ?? []), fed]);
	}
	return [...groups.values()];
};
export const names = (fed: readonly Fed[]) => fed.map(({ load }) => load.name).join(', ');
