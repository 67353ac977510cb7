import { BATTERY_SHARE, BUS_HUB_MA } from '../power';
import { at, sumOf, hand, out, byOutput, names, limitOf, type Rule } from './rule';

export const current: Rule = {
	id: 'current',
	find: (ground) =>
		byOutput(ground).flatMap((all) => {
			const limit = limitOf(all[0].supply, all[0].output);
			const sum = sumOf(all.map(({ load }) => ground.takes(load, 'ma')));
			if (limit === null || sum === null || sum * (100 + ground.power.margin) <= limit * 100) return [];
			const hosted = all.some(({ load }) => load.hosts.length > 0 && load.ma !== ground.takes(load, 'ma'));
			// What a box hosts is told of by a rule of its own.
			if (all.length === 1 && hosted && all[0].load.ma! * (100 + ground.power.margin) <= limit * 100)
				return [];
			return [
				{
					severity: sum > limit ? ('danger' as const) : ('warning' as const),
					loads: all.map(({ load }) => load.id),
					supply: all[0].supply.id,
					says: `${at(all[0])} gives ${limit} mA; ${names(all)} ${all.length > 1 ? 'take' : 'takes'} ${sum} mA${hosted ? ' with what is plugged in to it' : ''}${sum > limit ? '.' : `: less than ${ground.power.margin} % is left.`}`,
					cure: out(ground, all[all.length - 1])
				}
			];
		})
};

export const start: Rule = {
	id: 'start',
	find: (ground) =>
		byOutput(ground).flatMap((all) => {
			const limit = limitOf(all[0].supply, all[0].output);
			const running = sumOf(all.map(({ load }) => ground.takes(load, 'ma')));
			const start = sumOf(all.map(({ load }) => ground.takes(load, 'startMa')));
			if (limit === null || start === null || running === null || start <= limit || running > limit)
				return [];
			return [
				{
					severity: 'warning' as const,
					loads: all.map(({ load }) => load.id),
					supply: all[0].supply.id,
					says: `${names(all)} ${all.length > 1 ? 'take' : 'takes'} ${start} mA when switched on; ${at(all[0])} gives ${limit} mA.`,
					cure: out(ground, all[all.length - 1])
				}
			];
		})
};

export const groupLimit: Rule = {
	id: 'group-limit',
	find: (ground) =>
		ground.power.supplies.flatMap((supply) =>
			supply.groups.flatMap(({ id, ma }) => {
				const all = ground.fed.filter((fed) => fed.supply === supply && fed.output.group === id);
				const sum = sumOf(all.map(({ load }) => ground.takes(load, 'ma')));
				if (ma === null || sum === null || all.length === 0 || sum * (100 + ground.power.margin) <= ma * 100)
					return [];
				return [
					{
						severity: sum > ma ? ('danger' as const) : ('warning' as const),
						loads: all.map(({ load }) => load.id),
						supply: supply.id,
						says: `${names(all)} together take ${sum} mA; the outputs ${[...new Set(all.map(({ output }) => output.name))].join(', ')} of ${supply.name} share ${ma} mA.`,
						cure: out(ground, all[all.length - 1])
					}
				];
			})
		)
};

export const hub: Rule = {
	id: 'hub',
	find: ({ power, fed, takes }) =>
		power.supplies
			.filter(({ is, powered }) => is === 'hub' && powered !== 'own')
			.flatMap((hub) => {
				const all = fed.filter(({ supply }) => supply === hub);
				const hungry = all.filter(({ load }) => (takes(load, 'ma') ?? 0) > BUS_HUB_MA);
				if (hub.powered === 'bus' ? hungry.length === 0 : all.length === 0) return [];
				return [
					{
						severity: hub.powered === 'bus' ? ('warning' as const) : ('unknown' as const),
						loads: (hub.powered === 'bus' ? hungry : all).map(({ load }) => load.id),
						supply: hub.id,
						says:
							hub.powered === 'bus'
								? `${hub.name} has no supply of its own: ${BUS_HUB_MA} mA a port, and ${hungry.map(({ load }) => `${load.name} takes ${takes(load, 'ma')} mA`).join(', ')}.`
								: `Whether ${hub.name} has its own supply, nobody has noted: without it, it gives ${BUS_HUB_MA} mA a port.`,
						cure: hand('Plug the hub’s own supply in, and note it.')
					}
				];
			})
};

export const battery: Rule = {
	id: 'battery',
	find: ({ power, fed, takes }) =>
		power.supplies
			.filter(({ is, mah }) => is === 'battery' && mah !== null)
			.flatMap((battery) => {
				const all = fed.filter(({ supply }) => supply === battery);
				const sum = sumOf(all.map(({ load }) => takes(load, 'ma')));
				if (!sum) return [];
				const hours = (battery.mah! * BATTERY_SHARE) / sum;
				return hours < power.hours
					? [
							{
								severity: 'warning' as const,
								loads: all.map(({ load }) => load.id),
								supply: battery.id,
								says: `${battery.name} lasts about ${hours.toFixed(1)} hours with ${names(all)} (${sum} mA); ${power.hours} are wanted.`,
								cure: hand('Take something off it, or a larger one; have a second one charged.')
							}
						]
					: [];
			})
};
