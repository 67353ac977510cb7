import type { Edit } from '../../edit';
import { partsPlayed } from '../scene-change';
import { deskOf, type Part, type ShowSet } from '../set';
import type { Instrument, Player, Zone } from '../setup';

export interface ZoneFinding {
	rule: string;
	/** `unknown`: somebody must find out. */
	severity: 'wrong' | 'warning' | 'unknown' | 'note';
	/** Zones that it is about. */
	zones: string[];
	says: string;
	/** What puts it right; without edits, what a hand does or finds out. */
	cure: { says: string; edits: Edit[] };
}

/** What the wiring says of the ways between players and instruments. */
export interface SceneWiring {
	/** What keeps a message that a player sends on a channel from an instrument; null where it arrives; undefined where one of them is no device. */
	stops: (player: Player, channel: number, instrument: Instrument) => string | null | undefined;
	/** Who else would play what a player sends on a channel, by name; whether it answers every channel. */
	hears: (player: Player, channel: number) => { device: string; name: string; omni: boolean }[];
}

export interface SceneGround {
	set: ShowSet;
	/** Zones that are switched on, with their players. */
	on: { zone: Zone; player: Player }[];
	instrument: (id: string) => Instrument | undefined;
	/** What it wants of the channels that it plays, each once, and the zones that are on and lead there. */
	parts: (Part & { of: Instrument; zones: string[] })[];
	wiring: SceneWiring | null;
}

export interface Rule {
	id: string;
	find(ground: SceneGround): Omit<ZoneFinding, 'rule'>[];
}

export function groundOf(set: ShowSet, wiring: SceneWiring | null): SceneGround {
	const players = new Map(set.setup.players.map((player) => [player.id, player]));
	const instruments = new Map(set.setup.instruments.map((each) => [each.id, each]));
	const on = set.setup.zones.flatMap((zone) => {
		const player = players.get(zone.player);
		return zone.on && player ? [{ zone, player }] : [];
	});
	return {
		set,
		wiring,
		instrument: (id) => instruments.get(id),
		on,
		parts: partsPlayed(set, deskOf(set)).flatMap((part) => {
			const of = instruments.get(part.instrument);
			const leads = on.filter(({ zone }) =>
				zone.to.some((to) => to.instrument === part.instrument && to.channel === part.channel)
			);
			return of ? [{ ...part, of, zones: leads.map(({ zone }) => zone.id) }] : [];
		})
	};
}

export const hand = (says: string) => ({ says, edits: [] });
/** A rule about zones one by one. */
export const eachZone = (
	id: string,
	find: (zone: Zone, player: Player, ground: SceneGround) => Omit<ZoneFinding, 'rule' | 'zones'> | null
): Rule => ({
	id,
	find: (ground) =>
		ground.on.flatMap(({ zone, player }) => {
			const found = find(zone, player, ground);
			return found ? [{ ...found, zones: [zone.id] }] : [];
		})
});

/** A rule about zones and each place that they play. */
export const eachPlace = (
	id: string,
	find: (
		place: { zone: Zone; player: Player; instrument: Instrument; channel: number },
		ground: SceneGround
	) => Omit<ZoneFinding, 'rule' | 'zones'> | null
): Rule => ({
	id,
	find: (ground) =>
		ground.on.flatMap(({ zone, player }) =>
			zone.to.flatMap(({ instrument: of, channel }) => {
				const instrument = ground.instrument(of);
				const found = instrument && find({ zone, player, instrument, channel }, ground);
				return found ? [{ ...found, zones: [zone.id] }] : [];
			})
		)
});

/** A rule about the parts that the desk plays, each once. */
export const eachPart = (
	id: string,
	find: (
		part: SceneGround['parts'][number],
		ground: SceneGround
	) => Omit<ZoneFinding, 'rule' | 'zones'> | null
): Rule => ({
	id,
	find: (ground) =>
		ground.parts.flatMap((part) => {
			const found = find(part, ground);
			return found ? [{ ...found, zones: part.zones }] : [];
		})
});

/** Two lists of numbers from–to meet. */
export const meet = (a: readonly number[], b: readonly number[]) => a[0] <= b[1] && b[0] <= a[1];
export const shift = ({ octaves, semitones }: Zone) => 12 * octaves + semitones;
