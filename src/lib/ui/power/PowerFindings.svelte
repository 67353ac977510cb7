<script lang="ts">
	import { powerCauses, POWER_SYMPTOMS, type PowerFinding, type PowerSymptom } from '$lib/core/power';
	import type { Mark } from '../StateMark.svelte';
	import TroubleList from '../TroubleList.svelte';
	import type { OpenPower } from './open-power.svelte';

	/** What is wrong with how things are fed, or not known, each with what puts it right; and what a symptom comes from. */
	let { open }: { open: OpenPower } = $props();
	const WORDS: Record<PowerFinding['severity'], { word: string; mark: Mark }> = {
		danger: { word: 'Danger', mark: 'danger' },
		warning: { word: 'Look at this', mark: 'attention' },
		unknown: { word: 'Read the label', mark: 'attention' },
		note: { word: 'Note', mark: 'quiet' }
	};
	let [symptom, load] = $state<[PowerSymptom | '', string]>(['', '']);
	const causes = $derived(symptom ? powerCauses(open.power, symptom, load || undefined) : []);
</script>

<section aria-labelledby="power-findings">
	<h2 id="power-findings">What is wrong, or not known</h2>
	{#if open.findings.length === 0}
		<p class="mt-1">
			By the labels that are noted, nothing. Whether they are noted rightly, only the labels say.
		</p>
	{:else}
		<TroubleList
			troubles={open.findings}
			words={WORDS}
			busy={open.doing.busy}
			mend={({ says, edits }) => open.edit(says, () => edits)}
		/>
	{/if}
	<div class="mt-3 flex flex-wrap items-end gap-3">
		<div class="field">
			<label for="power-symptom">What is wrong with it?</label>
			<select id="power-symptom" class="select w-64 select-sm" bind:value={symptom}>
				<option value="">Nothing</option>
				{#each Object.entries(POWER_SYMPTOMS) as [key, words] (key)}<option value={key}>{words}</option
					>{/each}
			</select>
		</div>
		<div class="field">
			<label for="power-symptom-load">With</label>
			<select id="power-symptom-load" class="select w-56 select-sm" bind:value={load}>
				<option value="">any device</option>
				{#each open.power.loads as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
	</div>
	{#if symptom}
		<div role="status">
			{#if causes.length === 0}
				<p class="mt-2">
					Nothing in these labels and plugs would do that. Look at cables, and at what is not noted.
				</p>
			{:else}
				<ol class="mt-2 ml-5 flex max-w-prose list-decimal flex-col gap-1">
					{#each causes as { says, test }, i (i)}<li>
							{says} <span class="small-print">{test}</span>
						</li>{/each}
				</ol>
			{/if}
		</div>
	{/if}
</section>
