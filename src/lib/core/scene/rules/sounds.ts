import { inPart } from '../set-edits';
import { eachPart, hand, type Rule, type ZoneFinding } from './rule';

export const noSound = eachPart('no sound', ({ of, channel, sound }) =>
	sound
		? null
		: {
				severity: 'unknown',
				says: `${of.name}, channel ${channel}: no sound is chosen, it plays whatever stands there.`,
				cure: hand('Choose a sound, or leave it to the instrument.')
			}
);

export const countsUnknown = eachPart('counted from', ({ of, channel, sound }) =>
	sound?.from !== 'typed' || of.counts !== null
		? null
		: {
				severity: 'unknown',
				says: `${of.name}, channel ${channel}: “${sound.name}” is program ${sound.program} counted from 0, ${sound.program + 1} counted from 1; how its panel counts is not noted.`,
				cure: hand(
					'Look which number its display shows for its first program, and note it with the instrument.'
				)
			}
);

export const bankIgnored = eachPart('bank ignored', ({ of, instrument, channel, sound }, { set }) => {
	if (!sound || of.banks === null || of.banks === 'both') return null;
	const msb = of.banks !== 'msb' && sound.msb !== null;
	const lsb = of.banks !== 'lsb' && sound.lsb !== null;
	if (!msb && !lsb) return null;
	return {
		severity: 'warning',
		says: `${of.name} ignores ${msb && lsb ? 'bank select' : msb ? 'the upper half of bank select' : 'the lower half of bank select'}: “${sound.name}” may be another program than the one that is meant.`,
		cure: {
			says: 'Send no bank that it ignores',
			edits: inPart(set, instrument, channel, {
				sound: { ...sound, ...(msb ? { msb: null } : {}), ...(lsb ? { lsb: null } : {}) }
			})
		}
	};
});

export const bankWanted = eachPart('bank wanted', ({ of, instrument, channel, sound }, { set }) => {
	if (!sound || of.banks === null || of.banks === 'none') return null;
	const msb = of.banks !== 'lsb' && sound.msb === null;
	const lsb = of.banks !== 'msb' && sound.lsb === null;
	if (!msb && !lsb) return null;
	return {
		severity: 'warning',
		says: `${of.name} has banks, and “${sound.name}” names none: which one is heard depends on what was played before.`,
		cure: {
			says: 'Bank 0',
			edits: inPart(set, instrument, channel, {
				sound: { ...sound, ...(msb ? { msb: 0 } : {}), ...(lsb ? { lsb: 0 } : {}) }
			})
		}
	};
});

export const guessed = eachPart('a guess', ({ of, channel, sound }) =>
	sound?.from !== 'general midi'
		? null
		: {
				severity: 'note',
				says: `${of.name}, channel ${channel}: “${sound.name}” is what General MIDI calls program ${sound.program}; that ${of.name} follows it is a guess.`,
				cure: hand('Listen, and call it what it is.')
			}
);

export const tooLoud = eachPart('volume beyond 127', ({ of, instrument, channel, volume }, { set }) => {
	const most = Math.floor((127 * 100) / of.level);
	return volume === null || (of.level * volume) / 100 < 127.5
		? null
		: {
				severity: 'warning',
				says: `${of.name}, channel ${channel}: ${volume} % of its level of ${of.level} is beyond 127, the most that there is.`,
				cure: { says: `${most} %`, edits: inPart(set, instrument, channel, { volume: most }) }
			};
});

/** More channels of an instrument are played than it has parts. */
export const tooManyParts: Rule = {
	id: 'more parts than there are',
	find: ({ set, on }) =>
		set.setup.instruments.flatMap((of): Omit<ZoneFinding, 'rule'>[] => {
			const here = on.filter(({ zone }) => zone.to.some(({ instrument }) => instrument === of.id));
			const channels = new Set(
				here.flatMap(({ zone }) =>
					zone.to.filter(({ instrument }) => instrument === of.id).map(({ channel }) => channel)
				)
			);
			if (of.parts === null || channels.size <= of.parts) return [];
			return [
				{
					severity: 'wrong',
					zones: here.map(({ zone }) => zone.id),
					says: `${of.name} has ${of.parts === 1 ? 'one part' : `${of.parts} parts`}, and ${channels.size} channels of it are played.`,
					cure: hand('Let two zones share a channel and its sound, or take another instrument.')
				}
			];
		})
};
