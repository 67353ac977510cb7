<script lang="ts">
	import type { Conversion, SlotLoss } from '../../core/profile';
	import StateMark from '../StateMark.svelte';
	import { count } from '../words';

	/** What becomes of sounds of another variant of the model: said before they are sent. */
	let { converted }: { converted: Conversion } = $props();
	const SHOWN = 60;
	const slotOf = ({ area, index }: SlotLoss) => `${area} ${index}`;
	/** What only the nearest value can be set for is hardly heard; what is gone or another may be. */
	const heard = $derived(converted.lost.filter(({ kind }) => kind !== 'rounded'));
	const rounded = $derived(converted.lost.length - heard.length);
	const slots = $derived(new Set(heard.map(slotOf)).size);
</script>

<section class="mt-2" aria-label="What it becomes">
	<p class="flex items-baseline gap-1.5">
		<StateMark state="attention" size={11} />
		<span
			>These sounds are of “{converted.from}”; they are sent as “{converted.to}” has them.
			{#if heard.length === 0}Every value and name has its place there{:else}<strong
					>{count(slots, 'slot')} {slots === 1 ? 'loses' : 'lose'} something</strong
				>{/if}{rounded > 0 ? `; ${count(rounded, 'value')} become the nearest that can be set` : ''}. What is
			kept stays as it is.</span
		>
	</p>
	{#if converted.lost.length > 0}
		<details class="mt-1">
			<summary class="cursor-pointer">What is lost, slot by slot</summary>
			<ul
				class="mt-1 max-h-60 columns-1 gap-x-5 overflow-y-auto text-sm xl:columns-2"
				aria-label="What is lost"
			>
				{#each [...heard, ...converted.lost.filter(({ kind }) => kind === 'rounded')].slice(0, SHOWN) as loss (loss)}
					<li>
						<span class="font-mono text-xs text-slate">{loss.label}</span>
						{loss.name ?? ''}: {loss.what},
						{loss.says}
					</li>
				{/each}
			</ul>
			{#if converted.lost.length > SHOWN}<p class="small-print">
					The first {SHOWN} of {converted.lost.length} are listed; what is gone or becomes something else comes
					first.
				</p>{/if}
		</details>
	{/if}
</section>
