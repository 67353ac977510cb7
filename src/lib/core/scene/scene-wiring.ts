import { hostWays, indexRig, trace, type Rig, type Trace } from '../rig';
import type { SceneWiring } from './rules';
import type { Instrument, Player } from './setup';

/** The ways of a studio between players and instruments, by its wiring. */
export interface SceneWays extends SceneWiring {
	/** The computer's out that leads to an instrument, by name; null where none does. */
	line: (instrument: Instrument) => string | null;
	/** How long what a player sends on a channel takes to an instrument, ms; null where it does not arrive. */
	delayMs: (player: Player, channel: number, instrument: Instrument) => number | null;
}

/** Looks ways up in the wiring; each player's channel is traced once. */
export function sceneWays(rig: Rig): SceneWays {
	const { devices } = indexRig(rig);
	const traced = new Map<string, Trace>();
	const from = ({ device }: Player, channel: number): Trace | null => {
		if (device === null || !devices.has(device)) return null;
		const key = `${channel} ${device}`;
		let known = traced.get(key);
		if (!known) traced.set(key, (known = trace(rig, { device }, channel)));
		return known;
	};
	const outs = new Map(hostWays(rig).map(({ device, out }) => [device, out?.name ?? null]));
	return {
		line: ({ device }) => (device === null ? null : (outs.get(device) ?? null)),
		delayMs: (player, channel, { device }) =>
			from(player, channel)?.reached.find(({ id }) => id === device)?.delayMs ?? null,
		stops: (player, channel, { device }) => {
			const known = from(player, channel);
			if (!known || device === null || !devices.has(device)) return undefined;
			if (known.reached.some(({ id }) => id === device)) return null;
			return known.silent.find(({ id }) => id === device)?.stop.says ?? 'Nothing leads there.';
		},
		hears: (player, channel) =>
			(from(player, channel)?.reached ?? [])
				.filter(({ id, soft }) => !soft && id !== player.device)
				.map(({ id, name }) => ({ device: id, name, omni: devices.get(id)?.receive.omni ?? false }))
	};
}
