<script lang="ts">
	import type { SceneCalls } from '$lib/core/scene';
	import type { OpenSet } from './open-set.svelte';

	/** By which program changes scenes are called. */
	let { open }: { open: OpenSet } = $props();
	const calls = $derived(open.set.calls);
	const put = (says: string, now: SceneCalls | null) =>
		open.edit(says, () => [{ path: ['calls'], value: now }]);
</script>

<div class="mt-3 flex flex-wrap items-center gap-2 text-sm">
	<label class="flex items-center gap-2"
		>Called by program changes on
		<select
			class="select w-28 select-sm"
			value={calls?.channel.toString() ?? ''}
			onchange={({ currentTarget: { value } }) =>
				void (value === ''
					? put('No program change calls scenes', null)
					: put(`Program changes on channel ${value} call scenes`, {
							first: calls?.first ?? 1,
							channel: Number(value)
						}))}
		>
			<option value="">no channel</option>
			{#each { length: 16 } as _, n (n)}<option value={String(n + 1)}>channel {n + 1}</option>{/each}
		</select></label
	>
	{#if calls}
		<label class="flex items-center gap-2"
			>Its first program is scene
			<select
				class="select w-18 select-sm"
				value={String(calls.first)}
				onchange={({ currentTarget: { value } }) =>
					void put(`The first program calls scene ${value}`, { ...calls, first: Number(value) as 0 | 1 })}
			>
				<option value="0">0</option><option value="1">1</option>
			</select></label
		>
	{/if}
</div>
