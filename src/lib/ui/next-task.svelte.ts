import { onMount } from 'svelte';

/**
 * How many of so many parts of a component may be drawn by now: all of them at once, or one after the other, each in a
 * task of its own after the one that brings the component, so that hand and eye are not kept waiting for all of them at
 * one go. To be called while the component is made.
 */
export function inTasks(parts: number, atOnce: boolean): { readonly drawn: number } {
	let drawn = $state(atOnce ? parts : 0);
	onMount(() => {
		let soon: ReturnType<typeof setTimeout>;
		const next = () => {
			if (drawn >= parts) return;
			soon = setTimeout(() => {
				drawn++;
				next();
			});
		};
		next();
		return () => clearTimeout(soon);
	});
	return {
		get drawn() {
			return drawn;
		}
	};
}

/** Whether the long part of a component may be drawn: at once where it is short, else in the next task. */
export function nextTask(short: boolean): { readonly due: boolean } {
	const long = inTasks(1, short);
	return {
		get due() {
			return long.drawn === 1;
		}
	};
}
