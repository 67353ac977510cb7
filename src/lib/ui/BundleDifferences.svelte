<script lang="ts">
	import { SvelteSet } from 'svelte/reactivity';
	import type { BundleDifference } from '../core/drawer';
	import When from './When.svelte';
	import { count } from './words';

	interface Props {
		differ: readonly BundleDifference[];
		busy: boolean;
		/** The keys of those that are to be as in the bundle. */
		take: (keys: string[]) => void;
	}
	let { differ, busy, take }: Props = $props();
	const chosen = new SvelteSet<string>();
	const keys = $derived(differ.map(({ key }) => key).filter((key) => chosen.has(key)));
	const all = $derived(keys.length === differ.length);

	function toggle(key: string) {
		if (!chosen.delete(key)) chosen.add(key);
	}
	function toggleAll() {
		if (all) chosen.clear();
		else for (const { key } of differ) chosen.add(key);
	}
</script>

{#snippet side(says: string, at: string | null)}
	<td
		><span class="line-clamp-3 break-words">{says}</span>{#if at}<span class="small-print block"
				><When {at} /></span
			>{/if}</td
	>
{/snippet}

<section class="mt-3" aria-label="Where this studio and the bundle differ">
	<p class="max-w-prose">
		<strong>{count(differ.length, 'thing')} differ{differ.length === 1 ? 's' : ''}.</strong> All of it stays as
		it is here, until you take what the bundle says.
	</p>
	<div class="mt-2 max-h-96 overflow-auto">
		<table class="table table-sm">
			<thead>
				<tr>
					<th scope="col">
						<label class="flex items-center gap-2"
							><input
								type="checkbox"
								class="checkbox checkbox-sm"
								checked={all}
								indeterminate={keys.length > 0 && !all}
								onchange={toggleAll}
							/>
							As in the bundle</label
						>
					</th>
					<th scope="col">Here</th>
					<th scope="col">In the bundle</th>
				</tr>
			</thead>
			<tbody>
				{#each differ as { key, what, here, there, hereAt, thereAt } (key)}
					<tr>
						<th scope="row" class="font-normal">
							<label class="flex items-center gap-2"
								><input
									type="checkbox"
									class="checkbox checkbox-sm"
									checked={chosen.has(key)}
									onchange={() => toggle(key)}
								/>
								{what}</label
							>
						</th>
						{@render side(here, hereAt)}
						{@render side(there, thereAt)}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<button class="btn mt-2 btn-primary" disabled={busy || keys.length === 0} onclick={() => take(keys)}
		>{keys.length === 0
			? 'Take from the bundle'
			: `Take ${count(keys.length, 'thing')} from the bundle`}</button
	>
</section>
