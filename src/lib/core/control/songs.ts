import { applyEdits, type Edit } from '../edit';
import { linksOf, type ControlMap, type Told } from './map';
import { meantBy, toldWords } from './target-words';
import { listEdits, usualChannel } from './written';

/** The songs of a map, a line each: `The Slow Eclipse: Cutoff ch 4; Level ch 4`. */
export const songsText = (map: ControlMap): string =>
	map.songs
		.map(({ name, touches }) => `${name}: ${touches.map((told) => toldWords(map, told)).join('; ')}`)
		.join('\n');

/** The channel on which a target is told already. */
const toldOn = (map: ControlMap, list: string, target: string): number | undefined =>
	linksOf(map).find((link) => link.list === list && link.target === target)?.channel;

/** What was meant by written songs: the edits that note them, or what is not understood of which line. */
export type SongsMeant = { edits: Edit[] } | { faults: string[] };

/** Reads songs, a line each: a name, a colon, and what is touched in its order, with semicolons between. */
export function songsMeant(map: ControlMap, text: string): SongsMeant {
	const faults: string[] = [];
	const edits: Edit[] = [];
	/** The map with what its lists gain on the way. */
	let now = map;
	const songs: ControlMap['songs'] = [];
	text.split('\n').forEach((line, i) => {
		if (line.trim() === '') return;
		const colon = line.indexOf(':');
		const name = (colon < 0 ? '' : line.slice(0, colon)).trim();
		if (name.length > 80) faults.push(`Line ${i + 1}: a song’s name has at most 80 characters.`);
		const touches = line
			.slice(colon + 1)
			.split(';')
			.map((word) => word.trim())
			.filter(Boolean)
			.flatMap((word): Told[] => {
				const meant = meantBy(now, word);
				if (meant.is !== 'target') {
					faults.push(
						`Line ${i + 1}: ${meant.is === 'unknown' ? meant.says : 'A dash is nothing to touch.'}`
					);
					return [];
				}
				const added = listEdits(now, meant.list, meant.adds);
				edits.push(...added);
				now = applyEdits(now, added);
				const { list, target } = meant;
				const channel = meant.channel ?? toldOn(map, list, target) ?? usualChannel(now, list, null);
				return [{ list, target, channel }];
			});
		songs.push({ name, touches });
	});
	return faults.length > 0 ? { faults } : { edits: [...edits, { path: ['songs'], value: songs }] };
}
