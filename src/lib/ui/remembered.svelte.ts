import { browser } from '$app/environment';

const PREFIX = 'silent-drawer.draft.';

/** A value of a page that was not stored yet: it is still there after leaving the page, a reload, or an update from elsewhere. */
export interface Remembered<T> {
	value: T;
	/** Whether it is other than what it began as. */
	readonly changed: boolean;
	/** Begins anew; for when it was stored, or is not wanted any more. */
	forget(initial?: T): void;
}

/**
 * Remembers a value in this tab, by its key. Made while a component is set up; `value` may be bound to fields.
 * @param initial what it is where nothing was typed or ticked: it must be JSON
 */
export function remembered<T>(key: string, initial: T): Remembered<T> {
	let begun = JSON.stringify(initial);
	const fresh = () => JSON.parse(begun) as T;
	const kept = browser ? sessionStorage.getItem(PREFIX + key) : null;
	let value = $state<T>(kept === null ? fresh() : (JSON.parse(kept) as T));
	const now = $derived(JSON.stringify(value));
	$effect(() => {
		try {
			if (now === begun) sessionStorage.removeItem(PREFIX + key);
			else sessionStorage.setItem(PREFIX + key, now);
		} catch {
			// More than the browser keeps (a long file): then it lasts as long as the page.
			sessionStorage.removeItem(PREFIX + key);
		}
	});
	return {
		get value() {
			return value;
		},
		set value(to) {
			value = to;
		},
		get changed() {
			return now !== begun;
		},
		forget(to) {
			if (to !== undefined) begun = JSON.stringify(to);
			value = fresh();
		}
	};
}
