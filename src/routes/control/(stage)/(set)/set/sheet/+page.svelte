<script lang="ts">
	import { handsBefore, sceneNumbered, sheetRows } from '$lib/core/scene';
	import StripSheets from '$lib/ui/control/StripSheets.svelte';
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import { todayOnPaper } from '$lib/ui/words';

	let { data } = $props();
	const open = openSet();
	const set = $derived(open.set);
	const steps = (song: string) => open.told.readiness.steps.filter((step) => step.song === song);
</script>

<svelte:head><title>Set sheet · Silent Drawer</title></svelte:head>

<div class="mb-3 flex flex-wrap items-center gap-3 print:hidden">
	<button class="btn btn-primary btn-sm" onclick={() => window.print()}>Print</button>
	<a class="btn btn-sm" href="/api/v1/set/document" download>Set file</a>
	<a class="btn btn-ghost btn-sm" href="/control/set">Back to the songs</a>
</div>
<div class="set-sheet">
	<h2>{set.name || 'The set'}</h2>
	<p class="small-print">
		As it stands {todayOnPaper()}.
		{open.told.readiness.ready
			? 'By what is noted it is ready.'
			: open.told.readiness.steps.length === 0
				? 'Nothing is in it yet.'
				: 'It is not ready: see what is missing or not known on the Set page.'}
	</p>
	{#each set.songs as song, at (song.id)}
		<section class="song-sheet" aria-label={song.name}>
			<h3>
				{at + 1}. {song.name}
				<span class="small-print"
					>{[
						song.tempo === null ? '' : `tempo ${song.tempo}`,
						song.pauseSeconds === null ? '' : `pause before ${song.pauseSeconds} s`
					]
						.filter(Boolean)
						.join(', ')}</span
				>
			</h3>
			{#if song.notes}<p class="whitespace-pre-wrap">{song.notes}</p>{/if}
			{#each steps(song.id) as step, i (i)}
				{@const scene = sceneNumbered(set, step.scene)}
				{#if scene}
					<p class="mt-1">
						<span class="plate">{scene.number} {scene.name}</span>
						<span class="small-print figures">{step.says}</span>
					</p>
					{#each handsBefore(step) as says (says)}<p class="pl-4">
							By hand: {says}
						</p>{/each}
					{#each scene.pages as { controller, page } (controller)}<p class="pl-4">
							{controller} on {page}
						</p>{/each}
					<div class="overflow-x-auto">
						<table class="ledger-table">
							<thead class="sr-only"
								><tr
									><th scope="col">Keys</th><th scope="col">Zone</th><th scope="col">Plays</th><th scope="col"
										>Besides</th
									></tr
								></thead
							>
							<tbody>
								{#each sheetRows(set, scene) as row, n (n)}
									<tr
										><th scope="row" class="text-ink">{row.player} {row.keys}</th><td>{row.zone}</td><td
											>{row.plays.join(' + ')}</td
										><td>{row.besides}</td></tr
									>
								{/each}
							</tbody>
						</table>
					</div>
				{/if}
			{/each}
		</section>
	{/each}
</div>
{#if data.sheets.length > 0}
	<h2 class="mt-6 print:hidden">Strips of the pages that are used</h2>
	<StripSheets sheets={data.sheets} />
{/if}

<style>
	.song-sheet {
		margin-top: 1rem;
		border-top: 1px solid var(--color-line);
		padding-top: 0.5rem;
		break-inside: avoid;
	}
	.song-sheet table {
		table-layout: fixed;
	}
	.song-sheet th:first-child {
		width: 24%;
	}
	@media print {
		:global(main#page) {
			padding: 0 !important;
		}
		.set-sheet {
			padding: 12mm;
		}
	}
</style>
