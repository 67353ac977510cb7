import { inZone } from '../set-edits';
import { keyName, keysName } from '../key-names';
import { eachPlace, eachZone, meet, shift, type Rule, type ZoneFinding } from './rule';
import type { Zone } from '../setup';

/** Keys of a player between two zones that nothing plays. */
export const gap: Rule = {
	id: 'gap',
	find: ({ set, on }) =>
		set.setup.players.flatMap((player) => {
			if (player.own !== null && player.local) return [];
			const zones = on.filter((each) => each.player === player).map(({ zone }) => zone);
			const free: [number, number][] = [];
			for (let key = player.keys[0]; key <= player.keys[1]; key++) {
				if (zones.some(({ keys }) => keys[0] <= key && key <= keys[1])) continue;
				const last = free.at(-1);
				if (last?.[1] === key - 1) last[1] = key;
				else free.push([key, key]);
			}
			// Beyond the outermost zones somebody wanted the keys to be still; between them nobody does.
			return free.flatMap(([low, high]): Omit<ZoneFinding, 'rule'>[] => {
				const below = zones.find(({ keys }) => keys[1] === low - 1);
				const above = zones.find(({ keys }) => keys[0] === high + 1);
				return below && above
					? [
							{
								severity: 'warning',
								zones: [below.id, above.id],
								says: `${player.name}: ${keysName([low, high])} play nothing, between ${below.name} and ${above.name}.`,
								cure: {
									says: `${below.name} up to ${keyName(high)}`,
									edits: inZone(set, below, { keys: [below.keys[0], high] })
								}
							}
						]
					: [];
			});
		})
};

/** One key struck so hard plays two notes at one place, or two zones share a few keys at their edge. */
export const overlap: Rule = {
	id: 'overlap',
	find: ({ set, on }) =>
		on.flatMap(({ zone: a, player }, i) =>
			on.slice(i + 1).flatMap(({ zone: b, player: other }): Omit<ZoneFinding, 'rule'>[] => {
				if (player !== other || !meet(a.keys, b.keys) || !meet(a.struck, b.struck)) return [];
				const shared: [number, number] = [Math.max(a.keys[0], b.keys[0]), Math.min(a.keys[1], b.keys[1])];
				const one = a.to.some((x) =>
					b.to.some((y) => x.instrument === y.instrument && x.channel === y.channel)
				);
				const [low, high] = a.keys[0] <= b.keys[0] ? [a, b] : [b, a];
				const atEdge = low.keys[0] < shared[0] && high.keys[1] > shared[1] && low.keys[1] === shared[1];
				const few = shared[1] - shared[0] < 7;
				if (!one && !(atEdge && few)) return [];
				return [
					{
						severity: one && shift(a) === shift(b) ? 'wrong' : 'warning',
						zones: [a.id, b.id],
						says: `${a.name} and ${b.name} both play ${keysName(shared)}${one ? ' on one channel of one instrument' : ''}.`,
						cure: atEdge
							? {
									says: `${low.name} up to ${keyName(shared[0] - 1)}`,
									edits: inZone(set, low, { keys: [low.keys[0], shared[0] - 1] })
								}
							: { says: `Switch ${b.name} off`, edits: inZone(set, b, { on: false }) }
					}
				];
			})
		)
};

/** The shift by whole octaves that brings most of a zone's keys into an instrument's range, nearest first. */
function bestOctaves(zone: Zone, range: readonly number[]): { octaves: number; inside: number } {
	const inside = (octaves: number) =>
		Array.from({ length: zone.keys[1] - zone.keys[0] + 1 }, (_, i) => zone.keys[0] + i)
			.map((key) => key + 12 * octaves + zone.semitones)
			.filter((note) => note >= Math.max(0, range[0]) && note <= Math.min(127, range[1])).length;
	return Array.from({ length: 17 }, (_, i) => i - 8)
		.sort((a, b) => Math.abs(a - zone.octaves) - Math.abs(b - zone.octaves))
		.map((octaves) => ({ octaves, inside: inside(octaves) }))
		.reduce((best, each) => (each.inside > best.inside ? each : best));
}

/** Keys whose note an instrument does not have. */
export const range = eachPlace('range', ({ zone, instrument }, { set }) => {
	const first = zone.keys[0] + shift(zone);
	const last = zone.keys[1] + shift(zone);
	const low = Math.max(0, instrument.keys[0]);
	const high = Math.min(127, instrument.keys[1]);
	if (first >= low && last <= high) return null;
	const best = bestOctaves(zone, instrument.keys);
	const all = zone.keys[1] - zone.keys[0] + 1;
	const narrow: [number, number] = [
		Math.max(zone.keys[0], low - shift(zone)),
		Math.min(zone.keys[1], high - shift(zone))
	];
	return {
		severity: 'warning',
		says: `${zone.name} plays notes that ${instrument.name} does not have: ${[
			first < low ? `below ${keyName(low)}` : '',
			last > high ? `above ${keyName(high)}` : ''
		]
			.filter(Boolean)
			.join(' and ')}.`,
		cure:
			best.inside === all && best.octaves !== zone.octaves
				? {
						says: `Octave ${best.octaves > 0 ? '+' : ''}${best.octaves}`,
						edits: inZone(set, zone, { octaves: best.octaves })
					}
				: narrow[0] <= narrow[1]
					? { says: `Only ${keysName(narrow)}`, edits: inZone(set, zone, { keys: narrow }) }
					: { says: `Switch ${zone.name} off`, edits: inZone(set, zone, { on: false }) }
	};
});

/** Keys of a zone that its player does not have. */
export const beyondPlayer = eachZone('beyond the player', (zone, player, { set }) => {
	if (meet(zone.keys, player.keys)) return null;
	return {
		severity: 'warning',
		says: `${zone.name} is on ${keysName(zone.keys)}, which ${player.name} does not have.`,
		cure: { says: `All of ${player.name}’s keys`, edits: inZone(set, zone, { keys: player.keys }) }
	};
});
