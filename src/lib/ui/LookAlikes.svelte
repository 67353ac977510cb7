<script lang="ts">
	import { Doing } from './doing.svelte';
	import { placesInWords, type Alike, type RecordChange } from '../core/drawer';
	import { call } from '../hardware/api';
	import ProblemNote from './ProblemNote.svelte';

	/** Sounds of all drawers that are nearly like one; looked for when they are asked for. */
	let { record }: { record: string } = $props();
	let found = $state.raw<Alike[] | null>(null);
	const doing = new Doing();

	async function look() {
		await doing.run(async () => {
			found = await call<Alike[]>('GET', `/sounds/${record}/alike`);
		});
	}
	function differs(change: RecordChange | null): string {
		if (!change) return '';
		const parts = change.parameters.slice(0, 3).map(({ name, from, to }) => `${name} ${from} → ${to}`);
		if (change.parameters.length > 3) parts.push(`and ${change.parameters.length - 3} more`);
		if (parts.length === 0)
			parts.push(change.otherBytes > 0 ? 'differs where no parameter is named' : 'only its name is another');
		return parts.join(' · ');
	}
</script>

{#if !found}
	<button class="btn btn-sm" disabled={doing.busy} onclick={look}
		>{doing.busy ? 'Looking …' : 'Look-alikes'}</button
	>
{:else}
	<section aria-label="Look-alikes" class="mt-2">
		<h4 class="plate">Look-alikes</h4>
		{#if found.length === 0}<p>No other sound in any drawer is within six parameters of it.</p>{/if}
		<ul class="text-sm">
			{#each found as { hash, name, change, places } (hash)}
				<li class="border-b border-line/60 py-0.5">
					<a class="link-quiet plate" href={`/sounds/${hash}`}>{name || 'unnamed'}</a>
					<span class="small-print">{placesInWords(places)} · {differs(change)}</span>
				</li>
			{/each}
		</ul>
	</section>
{/if}
{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
