import { outputAt } from './feeding';
import type { Load, Power } from './power';
import { unreadOf } from './unread';

/** A task without what hangs somewhere and whose label nobody has read: that stays, and nothing else uses its output. */
export interface KnownPart {
	power: Power;
	/** Loads that stay as they hang, with what must be read or looked at. */
	left: { load: Load; read: string[] }[];
}

/** Cuts a task down to what labels say: never is something unread moved, or counted on. */
export function knownPart(power: Power): KnownPart {
	// A cable to what is not there is none.
	const cables = power.cables.filter((cable) => outputAt(power, cable) !== null);
	const hangs = (id: string) => cables.some(({ load }) => load === id);
	const left = power.loads
		.filter(({ id, on }) => on !== 'own' && hangs(id))
		.map((load) => ({
			load,
			read: [
				...new Set(
					cables
						.filter((cable) => cable.load === load.id)
						.flatMap((cable) => {
							const at = outputAt(power, cable);
							return [
								// What such a cable does only its label, and the supply's maker, can say.
								...(cable.through === 'plain' ? [] : [`the ${cable.through} cable of ${load.name}`]),
								...(at?.supply.is === 'hub' && at.supply.powered === null
									? [`whether ${at.supply.name} has its own supply`]
									: []),
								...unreadOf(power, load, at)
							];
						})
				)
			]
		}))
		.filter(({ read }) => read.length > 0);
	const stays = new Set(left.map(({ load }) => load.id));
	const carried = new Set(left.flatMap(({ load }) => load.hosts.map((host) => host.load)));
	const taken = new Set(
		cables.filter(({ load }) => stays.has(load)).map(({ supply, output }) => JSON.stringify([supply, output]))
	);
	const gone = (id: string) => stays.has(id) || (carried.has(id) && !hangs(id));
	return {
		left,
		power: {
			...power,
			loads: power.loads.filter(({ id }) => !gone(id)),
			cables: cables.filter(({ load }) => !gone(load)),
			supplies: power.supplies.map((supply) => ({
				...supply,
				outputs: supply.outputs.filter(({ id }) => !taken.has(JSON.stringify([supply.id, id])))
			}))
		}
	};
}
