<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { goto } from '$app/navigation';
	import type { MergeChoice } from '$lib/core/drawer';
	import { call } from '$lib/hardware/api';
	import MergeSide from '$lib/ui/MergeSide.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import { remembered } from '$lib/ui/remembered.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import When from '$lib/ui/When.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	/** A decision holds for what both sides were when it was made. */
	const draft = remembered<Record<number, MergeChoice>>(
		`merge ${data.bank.id} ${data.bank.revision} ${data.deviceState}`,
		{}
	);
	const choices = $derived(draft.value);
	const doing = new Doing();
	const conflicts = $derived(data.slots.filter(({ state }) => state === 'conflict'));
	const clean = $derived(data.slots.filter(({ state }) => state !== 'conflict'));
	const open = $derived(conflicts.filter(({ index }) => !choices[index]));

	async function merge() {
		await doing.run(async () => {
			await call('POST', `/banks/${data.bank.id}/merge`, {
				revision: data.bank.revision,
				deviceState: data.deviceState,
				choices: Object.entries(choices).map(([index, choice]) => ({ index: Number(index), choice }))
			});
			draft.forget();
			await goto(`/sounds/banks/${data.bank.id}`, { invalidateAll: true });
			notices.say('Merged: the bank holds both sides now.', 'good');
		});
	}
</script>

<svelte:head><title>Merge {data.bank.title} · Silent Drawer</title></svelte:head>

<h2>Merge “{data.bank.title}” with what the device holds</h2>
<p class="small-print">
	Common ground: what both held when they were the same last. The device was read <When at={data.readAt} />.
	{data.same} slots are the same on both sides.
</p>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
<p class="mt-3" role="status">
	{conflicts.length === 0
		? 'No conflict: everything merges by itself.'
		: open.length === 0
			? 'Every conflict is decided.'
			: `${count(open.length, 'slot')} to decide.`}
</p>
{#if conflicts.length > 0}
	<table class="ledger-table mt-2">
		<thead><tr><th>Slot</th><th>Before</th><th>On the device</th><th>In the drawer</th></tr></thead>
		<tbody>
			{#each conflicts as slot (slot.index)}
				<tr>
					<th class="font-mono" scope="row">{slot.label}</th>
					<td
						><MergeSide
							slot={slot.index}
							label={slot.label}
							choice="base"
							title="Take what was before"
							side={slot.base}
							bind:chosen={draft.value[slot.index]}
						/></td
					>
					<td
						><MergeSide
							slot={slot.index}
							label={slot.label}
							choice="device"
							title="Take the device’s"
							side={slot.device}
							bind:chosen={draft.value[slot.index]}
						/></td
					>
					<td>
						<MergeSide
							slot={slot.index}
							label={slot.label}
							choice="drawer"
							title="Take the drawer’s"
							side={slot.drawer}
							bind:chosen={draft.value[slot.index]}
						/>
						{#if slot.combined}
							<MergeSide
								slot={slot.index}
								label={slot.label}
								choice="combined"
								title="Take both changes"
								side={slot.combined}
								bind:chosen={draft.value[slot.index]}
							/>
						{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
<div class="mt-4 flex gap-2">
	<button class="btn btn-primary" disabled={open.length > 0 || data.slots.length === 0} onclick={merge}
		>Merge</button
	>
	<a class="btn" href={`/sounds/banks/${data.bank.id}`}>Leave both as they are</a>
</div>
{#if clean.length > 0}
	<h3 class="mt-5">{count(clean.length, 'slot')} that merge by themselves</h3>
	<ul class="mt-1 columns-2 text-sm sm:columns-3">
		{#each clean as slot (slot.index)}
			<li class="truncate">
				<span class="font-mono text-xs text-slate">{slot.label}</span>
				{(slot.choice === 'drawer' ? slot.drawer : slot.device)?.name ?? ''}
				<span class="small-print">{slot.state}</span>
			</li>
		{/each}
	</ul>
{/if}
