import { browser } from '$app/environment';

const KEY = 'silent-drawer.theme';
type Theme = 'daylight' | 'lamplight';

/** The light in the room: chosen by hand, else by the system. */
class Light {
	theme = $state<Theme>('daylight');

	constructor() {
		if (!browser) return;
		const stored = localStorage.getItem(KEY);
		this.#show(
			stored === 'daylight' || stored === 'lamplight'
				? stored
				: matchMedia('(prefers-color-scheme: dark)').matches
					? 'lamplight'
					: 'daylight'
		);
	}

	#show(theme: Theme): void {
		this.theme = theme;
		document.documentElement.dataset.theme = theme;
	}

	toggle(): void {
		this.#show(this.theme === 'daylight' ? 'lamplight' : 'daylight');
		localStorage.setItem(KEY, this.theme);
	}
}

export const light = new Light();
