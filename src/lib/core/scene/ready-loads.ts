import type { ReadyItem } from './ready-item';
import { hand } from './rules/rule';
import { instrumentName, type ShowSet } from './set';
import { askedOf, loadInWords, type ShowLoads } from './show-loads';

const inSeconds = (ms: number) => `${Math.ceil(ms / 1000)} s`;

/** What has to be written into instruments, and what cannot be arranged so. */
export function loadItems(set: ShowSet, { loadings, open, crowded, torn, edits }: ShowLoads): ReadyItem[] {
	const songScenes = (id: string | undefined) => set.songs.find((song) => song.id === id)?.scenes ?? [];
	const of = (id: string) => instrumentName(set, id);
	return [
		...loadings.flatMap((loading): ReadyItem[] => {
			const { instrument, before, loads, ms } = loading;
			const scenes = songScenes(before?.id);
			const takes = ms === null ? '' : `, about ${inSeconds(ms)}`;
			const pause = set.songs.find(({ id }) => id === before?.id)?.pauseSeconds ?? null;
			const late = ms !== null && pause !== null && ms > pause * 1000;
			return [
				{
					kind: before === null ? 'missing' : 'hand',
					scenes,
					says:
						before === null
							? `${of(instrument)} lacks ${loads.length === 1 ? 'a sound' : `${loads.length} sounds`} of its drawer: load ${loadInWords(loading)}${takes}.`
							: `Before ${before.name}: load ${loadInWords(loading)} of ${of(instrument)}${takes}.`,
					cure: { says: `Put the load of ${of(instrument)} in the tray`, edits: [], load: askedOf(loading) }
				},
				...(late
					? [
							{
								kind: 'missing' as const,
								scenes,
								says: `The load of ${of(instrument)} before ${before!.name} takes about ${inSeconds(ms)}, and the pause has ${pause} s.`,
								cure: hand('Make the pause longer, or let more slots be written for the show.')
							}
						]
					: [])
			];
		}),
		...crowded.map(({ instrument, song, slots }): ReadyItem => ({
			kind: 'missing',
			scenes: [],
			says: `${song} wants more sounds of ${of(instrument)} at once than the ${slots} slots that may be written.`,
			cure: hand('Let more slots be written for the show, under Zones, Players and instruments.')
		})),
		...torn.map(({ scene, instrument, sound }): ReadyItem => ({
			kind: 'missing',
			scenes: [scene],
			says: `${sound} lies in other slots of ${of(instrument)} for one song of scene ${scene} than for another.`,
			cure: hand('Store the scene once more, for the later song.')
		})),
		...open.map((instrument): ReadyItem => ({
			kind: 'look',
			scenes: [],
			says: `Whether fewer loads of ${of(instrument)} would do was not shown.`,
			cure: hand('Nothing needs to be done.')
		})),
		...(edits.length > 0
			? [
					{
						kind: 'missing' as const,
						scenes: edits.flatMap(({ path: [of, at] }) =>
							of === 'scenes' ? [set.scenes[Number(at)].number] : []
						),
						says: 'Scenes want sounds that will be loaded into other slots.',
						cure: { says: 'Take the numbers of those slots', edits }
					}
				]
			: [])
	];
}
