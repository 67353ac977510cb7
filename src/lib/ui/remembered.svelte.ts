import { browser } from '$app/environment';

const PREFIX = 'silent-drawer.draft.';

/** What was written under a key in this tab and not stored, or null. */
export const readDraft = (key: string): string | null =>
	browser ? sessionStorage.getItem(PREFIX + key) : null;

/** Keeps what is written in this tab over reloads; null forgets it. */
export function writeDraft(key: string, text: string | null): void {
	try {
		if (text === null) sessionStorage.removeItem(PREFIX + key);
		else sessionStorage.setItem(PREFIX + key, text);
	} catch {
		// More than the browser keeps (a long file): then it lasts as long as the page, and nothing older comes back.
		sessionStorage.removeItem(PREFIX + key);
	}
}

/** A value of a page that was not stored yet: it is still there after leaving the page, a reload, or an update from elsewhere. */
export interface Remembered<T> {
	value: T;
	/** Begins anew; for when it was stored, or is not wanted any more. */
	forget(initial?: T): void;
}

/**
 * Remembers a value in this tab, by its key. Made while a component is set up; `value` may be bound to fields.
 * @param initial what it is where nothing was typed or ticked: it must be JSON
 */
export function remembered<T>(key: string, initial: T): Remembered<T> {
	let begun = $state(JSON.stringify(initial));
	const kept = readDraft(key);
	let value = $state<T>(JSON.parse(kept ?? begun) as T);
	const now = $derived(JSON.stringify(value));
	$effect(() => writeDraft(key, now === begun ? null : now));
	return {
		get value() {
			return value;
		},
		set value(to) {
			value = to;
		},
		forget(to) {
			if (to !== undefined) begun = JSON.stringify(to);
			value = JSON.parse(begun) as T;
		}
	};
}
