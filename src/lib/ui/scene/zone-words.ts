import type { Dropped, SentTo, ZoneFinding } from '../../core/scene';
import type { Mark } from '../StateMark.svelte';

export const FINDING_WORDS: Record<ZoneFinding['severity'], { word: string; mark: Mark }> = {
	wrong: { word: 'Wrong', mark: 'danger' },
	warning: { word: 'Look at this', mark: 'attention' },
	unknown: { word: 'Not known', mark: 'attention' },
	note: { word: 'Note', mark: 'quiet' }
};

/** What became of a scene at an instrument; only what it said itself is shown. */
export const SENT_MARKS: Record<SentTo['state'], { word: string; mark: Mark }> = {
	shown: { mark: 'verified', word: 'Shown' },
	other: { mark: 'danger', word: 'Plays something else' },
	sent: { mark: 'quiet', word: 'Sent' },
	lost: { mark: 'danger', word: 'Not all sent' }
};

/** Why a key made no note. */
export const WHY_SILENT: Record<Dropped['why'], string> = {
	softer: 'it plays what is struck harder',
	harder: 'it plays what is struck softer',
	'no such note': 'there is no such note',
	'out of its range': 'the instrument does not have that note',
	'struck at nothing': 'its instrument is not there'
};
