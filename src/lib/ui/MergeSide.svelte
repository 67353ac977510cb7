<script lang="ts">
	import type { MergeChoice, RecordChange } from '../core/drawer';

	interface Props {
		slot: number;
		label: string;
		choice: MergeChoice;
		title: string;
		side: { name: string | null; change: RecordChange | null } | null;
		chosen: MergeChoice | undefined;
	}
	/** One side of a conflict: what it holds, what it changed, and the choice to take it. */
	let { slot, label, choice, title, side, chosen = $bindable() }: Props = $props();
	const SHOWN = 5;
</script>

{#if side}
	<label class="flex items-center gap-2">
		<input type="radio" class="radio radio-xs" name={`slot-${slot}`} value={choice} bind:group={chosen} />
		<span>{title}<span class="sr-only"> in slot {label}</span></span>
	</label>
	<p class="plate">{side.name ?? 'unnamed'}</p>
	{#each side.change?.parameters.slice(0, SHOWN) ?? [] as { id, name, from, to } (id)}
		<p class="small-print">{name}: {from} → {to}</p>
	{/each}
	{#if side.change && side.change.parameters.length > SHOWN}<p class="small-print">
			and {side.change.parameters.length - SHOWN} more
		</p>{/if}
{/if}
