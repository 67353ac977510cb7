<script lang="ts">
	import { SCHOOLS, schoolsOf, type SchoolQuestion } from '$lib/core/control';
	import type { OpenMap } from './open-map.svelte';

	/** Where schools of controller maps differ: what this one does, what that costs, and what it means to be. */
	let { open }: { open: OpenMap } = $props();
	const schools = $derived(schoolsOf(open.map));
	type Ways = Record<string, { title: string; costs: string }>;
	const waysOf = (question: SchoolQuestion): Ways => SCHOOLS[question].ways;

	function mean(question: SchoolQuestion, way: string) {
		const { title } = SCHOOLS[question];
		void open.edit(
			way ? `${title}: ${waysOf(question)[way].title}, is meant` : `${title}: nothing is meant`,
			() => [{ path: ['schools', question], ...(way ? { value: way } : {}) }]
		);
	}
</script>

<details class="mt-6">
	<summary><h2 class="inline">Ways of working</h2></summary>
	<p class="small-print mt-1 max-w-prose">
		Where schools differ, none is wrong. Say which you mean, and the checks tell when the lines do otherwise.
	</p>
	<div class="overflow-x-auto">
		<table class="ledger-table mt-2">
			<thead
				><tr
					><th scope="col">Question</th><th scope="col">This map</th><th scope="col">What it costs</th><th
						scope="col">It is meant</th
					></tr
				></thead
			>
			<tbody>
				{#each schools as { question, way, says, meant } (question)}
					{@const ways = waysOf(question)}
					<tr>
						<th scope="row">{SCHOOLS[question].title}</th>
						<td>{way ? `${ways[way].title}. ` : ''}<span class="small-print">{says}</span></td>
						<td class="small-print"
							>{way
								? ways[way].costs
								: Object.values(ways)
										.map(({ title, costs }) => `${title[0].toUpperCase()}${title.slice(1)}: ${costs}`)
										.join(' ')}</td
						>
						<td
							><select
								class="select w-52 select-sm"
								aria-label={`${SCHOOLS[question].title}: what is meant`}
								value={meant ?? ''}
								onchange={(event) => mean(question, event.currentTarget.value)}
							>
								<option value="">nothing said</option>
								{#each Object.entries(ways) as [id, { title }] (id)}<option value={id}>{title}</option>{/each}
							</select></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
</details>
