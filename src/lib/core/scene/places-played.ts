import type { Dropped } from './performance';
import { sceneKey } from './place';
import type { PlayedThrough, Sounded } from './play-through';

/** What a channel of an instrument played of a stream; channel 0 for its own keys. */
export interface PlacePlayed {
	instrument: string;
	channel: number;
	notes: number;
	/** The lowest and the highest, the softest and the hardest. */
	keys: [number, number];
	velocities: [number, number];
	/** Notes at once. */
	most: number;
	/** Notes that ended for others: the instrument had no more voices. */
	cut: number;
}

/** Keys that made no note for one reason. */
export type KeysDropped = Pick<Dropped, 'zone' | 'instrument' | 'why'> & { keys: number };

/** The most intervals that are open at once; one that ends when another begins is over by then. */
export function mostAtOnce(notes: readonly Pick<Sounded, 'atMs' | 'untilMs'>[]): number {
	const turns = notes
		.flatMap(({ atMs, untilMs }) => [
			{ at: atMs, by: 1 },
			{ at: Math.max(untilMs, atMs), by: -1 }
		])
		.sort((a, b) => a.at - b.at || a.by - b.by);
	let [now, most] = [0, 0];
	for (const { by } of turns) most = Math.max(most, (now += by));
	return most;
}

const span = (values: readonly number[]): [number, number] =>
	values.reduce(([low, high], value) => [Math.min(low, value), Math.max(high, value)], [Infinity, -Infinity]);

/** A stream that was played through, by the places that played it, and by the reasons why keys made no note. */
export function placesPlayed({ notes, dropped }: Pick<PlayedThrough, 'notes' | 'dropped'>): {
	places: PlacePlayed[];
	dropped: KeysDropped[];
} {
	const places = new Map<string, Sounded[]>();
	for (const note of notes) {
		const key = sceneKey(note.instrument, note.channel);
		const own = places.get(key);
		if (own) own.push(note);
		else places.set(key, [note]);
	}
	const reasons = new Map<string, KeysDropped>();
	for (const { zone, instrument, why } of dropped) {
		const key = JSON.stringify([zone, instrument, why]);
		const known = reasons.get(key);
		if (known) known.keys++;
		else reasons.set(key, { zone, instrument, why, keys: 1 });
	}
	return {
		places: [...places.values()].map((own) => ({
			instrument: own[0].instrument,
			channel: own[0].channel,
			notes: own.length,
			keys: span(own.map(({ note }) => note)),
			velocities: span(own.map(({ velocity }) => velocity)),
			most: mostAtOnce(own),
			cut: own.filter(({ cut }) => cut).length
		})),
		dropped: [...reasons.values()]
	};
}
