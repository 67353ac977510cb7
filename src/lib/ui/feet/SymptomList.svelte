<script lang="ts">
	import { causesOf, SYMPTOMS, type FootLine, type Symptom } from '$lib/core/pedal';
	import type { OpenFloor } from './open-floor.svelte';

	/** What somebody complains of, and what may be behind it, the likeliest first. */
	let { open, line }: { open: OpenFloor; line: FootLine } = $props();
	let chosen = $state<Symptom | ''>('');
	const causes = $derived(chosen ? causesOf(open.floor, line, chosen) : []);
	const id = $derived(`symptom-${line.id}`);
</script>

<div class="min-w-0">
	<label class="small-print" for={id}>What is wrong with it?</label>
	<select {id} class="select w-52 select-xs" bind:value={chosen}>
		<option value="">Nothing</option>
		{#each Object.entries(SYMPTOMS) as [key, words] (key)}<option value={key}>{words}</option>{/each}
	</select>
	{#if chosen}
		{#if causes.length === 0}
			<p class="mt-1">Nothing that is known of this line would do that.</p>
		{:else}
			<ol class="mt-1 ml-5 flex max-w-prose list-decimal flex-col gap-1">
				{#each causes as { says, likely, test } (says)}
					<li>
						<span class="tabular-nums">{Math.round(likely * 100)} %</span> · {says}.
						<span class="small-print">{test}</span>
					</li>
				{/each}
			</ol>
			<p class="small-print mt-1">
				Each was put into the circuit and shows this; how likely says how often such things are the cause, not
				what was seen here.
			</p>
		{/if}
	{/if}
</div>
