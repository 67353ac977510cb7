import { browser } from '$app/environment';

/** This tab among the tabs of the app: others see whether it is still there. */
export const tabId: string = browser ? crypto.randomUUID() : '';
const lockName = (id: string) => `silent-drawer tab ${id}`;

if (browser) void navigator.locks.request(lockName(tabId), () => new Promise<never>(() => undefined));

/** Whether a tab is still there: its lock goes when it does, however it goes. */
export async function isTabThere(id: string): Promise<boolean> {
	if (id === tabId) return true;
	const { held } = await navigator.locks.query();
	return held?.some(({ name }) => name === lockName(id)) ?? false;
}
