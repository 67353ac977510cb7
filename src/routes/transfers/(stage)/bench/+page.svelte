<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { refresh } from '$lib/ui/refresh';
	import { call } from '$lib/hardware/api';
	import { desk, SPEEDS } from '$lib/hardware/desk.svelte';
	import BenchPanel from '$lib/ui/BenchPanel.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';

	let { data } = $props();
	let open = $state('');
	let model = $state('');
	const doing = new Doing();
	const shown = $derived(data.units.find(({ id }) => id === open) ?? data.units[0]);

	async function put() {
		await doing.run(async () => {
			const title = data.models.find(({ id }) => id === model)?.title ?? '';
			({ id: open } = await call<{ id: string }>('POST', '/bench/units', { profileId: model, name: title }));
			model = '';
			await refresh();
		});
	}
</script>

<svelte:head><title>Bench · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-center gap-4">
	<div class="min-w-0 flex-1 basis-72">
		<h2>Bench</h2>
		<p class="small-print">
			Simulated devices on simulated cables: to try things out, and to see what happens when something fails.
		</p>
	</div>
	<label class="flex items-center gap-2">
		<span class="small-print">Speed of the line</span>
		<select
			class="select w-44 select-sm"
			value={desk.speed}
			onchange={(event) => desk.setSpeed(Number(event.currentTarget.value))}
		>
			{#each SPEEDS as { factor, title } (factor)}<option value={factor}>{title}</option>{/each}
		</select>
	</label>
</div>
{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}

<div class="mt-4 grid gap-6 xl:grid-cols-[18rem_minmax(0,1fr)]">
	<section aria-label="Units">
		<ul class="border-t border-line">
			{#each data.units as unit (unit.id)}
				<li class="border-b border-line">
					<button
						class={[
							'block w-full px-3 py-1.5 text-left hover:bg-ground',
							unit.id === shown?.id && 'border-l-4 border-chosen bg-ground'
						]}
						aria-pressed={unit.id === shown?.id}
						onclick={() => (open = unit.id)}
					>
						<span class="plate block truncate">{unit.name}</span>
						<span class="small-print block"
							>{unit.model} · {unit.device ? `cable to “${unit.device}”` : 'no cable'}</span
						>
					</button>
				</li>
			{/each}
		</ul>
		<form class="mt-3 flex items-end gap-2" onsubmit={(event) => (event.preventDefault(), put())}>
			<div class="field flex-1">
				<label for="model">Put another one on the bench</label>
				<select id="model" class="select w-full select-sm" bind:value={model} required>
					<option value="">Choose a model</option>
					{#each data.models as entry (entry.id)}<option value={entry.id}>{entry.title}</option>{/each}
				</select>
			</div>
			<button class="btn btn-sm">Put</button>
		</form>
	</section>
	{#if shown}
		{#key shown.id}<BenchPanel unitId={shown.id} withFaults />{/key}
	{/if}
</div>
