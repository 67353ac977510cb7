<script lang="ts">
	import { CABLE_KINDS, type MatrixCell } from '$lib/core/pedal';
	import StateMark from '$lib/ui/StateMark.svelte';

	let { data } = $props();
	const works = ({ verdict }: { verdict: MatrixCell['verdict'] }) => verdict.kind === 'works' && verdict.sure;
	/** What it takes, in few words. */
	const needs = ({ cable, mode }: MatrixCell) =>
		[mode, cable === null ? 'its own cable' : CABLE_KINDS[cable]].filter(Boolean).join(', ');
</script>

<svelte:head><title>All pairings · Silent Drawer</title></svelte:head>

{#if data.matrix.length === 0 || data.pedals.length === 0}
	<p>Note boxes and pedals under “What there is”: every pedal at every jack is judged here.</p>
{:else}
	<p class="small-print mb-3 max-w-prose">
		Every pedal at every jack at its best: with the mode, the settings and the cable that it takes. A jack for
		switches is none for pedals, even where the plug fits.
	</p>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class="overflow-x-auto" tabindex="0" role="region" aria-label="All pairings">
		<table class="ledger-table">
			<thead
				><tr
					><th scope="col">Jack</th>{#each data.pedals as { id, name } (id)}<th scope="col" class="min-w-36"
							>{name}</th
						>{/each}</tr
				></thead
			>
			<tbody>
				{#each data.matrix as row (`${row.box} ${row.jack}`)}
					<tr>
						<th scope="row">{row.box} · {row.jack}</th>
						{#each row.cells as cell, i (data.pedals[i].id)}
							<td class="align-top">
								<span class="flex items-center gap-1.5"
									><StateMark
										state={cell.verdict.kind === 'cannot' ? 'danger' : works(cell) ? 'quiet' : 'attention'}
										size={11}
									/>{cell.verdict.kind}{cell.verdict.sure ? '' : ', perhaps'}</span
								>
								{#if cell.verdict.kind !== 'cannot'}<span class="small-print">{needs(cell)}</span>{/if}
								{#if works(cell) && !works(cell.today)}<span class="small-print block"
										>as set today, plain cable: {cell.today.verdict.kind}</span
									>{/if}
							</td>
						{/each}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
