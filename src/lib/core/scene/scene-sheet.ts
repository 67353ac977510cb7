import { keysName } from './key-names';
import { placesOf } from './scene-change';
import { instrumentName, partAt, type Scene, type ShowSet } from './set';

/** What a range of keys plays in a scene, for paper. */
export interface SheetRow {
	player: string;
	keys: string;
	/** The zone, or the keyboard's own sound. */
	zone: string;
	/** Instruments with what they play, one after another. */
	plays: string[];
	/** What else there is to know at the keys. */
	besides: string;
}

const shifted = (octaves: number, semitones: number): string =>
	[
		octaves === 0 ? '' : `${octaves > 0 ? '+' : '−'}${Math.abs(octaves)} oct`,
		semitones === 0 ? '' : `${semitones > 0 ? '+' : '−'}${Math.abs(semitones)} st`
	]
		.filter(Boolean)
		.join(' ');

/** What each range of keys plays in a scene, from the lowest key of each player on. */
export function sheetRows(set: ShowSet, scene: Scene): SheetRow[] {
	const { players } = set.setup;
	const plays = (instrument: string, channel: number) => {
		const { sound, volume } = partAt(scene, instrument, channel);
		return `${instrumentName(set, instrument)} ${channel}: ${sound?.name ?? 'whatever it plays'}${volume === null ? '' : `, ${volume} %`}`;
	};
	return players.flatMap((player) => {
		const own = player.own;
		const local =
			own !== null && (scene.local[player.id] ?? player.local)
				? placesOf({ setup: { ...set.setup, players: [player] } }, { zones: [], local: scene.local })
				: [];
		const zones = scene.zones
			.filter(({ on, player: of }) => on && of === player.id)
			.sort((a, b) => a.keys[0] - b.keys[0] || a.keys[1] - b.keys[1]);
		return [
			...local.map(({ instrument, channel }) => ({
				player: player.name,
				keys: keysName(player.keys),
				zone: 'its own sound',
				plays: [plays(instrument, channel)],
				besides: ''
			})),
			...zones.map((zone) => ({
				player: player.name,
				keys: keysName(zone.keys),
				zone: zone.name,
				plays: zone.to.map(({ instrument, channel }) => plays(instrument, channel)),
				besides: [
					shifted(zone.octaves, zone.semitones),
					zone.struck[0] > 1 || zone.struck[1] < 127 ? `struck ${zone.struck[0]}–${zone.struck[1]}` : '',
					zone.leaves ? `out while controller ${zone.leaves.controller} is ${zone.leaves.when}` : '',
					zone.expression === 'nothing' ? '' : `expression does ${zone.expression}`
				]
					.filter(Boolean)
					.join(', ')
			}))
		];
	});
}
