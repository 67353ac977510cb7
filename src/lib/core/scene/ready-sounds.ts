import { replaceSound, soundIn } from './follow';
import type { ReadyItem } from './ready-item';
import { hand } from './rules/rule';
import { instrumentName, type ShowSet, type Sound } from './set';
import type { ShowLoads } from './show-loads';
import type { FollowedSound } from './told-set';

/** A sound with the scenes that play it. */
export type WantedSound = FollowedSound & { played: number[] };

/** Sounds of the scenes that are played, as far as their drawers are known; those that are loaded are told with their loads. */
export function soundItems(
	set: ShowSet,
	sounds: readonly WantedSound[],
	{ loadings }: ShowLoads
): ReadyItem[] {
	const keptKey = (instrument: string, { kept }: Sound) => JSON.stringify([instrument, kept]);
	const loaded = new Set(
		loadings.flatMap(({ instrument, loads }) => loads.map(({ sound }) => keptKey(instrument, sound)))
	);
	return sounds.flatMap((named): ReadyItem[] => {
		const { sound, followed, instrument, played: scenes } = named;
		const one = set.setup.instruments.find(({ id }) => id === instrument);
		const of = instrumentName(set, instrument);
		const item = (kind: ReadyItem['kind'], says: string, cure: ReadyItem['cure']): ReadyItem[] => [
			{ kind, scenes, says: `${sound.name} (${of}) ${says}`, cure }
		];
		// Nobody can have stored anything else where it was.
		if (sound.kept === null && one?.fixed) return [];
		if (sound.kept === null)
			return item(
				'unknown',
				'is no sound of a drawer: nobody can look whether it is there.',
				hand('Listen.')
			);
		const backUp = hand(`Back ${of} up: then it is known.`);
		const take = (slot: Parameters<typeof soundIn>[0], says: string): ReadyItem['cure'] => {
			const next = soundIn(slot);
			return next ? { says, edits: replaceSound(set, instrument, sound, next) } : backUp;
		};
		switch (followed.is) {
			case 'there':
				return followed.slot.state === 'proved'
					? []
					: item(
							'unknown',
							`was in ${followed.slot.label} when it was read, and that is not proved any more.`,
							backUp
						);
			case 'unknown':
				return item('unknown', 'is not known to be there.', backUp);
			case 'moved':
				return item(
					'missing',
					`is in ${followed.to[0].label} now.`,
					take(followed.to[0], `Take it from ${followed.to[0].label}`)
				);
			case 'renumbered':
				return item('missing', 'is selected by other numbers now.', take(followed.slot, 'Take these over'));
			case 'renamed':
			case 'edited':
				return item('missing', `was ${followed.is} since.`, take(followed.slot, 'Take it as it is now'));
			case 'lost':
				if (loaded.has(keptKey(instrument, sound))) return [];
				return item(
					'missing',
					`is not there: ${followed.slot.label} holds something else.`,
					hand('Bring it back from its drawer, or choose another.')
				);
		}
	});
}
