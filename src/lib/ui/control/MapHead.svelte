<script lang="ts">
	import Redo from '@lucide/svelte/icons/redo-2';
	import Undo from '@lucide/svelte/icons/undo-2';
	import { pageKeys, typing } from '../keys.svelte';
	import When from '../When.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** A map's name, its surface, its walks, and the steps that can be taken back. */
	let { open }: { open: OpenMap } = $props();
	const surface = $derived(open.map.surface);
	/** Pages of this map that were walked, the walk that is longest ago first. */
	const walks = $derived(
		open.map.walked
			.filter(({ page }) => open.map.pages.some(({ number }) => number === page))
			.sort((a, b) => a.at.localeCompare(b.at))
	);

	function press(event: KeyboardEvent) {
		if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
		const key = event.key.toLowerCase();
		const which = key === 'y' || (key === 'z' && event.shiftKey) ? 'redo' : key === 'z' ? 'undo' : null;
		// A field that is being typed in undoes its own typing.
		if (!which || typing({ target: event.target } as KeyboardEvent)) return;
		event.preventDefault();
		void open.move(which);
	}
	$effect(() =>
		pageKeys.add([
			{ key: 'Ctrl Z', says: 'Undo the last step of this map', run: () => void open.move('undo') },
			{ key: 'Ctrl Shift Z', says: 'Redo it', run: () => void open.move('redo') }
		])
	);
	const buttons = $derived([
		{ which: 'undo', title: 'Undo', step: open.steps.undo, Icon: Undo } as const,
		{ which: 'redo', title: 'Redo', step: open.steps.redo, Icon: Redo } as const
	]);
</script>

<svelte:window onkeydown={press} />

<header class="mb-4 flex flex-wrap items-start gap-3">
	<div class="min-w-0 flex-1">
		<h1 class="break-words">{open.map.name}</h1>
		<p class="small-print">
			<a href="/control">Maps</a> · {`${surface.maker} ${surface.model}`.trim()} ·
			{#if walks.length === 0}never walked{:else}{walks.length} of {open.map.pages.length} walked{walks.some(
					({ world }) => world === 'bench'
				)
					? ' on the bench'
					: ''}, <When at={walks[0].at} />{/if}
		</p>
	</div>
	<div class="flex flex-wrap gap-2" role="group" aria-label="Steps of this map">
		{#each buttons as { which, title, step, Icon } (which)}
			{#if step || which === 'undo'}
				<button
					class="btn max-w-72 btn-sm"
					disabled={!step || open.doing.busy}
					onclick={() => open.move(which)}
					><Icon size={14} class="shrink-0" /><span class="truncate"
						>{title}{step ? `: ${step.says}` : ''}</span
					></button
				>
			{/if}
		{/each}
	</div>
</header>
