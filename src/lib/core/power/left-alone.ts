import type { Load, Power } from './power';

/** A task without what hangs somewhere and whose label nobody has read: that stays, and nothing else uses its output. */
export interface KnownPart {
	power: Power;
	/** Loads that stay as they hang, with what must be read. */
	left: { load: Load; read: string[] }[];
}

/** What stands on no label yet, of a load and of everything that it carries. */
export function unreadOf(power: Power, load: Load): string[] {
	const socket = load.on === 'socket';
	const guests = load.hosts.flatMap(({ load: id }) => power.loads.filter((each) => each.id === id));
	return [
		...(load.ma === null ? [`mA of ${load.name}`] : []),
		...(socket && load.volts === null ? [`volts of ${load.name}`] : []),
		...(socket && load.kind === null ? [`AC or DC of ${load.name}`] : []),
		...(socket && load.kind !== 'AC' && load.polarity === null ? [`polarity of ${load.name}`] : []),
		...guests
			.filter(({ on, ma, selfFeeds }) => on !== 'own' && ma === null && !selfFeeds)
			.map(({ name }) => `mA of ${name}`)
	];
}

/** Cuts a task down to what labels say: never is something unread moved, or counted on. */
export function knownPart(power: Power): KnownPart {
	const hangs = (id: string) => power.cables.some(({ load }) => load === id);
	const left = power.loads
		.filter(({ id, on }) => on !== 'own' && hangs(id))
		.map((load) => ({ load, read: unreadOf(power, load) }))
		.filter(({ read }) => read.length > 0);
	const stays = new Set(left.map(({ load }) => load.id));
	const carried = new Set(left.flatMap(({ load }) => load.hosts.map((host) => host.load)));
	const taken = new Set(
		power.cables
			.filter(({ load }) => stays.has(load))
			.map(({ supply, output }) => JSON.stringify([supply, output]))
	);
	const gone = (id: string) => stays.has(id) || (carried.has(id) && !hangs(id));
	return {
		left,
		power: {
			...power,
			loads: power.loads.filter(({ id }) => !gone(id)),
			cables: power.cables.filter(({ load }) => !gone(load)),
			supplies: power.supplies.map((supply) => ({
				...supply,
				outputs: supply.outputs.filter(({ id }) => !taken.has(JSON.stringify([supply.id, id])))
			}))
		}
	};
}
