import { invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';

/** Loads the page's data again. A navigation that is under way goes first: invalidating would call it off. */
export async function refresh(): Promise<void> {
	await navigating.complete?.catch(() => undefined);
	await invalidateAll();
}
