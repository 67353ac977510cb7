import { invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';

/**
 * Loads the page's data again. A navigation that is under way goes first, and so does one that took its place meanwhile:
 * invalidating would call it off.
 */
export async function refresh(): Promise<void> {
	let before: Promise<void> | null = null;
	for (let now = navigating.complete; now && now !== before; now = navigating.complete) {
		before = now;
		await now.catch(() => undefined);
	}
	await invalidateAll();
}
