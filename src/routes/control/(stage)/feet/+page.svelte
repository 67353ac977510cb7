<script lang="ts">
	import FootLineRow from '$lib/ui/feet/FootLineRow.svelte';
	import { openFloor } from '$lib/ui/feet/open-floor.svelte';
	import PlugIn from '$lib/ui/feet/PlugIn.svelte';
	import { count } from '$lib/ui/words';

	const open = openFloor();
	const bad = $derived(open.lines.filter(({ verdict }) => verdict?.kind !== 'works').length);
</script>

<svelte:head><title>Feet · Silent Drawer</title></svelte:head>

{#if open.floor.lines.length === 0}
	<p class="max-w-prose">
		{open.floor.boxes.length === 0 || open.floor.pedals.length === 0
			? 'Nothing is on the floor yet. Note the boxes with their jacks, the pedals and the cables under “What there is”; then say here what is plugged in to what.'
			: 'Nothing is plugged in yet: say below what is.'}
	</p>
{:else}
	<p class="small-print mb-3">
		{count(open.floor.lines.length, 'line')}, {bad === 0
			? 'and by what is noted of them all work.'
			: `of which ${bad === 1 ? 'one does' : `${bad} do`} not work as plugged.`} Judged by the circuit of jack,
		plug and pedal as they are noted; only the foot shows whether the notes are right.
	</p>
	<ul class="flex flex-col gap-3">
		{#each open.floor.lines as line (line.id)}
			<FootLineRow {open} {line} told={open.lines.find(({ id }) => id === line.id) ?? null} />
		{/each}
	</ul>
{/if}
<PlugIn {open} />
