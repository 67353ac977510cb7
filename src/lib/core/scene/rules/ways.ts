import { inPlayer, inZone } from '../set-edits';
import { eachPlace, hand, meet, type Rule, type ZoneFinding } from './rule';

/** The keys play their sound inside, and once more over a cable. */
export const localDouble = eachPlace('local and external', ({ zone, player, instrument }, { set }) =>
	player.own !== instrument.id || !player.local
		? null
		: {
				severity: 'wrong',
				says: `${player.name} plays ${instrument.name} by itself (local on), and ${zone.name} plays it again: every note comes twice.`,
				cure: { says: 'Local off', edits: inPlayer(set, player, { local: false }) }
			}
);

export const nothingThere: Rule = {
	id: 'nothing there',
	find: ({ set, on, instrument }) =>
		on.flatMap(({ zone }): Omit<ZoneFinding, 'rule'>[] => {
			const missing = zone.to.filter((place) => !instrument(place.instrument));
			if (zone.to.length > 0 && missing.length === 0) return [];
			return [
				{
					severity: 'wrong',
					zones: [zone.id],
					says:
						zone.to.length === 0
							? `${zone.name} leads to no instrument.`
							: `${zone.name} leads to an instrument that is not there any more.`,
					cure: { says: `Switch ${zone.name} off`, edits: inZone(set, zone, { on: false }) }
				}
			];
		})
};

export const away = eachPlace('away', ({ zone, instrument }, { set }) =>
	instrument.away
		? {
				severity: 'warning',
				says: `${zone.name} plays ${instrument.name}, which is noted as away or off.`,
				cure: { says: `Switch ${zone.name} off`, edits: inZone(set, zone, { on: false }) }
			}
		: null
);

export const noWay = eachPlace('no way', ({ zone, player, instrument, channel }, { wiring }) => {
	if (player.own === instrument.id) return null;
	const stops = wiring?.stops(player, channel, instrument);
	return stops == null
		? null
		: {
				severity: 'wrong',
				says: `${zone.name}: channel ${channel} of ${player.name} does not arrive at ${instrument.name}. ${stops}`,
				cure: hand('Trace it under Wiring, Problems; there it is mended.')
			};
});

/** Somebody plays along who is not meant. */
const playsAlong = (id: string, omni: boolean) =>
	eachPlace(id, ({ zone, player, channel }, { wiring, instrument, on }) => {
		const meant = new Set(
			on
				.filter((each) => each.player === player && each.zone.to.some((to) => to.channel === channel))
				.flatMap(({ zone: { to } }) => to.filter((to) => to.channel === channel))
				.map((to) => instrument(to.instrument)?.device)
		);
		const others = (wiring?.hears(player, channel) ?? []).filter(
			(each) => each.omni === omni && !meant.has(each.device)
		);
		if (others.length === 0) return null;
		const names = others.map(({ name }) => name).join(', ');
		return {
			severity: 'warning',
			says: omni
				? `${zone.name}: ${names} answers every channel, and plays channel ${channel} of ${player.name}, too.`
				: `${zone.name}: ${names} listens on channel ${channel}, and plays what ${player.name} sends there, too.`,
			cure: hand(
				omni
					? 'Set it to one channel at its panel, or give it an out of its own.'
					: 'Choose another channel for one of them.'
			)
		};
	});
export const playedToo = playsAlong('channel played too', false);
export const omniNeighbour = playsAlong('omni neighbour', true);

/** Two players on one section of one instrument. */
export const sameSection: Rule = {
	id: 'same section',
	find: ({ set, on, instrument }) =>
		on.flatMap(({ zone: a, player }, i) =>
			on.slice(i + 1).flatMap(({ zone: b, player: other }): Omit<ZoneFinding, 'rule'>[] => {
				const shared =
					player === other
						? undefined
						: a.to.find((x) => b.to.some((y) => x.instrument === y.instrument && x.channel === y.channel));
				const of = shared && instrument(shared.instrument);
				if (!shared || !of) return [];
				const used = new Set(
					on.flatMap(({ zone }) =>
						zone.to.filter((to) => to.instrument === of.id).map(({ channel }) => channel)
					)
				);
				const free = Array.from({ length: 16 }, (_, n) => n + 1).find((channel) => !used.has(channel));
				const room = free !== undefined && (of.parts === null || used.size < of.parts);
				return [
					{
						severity: 'note',
						zones: [a.id, b.id],
						says: `${player.name} and ${other.name} play one section: ${of.name}, channel ${shared.channel}. Pedals and wheels of both reach it.`,
						cure: room
							? {
									says: `${b.name} on channel ${free}`,
									edits: inZone(set, b, {
										to: b.to.map((to) =>
											to.instrument === of.id && to.channel === shared.channel ? { ...to, channel: free } : to
										)
									})
								}
							: hand(`${of.name} has no section to spare.`)
					}
				];
			})
		)
};

export const oneChannel: Rule = {
	id: 'two players on one channel',
	find: ({ set }) =>
		set.setup.players.flatMap((player, i, all): Omit<ZoneFinding, 'rule'>[] => {
			const before = all.slice(0, i).find(({ sends }) => sends !== null && sends === player.sends);
			if (!before) return [];
			const used = new Set(all.map(({ sends }) => sends));
			const free = Array.from({ length: 16 }, (_, n) => n + 1).find((channel) => !used.has(channel));
			return [
				{
					severity: 'warning',
					zones: [],
					says: `${before.name} and ${player.name} both send on channel ${player.sends}: nobody can tell who plays.`,
					cure: { says: `${player.name} on channel ${free}`, edits: inPlayer(set, player, { sends: free }) }
				}
			];
		})
};

/** A pedal that drops a layer does something else there, too. */
export const pedalTwice: Rule = {
	id: 'pedal twice',
	find: ({ set, on }) =>
		on.flatMap(({ zone, player }): Omit<ZoneFinding, 'rule'>[] => {
			if (!zone.leaves) return [];
			const { controller: leaves, ...how } = zone.leaves;
			const also = on.filter(
				(each) =>
					each.player === player &&
					meet(each.zone.keys, zone.keys) &&
					((each.zone.through.pedals && (leaves === 64 || leaves === 66)) ||
						(each.zone.through.wheels && leaves === 1) ||
						(each.zone.expression !== 'nothing' && leaves === 11))
			);
			if (also.length === 0) return [];
			const used = new Set([1, 7, 11, 64, 66, ...on.map((each) => each.zone.leaves?.controller)]);
			const free = [67, 69, 80, 81, 82, 83].find((controller) => !used.has(controller)) ?? 84;
			return [
				{
					severity: 'warning',
					zones: [...new Set([zone.id, ...also.map((each) => each.zone.id)])],
					says: `Controller ${leaves} drops ${zone.name}, and plays ${[...new Set(also.map((each) => each.zone.name))].join(', ')} as well.`,
					cure: {
						says: `Drop it by controller ${free}`,
						edits: inZone(set, zone, { leaves: { ...how, controller: free } })
					}
				}
			];
		})
};
