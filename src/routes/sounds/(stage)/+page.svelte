<script lang="ts">
	import { WORLD_WORDS } from '$lib/core/drawer';
	import { goto } from '$app/navigation';
	import AddToBank from '$lib/ui/AddToBank.svelte';
	import SoundMarks from '$lib/ui/SoundMarks.svelte';
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
	const kindOf = ({ mark, category }: (typeof data.found)[number]) => mark.category || category;
	const kinds = $derived([...new Set(data.found.map(kindOf).filter(Boolean))].sort());
	let kind = $state('');
	const shown = $derived(
		kinds.includes(kind) ? data.found.filter((sound) => kindOf(sound) === kind) : data.found
	);
	const now = $derived(shown.filter(({ current }) => current));
	const past = $derived(shown.filter(({ current }) => !current));
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
	<p class="mt-2">
		{#if data.favourites}<a class="btn btn-sm" href="/sounds">All sounds</a>{:else}<a
				class="btn btn-sm"
				href="/sounds?favourites">Favourites</a
			>{/if}
	</p>
</div>

{#snippet rows(list: typeof data.found)}
	<table class="ledger-table">
		<thead
			><tr
				><th>Sound</th><th>Device</th><th>Slot</th><th class="max-sm:hidden"
					>{list === now ? 'There since' : 'Was there'}</th
				><th><span class="sr-only">Open</span></th></tr
			></thead
		>
		<tbody>
			{#each list as sound, i (i)}
				<tr>
					<td
						><span class="flex items-center gap-1"
							><SoundMarks record={sound.record} name={sound.name} mark={sound.mark} /><span
								><a class="link-quiet plate" href={`/sounds/${sound.record}`}>{sound.name || 'unnamed'}</a>
								<span class="small-print">{kindOf(sound)}</span></span
							></span
						></td
					>
					<td
						>{sound.deviceName}
						<span class="small-print"
							>{sound.place}{sound.world !== data.world ? ` · ${WORLD_WORDS[sound.world]}` : ''}</span
						></td
					>
					<td class="font-mono">{sound.label}</td>
					<td class="max-sm:hidden"
						>{#if sound.current}<When at={sound.fromAt} />{:else if sound.toAt === null}since <When
								at={sound.fromAt}
							/>{:else if sound.toAt === sound.fromAt}seen <When at={sound.fromAt} />{:else}<When
								at={sound.fromAt}
							/> until <When at={sound.toAt} />{/if}</td
					>
					<td class="text-right max-sm:[&_.btn]:w-full"
						><AddToBank
							record={sound.record}
							name={sound.name}
							profileId={sound.profileId}
							area={sound.area}
							from={`${sound.deviceName} ${sound.label}`}
						/>
						<a
							class="btn btn-sm"
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

{#if data.favourites && data.found.length === 0}
	<p class="mt-4 max-w-prose">
		No sound is a favourite yet. The star of a sound makes it one; it stays with this very content, wherever
		it goes, and not with what is made of it by editing.
	</p>
{:else if !data.favourites && data.query.trim() === ''}
	<p class="mt-4 max-w-prose">
		All drawers are searched, all versions, whatever the year; besides names, the titles, notes, tags and
		songs that you wrote. Several words must all occur; accents and capitals do not matter, and one slip is
		forgiven where nothing else is found.
	</p>
{:else if data.found.length === 0}
	<p class="mt-4" role="status">No sound in any drawer is called “{data.query}”, or nearly so.</p>
{:else}
	<p class="mt-3" role="status">
		{data.nearly ? `No sound is called “${data.query}”. Nearly so: ` : ''}{data.more
			? 'The first '
			: ''}{count(data.found.length, 'place')}{data.more ? '; write more of the name to narrow it down' : ''}.
	</p>
	{#if kinds.length > 0}
		<label class="mt-2 flex items-center gap-2"
			>Category
			<select class="select w-44 select-sm" bind:value={kind}>
				<option value="">all</option>
				{#each kinds as each (each)}<option value={each}>{each}</option>{/each}
			</select></label
		>
	{/if}
	{#if now.length > 0}
		<h2 class="mt-5 mb-1 flex items-center gap-2"><StateMark state="verified" /> In a device now</h2>
		{@render rows(now)}
	{/if}
	{#if past.length > 0}
		<h2 class="mt-5 mb-1 flex items-center gap-2"><StateMark state="quiet" /> In earlier versions only</h2>
		{@render rows(past)}
	{/if}
{/if}
{#if data.texts.length > 0}
	<h2 class="mt-5 mb-1">Written on versions and banks</h2>
	<ul>
		{#each data.texts as text (text.href)}
			<li class="border-t border-line py-1.5">
				<a class="link-quiet plate" href={text.href}>{text.title}</a>
				<span class="small-print">{text.says ? `${text.says} · ` : ''}<When at={text.at} /></span>
			</li>
		{/each}
	</ul>
{/if}
