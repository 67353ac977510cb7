import { browser } from '$app/environment';

export interface PageKey {
	key: string;
	says: string;
	run(): void;
}

/** The keys of the page that is open, on top of those that work everywhere. */
class PageKeys {
	/** Plain, because an effect's teardown sees reactive state as it was before. */
	readonly #sets = new Set<PageKey[]>();
	#shown = $state.raw<PageKey[]>([]);

	get all(): PageKey[] {
		return this.#shown;
	}

	/** Adds keys until the answer is called; made to be returned from an effect. */
	add(keys: PageKey[]): () => void {
		this.#sets.add(keys);
		this.#shown = [...this.#sets].flat();
		return () => {
			this.#sets.delete(keys);
			this.#shown = [...this.#sets].flat();
		};
	}
}

export const pageKeys = new PageKeys();

const KEY = 'silent-drawer.single-keys';

/** Whether single letters and digits are keys by themselves, or only with Alt (WCAG 2.1.4). */
class SingleKeys {
	on = $state(browser && localStorage.getItem(KEY) !== 'off');

	set(on: boolean): void {
		this.on = on;
		localStorage.setItem(KEY, on ? 'on' : 'off');
	}

	/** Whether a press counts as one of them. */
	allows(event: KeyboardEvent): boolean {
		return event.altKey || this.on;
	}
}

export const singleKeys = new SingleKeys();

/** Whether a key press belongs to a field that is being typed in, or to an open dialog. */
export function typing(event: KeyboardEvent): boolean {
	if (event.ctrlKey || event.metaKey) return true;
	return (
		event.target instanceof Element &&
		event.target.closest(
			'input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable], dialog[open]'
		) !== null
	);
}
