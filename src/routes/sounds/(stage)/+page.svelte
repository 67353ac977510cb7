<script lang="ts">
	import { WORLD_WORDS } from '$lib/core/drawer';
	import { goto } from '$app/navigation';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	let wait: ReturnType<typeof setTimeout>;

	function search(query: string) {
		clearTimeout(wait);
		wait = setTimeout(
			() =>
				goto(`/sounds?q=${encodeURIComponent(query)}`, {
					keepFocus: true,
					replaceState: true,
					noScroll: true
				}),
			120
		);
	}
	const now = $derived(data.found.filter(({ current }) => current));
	const past = $derived(data.found.filter(({ current }) => !current));
</script>

<svelte:head><title>Find a sound · Silent Drawer</title></svelte:head>

<div class="mt-3 max-w-lg">
	<label class="sr-only" for="sound">Find a sound by its name, or part of it</label>
	<!-- svelte-ignore a11y_autofocus -->
	<input
		id="sound"
		class="input w-full input-lg"
		type="search"
		value={data.query}
		placeholder="Name, or part of it"
		autofocus
		oninput={(event) => search(event.currentTarget.value)}
	/>
</div>

{#snippet rows(list: typeof data.found)}
	<table class="ledger-table">
		<thead
			><tr
				><th>Sound</th><th>Device</th><th>Slot</th><th>{list === now ? 'There since' : 'Was there'}</th><th
					><span class="sr-only">Open</span></th
				></tr
			></thead
		>
		<tbody>
			{#each list as sound, i (i)}
				<tr>
					<td class="plate"><a class="link-quiet" href={`/sounds/${sound.record}`}>{sound.name}</a></td>
					<td
						>{sound.deviceName}
						<span class="small-print"
							>{sound.place}{sound.world !== data.world ? ` · ${WORLD_WORDS[sound.world]}` : ''}</span
						></td
					>
					<td class="font-mono">{sound.label}</td>
					<td
						>{#if sound.current}<When at={sound.fromAt} />{:else if sound.toAt === sound.fromAt}seen <When
								at={sound.fromAt}
							/>{:else}<When at={sound.fromAt} /> until <When at={sound.toAt!} />{/if}</td
					>
					<td class="text-right"
						><a
							class="btn btn-xs"
							href={`/gear/${sound.deviceId}/drawer?v=${sound.versionId}&slot=${sound.area}:${sound.slot}`}
							aria-label={`Open version: ${sound.name} in ${sound.deviceName}, slot ${sound.label}`}
							>Open version</a
						></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
{/snippet}

{#if data.query.trim() === ''}
	<p class="mt-4 max-w-prose">
		All drawers are searched, all versions, whatever the year. Several words must all occur in the name;
		accents and capitals do not matter.
	</p>
{:else if data.found.length === 0}
	<p class="mt-4">No sound in any drawer is called “{data.query}”.</p>
{:else}
	<p class="mt-3" role="status">
		{data.more ? 'The first ' : ''}{count(data.found.length, 'place')}{data.more
			? '; write more of the name to narrow it down'
			: ''}.
	</p>
	{#if now.length > 0}
		<h2 class="mt-5 mb-1 flex items-center gap-2"><StateMark state="verified" /> In a device now</h2>
		{@render rows(now)}
	{/if}
	{#if past.length > 0}
		<h2 class="mt-5 mb-1 flex items-center gap-2"><StateMark state="quiet" /> In earlier versions only</h2>
		{@render rows(past)}
	{/if}
{/if}
