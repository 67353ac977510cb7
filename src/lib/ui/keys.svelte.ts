import { untrack } from 'svelte';

export interface PageKey {
	key: string;
	says: string;
	run(): void;
}

/** The keys of the page that is open, on top of those that work everywhere. */
class PageKeys {
	#sets = $state.raw<PageKey[][]>([]);

	get all(): PageKey[] {
		return this.#sets.flat();
	}

	/** Adds keys until the answer is called; made to be returned from an effect. */
	add(keys: PageKey[]): () => void {
		this.#sets = [...untrack(() => this.#sets), keys];
		return () => {
			this.#sets = untrack(() => this.#sets).filter((set) => set !== keys);
		};
	}
}

export const pageKeys = new PageKeys();

/** Whether a key press belongs to a field that is being typed in, or to an open dialog. */
export function typing(event: KeyboardEvent): boolean {
	const target = event.target as HTMLElement | null;
	if (event.ctrlKey || event.metaKey || event.altKey) return true;
	return target?.closest('input, textarea, select, [contenteditable], dialog[open]') !== null && target?.closest('input, textarea, select, [contenteditable], dialog[open]') !== undefined;
}
