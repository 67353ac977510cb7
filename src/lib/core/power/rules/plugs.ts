import { specification, type Load } from '../power';
import { at, pull, hand, out, byOutput, names, type Ground, type Rule } from './rule';

export const outputTwice: Rule = {
	id: 'output-twice',
	find: (ground) =>
		byOutput(ground).flatMap((all) =>
			all.length > all[0].output.plugs
				? [
						{
							severity: 'danger' as const,
							loads: all.map(({ load }) => load.id),
							supply: all[0].supply.id,
							says: `${at(all[0])} has ${all[0].output.plugs === 1 ? 'one plug' : `${all[0].output.plugs} plugs`}; ${names(all)} are noted at it.`,
							cure: out(ground, all[all.length - 1])
						}
					]
				: []
		)
};

export const fedTwice: Rule = {
	id: 'fed-twice',
	find: (ground) =>
		ground.power.loads.flatMap((load) => {
			const all = ground.fed.filter((fed) => fed.load === load);
			if (all.length < 2 || all.some(({ cable }) => cable.through === 'doubling')) return [];
			return [
				{
					severity: 'danger' as const,
					loads: [load.id],
					supply: all[0].supply.id,
					says: `${load.name} is noted at ${all.map(at).join(' and ')}: it has one socket.`,
					cure: {
						says: `Leave it at ${at(all[0])}.`,
						edits: pull(
							ground.power,
							all.slice(1).map(({ cable }) => cable)
						)
					}
				}
			];
		})
};

export const doubling: Rule = {
	id: 'doubling',
	find: (ground) =>
		ground.power.loads.flatMap((load) => {
			const ends = ground.fed.filter((fed) => fed.load === load && fed.cable.through === 'doubling');
			if (ends.length === 0) return [];
			return [
				{
					severity: 'warning' as const,
					loads: [load.id],
					supply: ends[0].supply.id,
					says: `${load.name} hangs on a doubling cable at ${ends.map(at).join(' and ')}: what two outputs give together only the supply’s maker can say.`,
					cure: {
						says: `Pull ${load.name} out, and plan anew.`,
						edits: pull(
							ground.power,
							ends.map(({ cable }) => cable)
						)
					}
				}
			];
		})
};

export const sharedGround: Rule = {
	id: 'shared-ground',
	find: (ground) =>
		ground.fed.flatMap((fed) => {
			const { load, supply, output } = fed;
			if (load.audio !== 'sensitive' && !load.isolated) return [];
			const beside = ground.fed.filter(
				(other) =>
					other !== fed &&
					other.supply === supply &&
					(other.output === output ||
						(!output.isolated && !other.output.isolated && other.output.group === output.group)) &&
					(load.isolated || other.load.audio === 'digital')
			);
			if (beside.length === 0) return [];
			return [
				{
					severity: 'warning' as const,
					loads: [load.id, ...beside.map((other) => other.load.id)],
					supply: supply.id,
					says: `${load.name} shares its ground at ${supply.name} with ${names(beside)}${beside.some((other) => other.load.audio === 'digital') ? ', which is digital: it may whine' : ''}.`,
					cure: out(ground, fed)
				}
			];
		})
};

/** Whether a load is fed by a host, or by its host’s: not where boxes host one another in a ring. */
function isCarried({ hostOf, isFed }: Ground, load: Load): boolean {
	const seen = new Set([load.id]);
	let host = hostOf.get(load.id);
	while (host && !isFed(host) && host.on !== 'own' && hostOf.has(host.id)) {
		if (seen.has(host.id)) return false;
		seen.add(host.id);
		host = hostOf.get(host.id);
	}
	return host !== undefined;
}

export const unfed: Rule = {
	id: 'unfed',
	find: (ground) =>
		ground.power.loads
			// What hangs on a host that nothing feeds is told of with that host.
			.filter((load) => load.on !== 'own' && !ground.isFed(load) && !isCarried(ground, load))
			.map((load) => ({
				severity: 'warning' as const,
				loads: [load.id],
				supply: null,
				says: `Nothing feeds ${load.name} (${specification(load, load.ma, load.isolated)}).`,
				cure: hand('Plan anew, or note which output it hangs on.')
			}))
};
