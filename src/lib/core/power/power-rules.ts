import type { Edit } from '../edit';
import {
	BATTERY_SHARE,
	BUS_HUB_MA,
	POLARITIES,
	specification,
	type Load,
	type Output,
	type Power,
	type PowerCable,
	type Supply
} from './power';

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

interface Fed {
	cable: PowerCable;
	load: Load;
	supply: Supply;
	output: Output;
}

interface Ground {
	power: Power;
	fed: Fed[];
	/** Hosted load → its host. */
	hostOf: Map<string, Load>;
	/** What a load takes from its output, with what it hosts; null where a label must be read. */
	takes(load: Load, of: 'ma' | 'startMa'): number | null;
	/** A cable of its own feeds it. */
	isFed(load: Load): boolean;
}

function groundOf(power: Power): Ground {
	const loads = new Map(power.loads.map((load) => [load.id, load]));
	const fed = power.cables.flatMap((cable): Fed[] => {
		const load = loads.get(cable.load);
		const supply = power.supplies.find(({ id }) => id === cable.supply);
		const output = supply?.outputs.find(({ id }) => id === cable.output);
		return load && supply && output ? [{ cable, load, supply, output }] : [];
	});
	const hostOf = new Map(power.loads.flatMap((host) => host.hosts.map(({ load }) => [load, host] as const)));
	const isFed = (load: Load) => fed.some((each) => each.load === load);
	const takes = (load: Load, of: 'ma' | 'startMa'): number | null => {
		let sum = of === 'startMa' ? (load.startMa ?? load.ma) : load.ma;
		for (const { load: guest } of load.hosts) {
			const hosted = loads.get(guest);
			if (!hosted || hosted.on === 'own' || (hosted.selfFeeds && isFed(hosted))) continue;
			const more = of === 'startMa' ? (hosted.startMa ?? hosted.ma) : hosted.ma;
			sum = sum === null || more === null ? null : sum + more;
		}
		return sum;
	};
	return { power, fed, hostOf, takes, isFed };
}

const limitOf = (supply: Supply, output: Output): number | null =>
	supply.is === 'hub' && supply.powered === 'bus' ? Math.min(output.ma ?? BUS_HUB_MA, BUS_HUB_MA) : output.ma;
const usb = (supply: Supply) => supply.is === 'usb' || supply.is === 'hub';
const at = ({ supply, output }: Pick<Fed, 'supply' | 'output'>) => `${supply.name} ${output.name}`;
const sumOf = (parts: readonly (number | null)[]): number | null =>
	parts.reduce<number | null>((sum, part) => (sum === null || part === null ? null : sum + part), 0);

const pull = (power: Power, cables: readonly PowerCable[]): Edit[] => [
	{ path: ['cables'], value: power.cables.filter((cable) => !cables.includes(cable)) }
];
const hand = (says: string) => ({ says, edits: [] });
const out = (ground: Ground, { cable, load }: Fed) => ({
	says: `Pull ${load.name} out, and plan anew.`,
	edits: pull(ground.power, [cable])
});

interface Rule {
	id: string;
	find(ground: Ground): Omit<PowerFinding, 'rule'>[];
}
/** A rule about single cables. */
const eachCable = (
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
const byOutput = (ground: Ground): Fed[][] => {
	const groups = new Map<string, Fed[]>();
	for (const fed of ground.fed) {
		const key = JSON.stringify([fed.supply.id, fed.output.id]);
		groups.set(key, [...(groups.get(key) ?? []), fed]);
	}
	return [...groups.values()];
};
const names = (fed: readonly Fed[]) => fed.map(({ load }) => load.name).join(', ');

const RULES: readonly Rule[] = [
	eachCable('volts', (fed, ground) => {
		const { load, output, supply } = fed;
		if (usb(supply) || load.volts === null || output.volts.length === 0) return null;
		const [low, high] = load.volts;
		if (output.volts.some((each) => each >= low && each <= high))
			return output.volts.length > 1 && !output.volts.every((each) => each >= low && each <= high)
				? {
						severity: 'note',
						says: `${at(fed)} can be set to ${output.volts.join(', ')} V; ${load.name} takes ${low === high ? low : `${low} to ${high}`} V.`,
						cure: hand('Set the output before the plug goes in.')
					}
				: null;
		return {
			severity: 'danger',
			says: `${at(fed)} gives ${output.volts.join(' or ')} V; ${load.name} takes ${low === high ? low : `${low} to ${high}`} V.`,
			cure: out(ground, fed)
		};
	}),
	eachCable('ac-dc', (fed, ground) =>
		fed.load.kind && fed.output.kind && fed.load.kind !== fed.output.kind && !usb(fed.supply)
			? {
					severity: 'danger',
					says: `${at(fed)} gives ${fed.output.kind}; ${fed.load.name} takes ${fed.load.kind}.`,
					cure: out(ground, fed)
				}
			: null
	),
	eachCable('polarity', (fed, ground) => {
		const { load, output, cable, supply } = fed;
		if (usb(supply) || load.kind === 'AC' || !load.polarity || !output.polarity) return null;
		if (load.polarity === 'none' || output.polarity === 'none') return null;
		const turned = cable.through === 'reversing';
		if ((load.polarity === output.polarity) !== turned) return null;
		return {
			severity: 'danger',
			says: turned
				? `The reversing cable turns ${POLARITIES[output.polarity]} round, and ${load.name} wants it as it comes.`
				: `${at(fed)} is ${POLARITIES[output.polarity]}; ${load.name} is ${POLARITIES[load.polarity]}. Wrong polarity can destroy it.`,
			cure: out(ground, fed)
		};
	}),
	{
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
	},
	{
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
	},
	{
		id: 'group-limit',
		find: (ground) =>
			ground.power.supplies.flatMap((supply) =>
				supply.groups.flatMap(({ id, ma }) => {
					const all = ground.fed.filter((fed) => fed.supply === supply && fed.output.group === id);
					const sum = sumOf(all.map(({ load }) => ground.takes(load, 'ma')));
					if (
						ma === null ||
						sum === null ||
						all.length === 0 ||
						sum * (100 + ground.power.margin) <= ma * 100
					)
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
	},
	{
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
	},
	{
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
	},
	eachCable('doubling', (fed, ground) =>
		fed.cable.through === 'doubling'
			? {
					severity: 'warning',
					says: `${fed.load.name} hangs on a doubling cable at ${at(fed)}: what two outputs give together only the supply’s maker can say.`,
					cure: out(ground, fed)
				}
			: null
	),
	{
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
	},
	{
		id: 'hosted-load',
		find: (ground) =>
			ground.power.loads.flatMap((host) => {
				const guests = host.hosts.flatMap(({ load }) => ground.power.loads.filter(({ id }) => id === load));
				const carried = guests.filter(
					(guest) => guest.on !== 'own' && !(guest.selfFeeds && ground.isFed(guest))
				);
				const [fed] = ground.fed.filter(({ load }) => load === host);
				const limit = fed ? limitOf(fed.supply, fed.output) : null;
				const [own, all] = [host.ma, ground.takes(host, 'ma')];
				if (!fed || carried.length === 0 || limit === null || own === null || all === null) return [];
				const left = limit * 100;
				// Alone it would be fed well; with its guests it is not.
				if (own * (100 + ground.power.margin) > left || all * (100 + ground.power.margin) <= left) return [];
				const can = carried.filter(({ selfFeeds }) => selfFeeds);
				return [
					{
						severity: all > limit ? ('danger' as const) : ('warning' as const),
						loads: [host.id, ...carried.map(({ id }) => id)],
						supply: fed.supply.id,
						says: `${host.name} carries ${carried.map(({ name, ma }) => `${name} (${ma} mA)`).join(', ')} besides its own ${own} mA; ${at(fed)} gives ${limit} mA. ${carried[0].name} may restart again and again, or half work.`,
						cure: hand(
							can.length > 0
								? `Give ${can.map(({ name }) => name).join(', ')} a supply of its own, or ${host.name} an output of ${Math.ceil((all * (100 + ground.power.margin)) / 100)} mA: plan anew.`
								: `Give ${host.name} an output of at least ${Math.ceil((all * (100 + ground.power.margin)) / 100)} mA: plan anew.`
						)
					}
				];
			})
	},
	{
		id: 'adapter-end',
		find: ({ power }) =>
			hostFinding(
				power,
				({ adapter }) => adapter === 'wrong end',
				(host, guest, path) => ({
					severity: 'warning',
					says: `The adapter between ${host.name} and ${guest} has its host end at the device: nothing is fed, and nothing speaks.`,
					cure: { says: 'Turn it round.', edits: [{ path: [...path, 'adapter'], value: 'host end' }] }
				})
			)
	},
	{
		id: 'host-mode',
		find: ({ power }) =>
			hostFinding(
				power,
				({ mode }) => mode !== 'on',
				(host, guest, path, { mode }) => ({
					severity: mode === null ? 'unknown' : 'warning',
					says:
						mode === null
							? `Whether the host mode of ${host.name} is on, nobody has noted: without it ${guest} gets nothing.`
							: `The host mode of ${host.name} is off: ${guest} gets nothing from it.`,
					cure: {
						says: mode === null ? 'Look, and note it as on.' : 'Switch it on.',
						edits: [{ path: [...path, 'mode'], value: 'on' }]
					}
				})
			)
	},
	{
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
	},
	{
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
	},
	{
		id: 'read-the-label',
		find: ({ fed, takes }) =>
			fed.flatMap(({ load, supply, output }) => {
				const missing = [
					...(usb(supply)
						? []
						: [
								...(load.volts === null ? [`volts of ${load.name}`] : []),
								...(load.kind === null ? [`AC or DC of ${load.name}`] : []),
								...(load.polarity === null && load.kind !== 'AC' ? [`polarity of ${load.name}`] : []),
								...(output.volts.length === 0 ? [`volts of ${supply.name} ${output.name}`] : []),
								...(output.kind === null ? [`AC or DC of ${supply.name} ${output.name}`] : []),
								...(output.polarity === null && output.kind !== 'AC'
									? [`polarity of ${supply.name} ${output.name}`]
									: [])
							]),
					...(load.ma === null ? [`mA of ${load.name}`] : []),
					...(load.ma !== null && takes(load, 'ma') === null
						? [`mA of what is plugged in to ${load.name}`]
						: []),
					...(limitOf(supply, output) === null ? [`mA of ${supply.name} ${output.name}`] : []),
					...(supply.is === 'battery' && supply.mah === null ? [`mAh of ${supply.name}`] : []),
					...(output.group !== null && !(supply.groups.find(({ id }) => id === output.group)?.ma ?? null)
						? [`what the group of ${supply.name} ${output.name} shares`]
						: [])
				];
				return missing.length > 0
					? [
							{
								severity: 'unknown' as const,
								loads: [load.id],
								supply: supply.id,
								says: `Not known: ${missing.join('; ')}.`,
								cure: hand('Read the label, and note it. Nothing is assumed until then.')
							}
						]
					: [];
			})
	},
	{
		id: 'unfed',
		find: ({ power, hostOf, isFed }) =>
			power.loads
				.filter((load) => load.on !== 'own' && !isFed(load) && !hostOf.has(load.id))
				.map((load) => ({
					severity: 'warning' as const,
					loads: [load.id],
					supply: null,
					says: `Nothing feeds ${load.name} (${specification(load, load.ma, load.isolated)}).`,
					cure: hand('Plan anew, or note which output it hangs on.')
				}))
	},
	{
		id: 'socket-kind',
		find: (ground) =>
			ground.fed
				.filter(({ load, supply }) =>
					usb(supply) ? load.on !== 'usb' : load.on === 'usb' && !load.selfFeeds
				)
				.map((fed) => ({
					severity: 'danger' as const,
					loads: [fed.load.id],
					supply: fed.supply.id,
					says: usb(fed.supply)
						? `${at(fed)} is USB; ${fed.load.name} is not fed by USB.`
						: `${fed.load.name} is fed by USB alone; ${at(fed)} is no USB socket.`,
					cure: out(ground, fed)
				}))
	}
];

function hostFinding(
	power: Power,
	which: (host: Load['hosts'][number]) => boolean,
	find: (
		host: Load,
		guest: string,
		path: (string | number)[],
		entry: Load['hosts'][number]
	) => Pick<PowerFinding, 'severity' | 'says' | 'cure'>
): Omit<PowerFinding, 'rule'>[] {
	return power.loads.flatMap((host, h) =>
		host.hosts.flatMap((entry, e) => {
			if (!which(entry)) return [];
			const guest = power.loads.find(({ id }) => id === entry.load)?.name ?? 'the device';
			return [
				{
					...find(host, guest, ['loads', h, 'hosts', e], entry),
					loads: [host.id, entry.load],
					supply: null
				}
			];
		})
	);
}

const ORDER = ['danger', 'warning', 'unknown', 'note'];

/** The ids of all rules. */
export const POWER_RULES = RULES.map(({ id }) => id);

/** Everything that is wrong with how things are fed, or not known; the worst first. */
export function checkPower(power: Power): PowerFinding[] {
	const ground = groundOf(power);
	return RULES.flatMap(({ id, find }) => find(ground).map((found) => ({ rule: id, ...found }))).sort(
		(a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity)
	);
}
