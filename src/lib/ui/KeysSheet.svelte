<script lang="ts">
	import { pageKeys, singleKeys } from './keys.svelte';
	import Sheet from './Sheet.svelte';
	import { STAGES } from './stages';

	let { open = $bindable(false) }: { open?: boolean } = $props();
	const everywhere = [
		['/', 'Filter the cabinet'],
		['Ctrl K', 'Go to a device or do something'],
		['0', 'Today'],
		...STAGES.map(({ key, title }) => [key, title]),
		['T', 'Open or close the tray'],
		['.', 'Panic: silence everything that sounds'],
		['Arrows', 'Walk through the cabinet, tables, slots, blocks and the map'],
		['Home End', 'To the first, to the last of them'],
		['Esc', 'Close what is on top; typing is kept'],
		['?', 'This list']
	];
</script>

<Sheet bind:open title="Keys">
	<div class="grid gap-6 sm:grid-cols-2">
		<section>
			<h3 class="mb-2">Everywhere</h3>
			<dl class="grid grid-cols-[5rem_1fr] gap-y-1.5">
				{#each everywhere as [key, says] (key)}<dt><span class="key">{key}</span></dt>
					<dd>{says}</dd>{/each}
			</dl>
		</section>
		<section>
			<h3 class="mb-2">On this page</h3>
			{#if pageKeys.all.length === 0}
				<p class="small-print">None of its own.</p>
			{:else}
				<dl class="grid grid-cols-[5rem_1fr] gap-y-1.5">
					{#each pageKeys.all as { key, says } (key)}<dt>
							<span class="key">{key.length === 1 ? key.toUpperCase() : key}</span>
						</dt>
						<dd>{says}</dd>{/each}
				</dl>
			{/if}
		</section>
	</div>
	<label class="mt-5 flex items-center gap-2 border-t border-line pt-3"
		><input
			type="checkbox"
			class="checkbox checkbox-sm"
			checked={singleKeys.on}
			onchange={(event) => singleKeys.set(event.currentTarget.checked)}
		/>
		Single letters and digits are keys by themselves</label
	>
	<p class="small-print">With this off they need Alt. Alt works either way.</p>
</Sheet>
