import { isSelected, unknownPart, type Selected } from './held';
import { placesOf } from './scene-change';
import { partAt, type Desk, type ShowSet } from './set';

/** What became of a scene at one instrument. `shown`: it said that it plays what is wanted; `other`: it said something else. */
export interface SentTo {
	instrument: string;
	state: 'shown' | 'other' | 'sent' | 'lost';
	says: string;
	/** What it said that it plays, and on which channel. */
	said: { channel: number; selected: Selected } | null;
}

/** What an instrument answered: what it plays; `nothing`: it stayed silent; `unstored`: something that no program selects; null: nobody can ask it. */
export type Answer = Selected | 'nothing' | 'unstored' | null;

/**
 * What an answer says of a scene that was sent whole. One answer speaks for one part: with several channels of an instrument
 * nobody knows for which.
 * @param on the channel that it spoke of (1–16), where it said that
 */
export function readBack(
	set: Pick<ShowSet, 'setup'>,
	to: Desk,
	instrument: string,
	answer: Answer,
	on: number | null = null
): SentTo {
	const sent = (says: string): SentTo => ({ instrument, state: 'sent', says, said: null });
	if (answer === null) return sent('sent; look at its display.');
	if (answer === 'nothing') return sent('sent; it did not say what it plays. Look at its display.');
	if (answer === 'unstored') return sent('sent; it says that it plays something that is not stored.');
	const channels = placesOf(set, to).filter((place) => place.instrument === instrument);
	if (on === null && channels.length !== 1)
		return sent('sent; it plays several channels, and says only one program. Look at its display.');
	const channel = on ?? channels[0].channel;
	// As its panel counts, where that is noted.
	const counts = set.setup.instruments.find(({ id }) => id === instrument)?.counts ?? 0;
	const is = answer.program + counts;
	const said = { channel, selected: answer };
	const { sound } = partAt(to, instrument, channel);
	if (!sound) return { instrument, state: 'sent', says: `it says that it plays program ${is}.`, said };
	return isSelected(sound, { ...unknownPart, selected: answer })
		? {
				instrument,
				state: 'shown',
				says: `it says that it plays program ${is}, ${sound.name}.`,
				said
			}
		: {
				instrument,
				state: 'other',
				says: `it says that it plays program ${is}, not ${sound.program + counts}, ${sound.name}.`,
				said
			};
}
