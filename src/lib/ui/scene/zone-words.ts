import type { SentTo, ZoneFinding } from '../../core/scene';
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
