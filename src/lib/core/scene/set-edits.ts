import type { Edit } from '../edit';
import { partAt, type Part, type ShowSet, type Song } from './set';
import type { Instrument, Player, Zone } from './setup';

/** What changes of an entry, or how that follows from what it is by then: edits that wait for others lose nothing of them. */
export type Change<T> = Partial<T> | ((now: T) => Partial<T>);
const changed = <T>(now: T, change: Change<T>): Partial<T> =>
	typeof change === 'function' ? change(now) : change;

/** Edits of the entry with an id of a list at a path; none where it is not there any more. */
function ofEntry<T extends { id: string }>(
	path: Edit['path'],
	list: readonly T[],
	id: string,
	change: Change<T>
): Edit[] {
	const at = list.findIndex((each) => each.id === id);
	return at < 0
		? []
		: Object.entries(changed(list[at], change)).map(([key, value]): Edit => ({
				path: [...path, at, key],
				value
			}));
}

export const inZone = ({ setup: { zones } }: ShowSet, { id }: Pick<Zone, 'id'>, change: Change<Zone>) =>
	ofEntry(['setup', 'zones'], zones, id, change);
export const inPlayer = (
	{ setup: { players } }: ShowSet,
	{ id }: Pick<Player, 'id'>,
	change: Change<Player>
) => ofEntry(['setup', 'players'], players, id, change);
export const inInstrument = (
	{ setup: { instruments } }: ShowSet,
	{ id }: Pick<Instrument, 'id'>,
	change: Change<Instrument>
) => ofEntry(['setup', 'instruments'], instruments, id, change);
export const inSong = ({ songs }: ShowSet, { id }: Pick<Song, 'id'>, change: Change<Song>) =>
	ofEntry(['songs'], songs, id, change);

/** Edits of what a channel of an instrument plays, said already or not. */
export function inPart(set: ShowSet, instrument: string, channel: number, change: Change<Part>): Edit[] {
	const at = set.parts.findIndex((part) => part.instrument === instrument && part.channel === channel);
	const now = partAt(set, instrument, channel);
	return [{ path: ['parts', at < 0 ? set.parts.length : at], value: { ...now, ...changed(now, change) } }];
}
