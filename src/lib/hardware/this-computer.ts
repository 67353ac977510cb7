/** How the computer that shows the page is fed, as its browser says. */
export type Feed = { is: 'mains' } | { is: 'battery'; percent: number } | { is: 'not told' };

interface Battery extends EventTarget {
	charging: boolean;
	/** 0–1. */
	level: number;
}

const feedOf = ({ charging, level }: Battery): Feed =>
	charging ? { is: 'mains' } : { is: 'battery', percent: Math.round(level * 100) };

/**
 * Tells how the computer is fed now and whenever that changes; not all browsers say it.
 * @returns ends the telling
 */
export function watchFeed(tell: (feed: Feed) => void): () => void {
	let ended = false;
	let end = () => {};
	const ask = (navigator as { getBattery?: () => Promise<Battery> }).getBattery;
	void (async () => {
		const battery = await ask?.call(navigator).catch(() => null);
		if (ended) return;
		if (!battery) return tell({ is: 'not told' });
		const changed = () => tell(feedOf(battery));
		changed();
		for (const what of ['chargingchange', 'levelchange']) battery.addEventListener(what, changed);
		end = () => {
			for (const what of ['chargingchange', 'levelchange']) battery.removeEventListener(what, changed);
		};
	})();
	return () => {
		ended = true;
		end();
	};
}

/** Keeps the screen, and with it the computer, awake; gives what lets go of it, and null where the browser refuses. */
export async function stayAwake(): Promise<(() => void) | null> {
	try {
		const lock = await navigator.wakeLock.request('screen');
		return () => void lock.release();
	} catch {
		// Headless browsers, batteries nearly empty, pages that are not shown: it is asked of the musician anyway.
		return null;
	}
}
