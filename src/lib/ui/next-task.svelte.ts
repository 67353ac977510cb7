import { onMount } from 'svelte';

/**
 * Whether the long part of a component may be drawn: at once where it is short, else in the task after the one that
 * brings the component, so that hand and eye are not kept waiting for both at one go. To be called while it is made.
 */
export function nextTask(short: boolean): { readonly due: boolean } {
	let due = $state(short);
	onMount(() => {
		const soon = setTimeout(() => (due = true));
		return () => clearTimeout(soon);
	});
	return {
		get due() {
			return due;
		}
	};
}
