<script lang="ts">
	import FilePick from '$lib/ui/FilePick.svelte';
	import { goto } from '$app/navigation';
	import { call } from '$lib/hardware/api';
	import { attempt } from '$lib/ui/attempt';
	import { Doing } from '$lib/ui/doing.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { refresh } from '$lib/ui/refresh';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	const doing = new Doing();
	let name = $state('');
	// svelte-ignore state_referenced_locally
	let surface = $state(data.surfaces[0]?.id ?? '');
	const chosen = $derived(data.surfaces.find(({ id }) => id === surface));

	const make = (order: unknown) =>
		doing.run(async () => {
			const { id } = await call<{ id: string }>('POST', '/maps', order);
			await goto(`/control/${id}`);
		});
	function begin(event: SubmitEvent) {
		event.preventDefault();
		if (chosen) void make({ from: 'surface', surface, name: name.trim() || `Map of ${chosen.title}` });
	}
	async function takeOver(file: File) {
		const text = await file.text();
		let document: unknown;
		try {
			document = JSON.parse(text);
		} catch {
			doing.problem = {
				message: `${file.name} is not JSON.`,
				remedy: 'Choose a file that “Map file” has written.'
			};
			return;
		}
		await make({ from: 'document', document });
	}
	const remove = (id: string, title: string) =>
		attempt(async () => {
			await call('DELETE', `/maps/${id}`);
			await refresh();
			notices.say(`“${title}” is taken away.`, 'good', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'POST', path: `/maps/${id}/back` }],
					says: `“${title}” is back.`
				}
			});
		});
</script>

<svelte:head><title>Control · Silent Drawer</title></svelte:head>

{#if data.maps.length === 0}
	<p class="max-w-prose">
		No map yet. A map says what every knob, fader and pad of a controller does: begin one below, write on its
		strips, learn what it really says, print it.
	</p>
{:else}
	<div class="overflow-x-auto">
		<table class="ledger-table">
			<thead
				><tr
					><th scope="col">Map</th><th scope="col">Controller</th><th scope="col" class="text-right">Pages</th
					><th scope="col">Walked</th><th scope="col">Checks</th><th scope="col">Changed</th><th
						><span class="sr-only">What can be done</span></th
					></tr
				></thead
			>
			<tbody>
				{#each data.maps as map (map.id)}
					<tr>
						<th scope="row"><a class="plate link" href={`/control/${map.id}`}>{map.name}</a></th>
						<td>{map.surface}</td>
						<td class="text-right tabular-nums">{map.walks.pages}</td>
						<td
							><span class="flex items-center gap-1.5"
								><StateMark
									state={map.walks.walked === map.walks.pages && map.walks.walked > 0 && map.walks.bench === 0
										? 'verified'
										: 'quiet'}
									size={11}
								/>
								{map.walked}</span
							></td
						>
						<td
							><span class="flex items-center gap-1.5"
								>{#if map.troubles > 0}<StateMark state="attention" size={11} />{count(
										map.troubles,
										'problem'
									)}
								{:else}none found{/if}</span
							></td
						>
						<td><When at={map.updatedAt} /></td>
						<td class="text-right"
							><button class="btn btn-ghost btn-xs" onclick={() => remove(map.id, map.name)}
								>Take away<span class="sr-only"> {map.name}</span></button
							></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}

<form class="mt-6 flex flex-wrap items-end gap-3" onsubmit={begin} aria-label="Begin a map">
	<div class="field">
		<label for="map-surface">Controller</label>
		<select id="map-surface" class="select w-56 select-sm" bind:value={surface}>
			{#each data.surfaces as { id, title } (id)}<option value={id}>{title}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="map-name">Name</label>
		<input
			id="map-name"
			class="input w-64 input-sm"
			maxlength="80"
			placeholder={chosen ? `Map of ${chosen.title}` : ''}
			bind:value={name}
		/>
	</div>
	<button class="btn btn-primary btn-sm" disabled={doing.busy || !chosen}>Begin a map</button>
	<FilePick title="Take over a map file" accept=".json,application/json" picked={takeOver} />
</form>
{#if chosen}<p class="small-print mt-1">{chosen.says}</p>{/if}
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
