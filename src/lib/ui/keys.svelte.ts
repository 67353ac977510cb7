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

/** Whether a key press belongs to a field that is being typed in, or to an open dialog. */
export function typing(event: KeyboardEvent): boolean {
	if (event.ctrlKey || event.metaKey || event.altKey) return true;
	return (
		event.target instanceof Element &&
		event.target.closest(
			'input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable], dialog[open]'
		) !== null
	);
}
