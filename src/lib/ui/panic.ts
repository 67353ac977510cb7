import { attempt } from './attempt';
import { notices } from './notices.svelte';

/** Silences everything that can be reached, and says what was done. What it takes is fetched when it is asked for. */
export const pressPanic = (): Promise<boolean> =>
	attempt(async () => {
		const { panic } = await import('../hardware/listen');
		notices.say(await panic(), 'plain');
	});
