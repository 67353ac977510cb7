<script lang="ts">
	import { meantBy } from '$lib/core/control';
	import AskBar from './AskBar.svelte';
	import type { OpenMap } from './open-map.svelte';
	import type { Teaching } from './teaching.svelte';

	interface Props {
		open: OpenMap;
		teaching: Teaching;
		page: number;
		learn: () => void;
	}
	/** Targets first, then one control after another: what is asked for, and whose turn it is. */
	let { open, teaching, page, learn }: Props = $props();
	const { word } = $derived(open.map.surface.pages);
	const learnt = $derived(open.map.learnt.some((each) => each.page === page));
	let fault = $state('');

	function begin(event: SubmitEvent & { currentTarget: HTMLFormElement }) {
		event.preventDefault();
		const words = String(new FormData(event.currentTarget).get('targets') ?? '')
			.split(';')
			.map((each) => each.trim())
			.filter(Boolean);
		const meant = words.map((each) => meantBy(open.map, each)).find(({ is }) => is !== 'target');
		fault =
			words.length === 0
				? 'Write what is to be told.'
				: meant?.is === 'unknown'
					? meant.says
					: meant
						? 'A dash is nothing to tell.'
						: '';
		if (!fault) teaching.beginQuick(words);
	}
</script>

<AskBar label="Quick map">
	{#if !learnt}
		<p role="status">
			Nothing is learnt of {word}
			{page} yet: nobody knows which control speaks. Learn it first, or write on the strips.
		</p>
		<button class="btn mt-2 btn-primary btn-sm" onclick={learn}>Learn</button>
	{:else if teaching.quick}
		<p role="status" class="text-lg">{teaching.quick.says}</p>
	{:else}
		<form class="flex flex-wrap items-end gap-2" onsubmit={begin}>
			<div class="field min-w-0 flex-1">
				<label for="quick-targets">Targets in the order in which their controls are touched</label>
				<!-- svelte-ignore a11y_autofocus -->
				<input
					id="quick-targets"
					name="targets"
					class="input w-full input-sm"
					placeholder="Cutoff; Level ch 4; CC 20"
					autofocus
					aria-invalid={fault ? 'true' : undefined}
					aria-describedby={fault ? 'quick-fault' : undefined}
				/>
			</div>
			<button class="btn btn-primary btn-sm">Begin</button>
		</form>
		{#if fault}<p id="quick-fault" role="alert" class="mt-1 text-rust">{fault}</p>{/if}
	{/if}
	<button class="btn mt-2 btn-ghost btn-sm" onclick={() => teaching.rest()}
		>{teaching.quick && teaching.quick.taken.length >= teaching.quick.wanted.length ? 'Done' : 'Stop'}</button
	>
</AskBar>
