import type { ZoneFinding } from '../../core/scene';
import type { Mark } from '../StateMark.svelte';

export const FINDING_WORDS: Record<ZoneFinding['severity'], { word: string; mark: Mark }> = {
	wrong: { word: 'Wrong', mark: 'danger' },
	warning: { word: 'Look at this', mark: 'attention' },
	unknown: { word: 'Not known', mark: 'attention' },
	note: { word: 'Note', mark: 'quiet' }
};
