import { inZone } from '../set-edits';
import { eachZone, meet, type Rule, type ZoneFinding } from './rule';

export const floorAboveCeiling = eachZone('floor above ceiling', (zone, _, { set }) =>
	zone.floor <= zone.ceiling
		? null
		: {
				severity: 'wrong',
				says: `${zone.name}: the floor (${zone.floor}) is above the ceiling (${zone.ceiling}); every note sounds at ${zone.ceiling}.`,
				cure: {
					says: 'Exchange them',
					edits: inZone(set, zone, { floor: zone.ceiling, ceiling: zone.floor })
				}
			}
);

export const fullFloor = eachZone('floor at full', (zone, player, { set }) =>
	zone.floor < 127 || zone.ceiling < 127 || !player.touch || zone.curve === 'full'
		? null
		: {
				severity: 'warning',
				says: `${zone.name}: with its floor at 127 every note is full, however ${player.name} is struck.`,
				cure: { says: 'Floor 1', edits: inZone(set, zone, { floor: 1 }) }
			}
);

/** Velocities that none of the zones of a key plays, between some that they do. */
export const velocityGap: Rule = {
	id: 'velocity gap',
	find: ({ set, on }) =>
		on.flatMap(({ zone, player }): Omit<ZoneFinding, 'rule'>[] => {
			if (zone.struck[1] === 127) return [];
			const layered = on.filter(
				(each) => each.player === player && each.zone !== zone && meet(each.zone.keys, zone.keys)
			);
			if (
				layered.some(
					({ zone: other }) => other.struck[0] <= zone.struck[1] + 1 && other.struck[1] > zone.struck[1]
				)
			)
				return [];
			const next = layered
				.filter(({ zone: other }) => other.struck[0] > zone.struck[1])
				.sort((a, b) => a.zone.struck[0] - b.zone.struck[0])[0]?.zone;
			if (!next) return [];
			return [
				{
					severity: 'warning',
					zones: [zone.id, next.id],
					says: `Struck with ${zone.struck[1] + 1}–${next.struck[0] - 1}, neither ${zone.name} nor ${next.name} plays.`,
					cure: {
						says: `${zone.name} up to ${next.struck[0] - 1}`,
						edits: inZone(set, zone, { struck: [zone.struck[0], next.struck[0] - 1] })
					}
				}
			];
		})
};
