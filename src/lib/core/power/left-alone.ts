import type { Load, Output, Power, Supply } from './power';

/** A task without what hangs somewhere and whose label nobody has read: that stays, and nothing else uses its output. */
export interface KnownPart {
	power: Power;
	/** Loads that stay as they hang, with what must be read or looked at. */
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

/** What stands on no label yet, of an output and of whatever it hangs on itself. */
export function unreadOutput(supply: Supply, output: Output): string[] {
	const name = `${supply.name} ${output.name}`;
	const bus = supply.is === 'usb' || supply.is === 'hub';
	const group = supply.groups.find(({ id }) => id === output.group);
	return [
		...(supply.is === 'hub' && supply.powered === null ? [`whether ${supply.name} has its own supply`] : []),
		...(output.ma === null && supply.powered !== 'bus' ? [`mA of ${name}`] : []),
		...(bus || output.volts.length > 0 ? [] : [`volts of ${name}`]),
		...(bus || output.kind !== null ? [] : [`AC or DC of ${name}`]),
		...(bus || output.kind === 'AC' || output.polarity !== null ? [] : [`polarity of ${name}`]),
		...(supply.is === 'battery' && supply.mah === null ? [`mAh of ${supply.name}`] : []),
		...(output.group !== null && !group?.ma ? [`what the group of ${name} shares`] : [])
	];
}

/** Cuts a task down to what labels say: never is something unread moved, or counted on. */
export function knownPart(power: Power): KnownPart {
	const hangs = (id: string) => power.cables.some(({ load }) => load === id);
	const left = power.loads
		.filter(({ id, on }) => on !== 'own' && hangs(id))
		.map((load) => ({
			load,
			read: [
				...unreadOf(power, load),
				...power.cables
					.filter((cable) => cable.load === load.id)
					.flatMap((cable) => {
						// What such a cable does only its label, and the supply's maker, can say.
						const special = cable.through === 'plain' ? [] : [`the ${cable.through} cable of ${load.name}`];
						const supply = power.supplies.find(({ id }) => id === cable.supply);
						const output = supply?.outputs.find(({ id }) => id === cable.output);
						return [...special, ...(supply && output ? unreadOutput(supply, output) : [])];
					})
			]
		}))
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
