<script lang="ts">
	import Redo from '@lucide/svelte/icons/redo-2';
	import Undo from '@lucide/svelte/icons/undo-2';
	import { pageKeys, typing } from './keys.svelte';

	interface Step {
		says: string;
	}
	interface Props {
		/** Whose steps they are, as in “the last step of …”. */
		of: string;
		steps: { undo: Step | null; redo: Step | null };
		busy: boolean;
		move: (which: 'undo' | 'redo') => void;
	}
	/** The last step taken back, or made again: two buttons with what they would do, and their keys. */
	let { of, steps, busy, move }: Props = $props();

	function press(event: KeyboardEvent) {
		if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
		const key = event.key.toLowerCase();
		const which = key === 'y' || (key === 'z' && event.shiftKey) ? 'redo' : key === 'z' ? 'undo' : null;
		// A field that is being typed in undoes its own typing.
		if (!which || typing({ target: event.target } as KeyboardEvent)) return;
		event.preventDefault();
		move(which);
	}
	$effect(() =>
		pageKeys.add([
			{ key: 'Ctrl Z', says: `Undo the last step of ${of}`, run: () => move('undo') },
			{ key: 'Ctrl Shift Z', says: 'Redo it', run: () => move('redo') }
		])
	);
	const buttons = $derived([
		{ which: 'undo', title: 'Undo', step: steps.undo, Icon: Undo } as const,
		{ which: 'redo', title: 'Redo', step: steps.redo, Icon: Redo } as const
	]);
</script>

<svelte:window onkeydown={press} />

<div class="flex min-w-0 flex-wrap items-center gap-2" role="group" aria-label={`Steps of ${of}`}>
	{#each buttons as { which, title, step, Icon } (which)}
		{#if step || which === 'undo'}
			<button class="btn max-w-80 btn-sm" disabled={!step || busy} onclick={() => move(which)}
				><Icon size={14} class="shrink-0" /><span class="truncate">{title}{step ? `: ${step.says}` : ''}</span
				></button
			>
		{/if}
	{/each}
</div>
