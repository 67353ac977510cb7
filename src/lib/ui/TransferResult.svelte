<script lang="ts">
	import type { MissingSlot, SlotResult } from '$lib/core/transfer';
	import type { Transfer } from '$lib/core/drawer';
	import { COMPLETE_WORDS, statusOf } from './outcome-words';
	import StateMark from './StateMark.svelte';
	import When from './When.svelte';
	import { count } from './words';

	interface Props {
		transfer: Transfer;
		slots: { area: string; index: number; label: string; name: string | null }[];
		results: SlotResult[];
		again: (slots: SlotResult[]) => void;
		/** How a complete capture was proved; null for anything else. */
		proof: string | null;
	}
	let { transfer, slots, results, again, proof }: Props = $props();

	const words = $derived(statusOf(transfer));
	const of = (...kinds: SlotResult['result'][]) => results.filter(({ result }) => kinds.includes(result));
	/** What happened to a slot comes first; what was only looked at is told by its number. */
	const told = $derived(results.filter(({ result }) => result !== 'already there'));
	const rest = $derived(of('already there'));
	const wrong = $derived(of('differs', 'unknown', 'not sent'));
	/** It broke off: nobody knows what some slots hold. */
	const torn = $derived(transfer.status === 'incomplete' && of('unknown', 'sent').length > 0);
	/** What was there before can be brought back, where anything may have been written. */
	const undoable = $derived(
		transfer.direction === 'restore' &&
			transfer.safetyVersionId !== null &&
			of('verified', 'differs', 'sent', 'unknown').length > 0
	);
	const missing = $derived((transfer.outcome?.missing ?? []) as MissingSlot[]);
	const RESULT_WORDS: Record<SlotResult['result'], string> = {
		verified: '✓ verified',
		'already there': '= already there',
		differs: '≠ differs',
		sent: '→ sent',
		'not sent': '– not sent',
		unknown: '? not known'
	};
</script>

{#snippet slotList(list: SlotResult[])}
	<ul class="mt-1 grid gap-x-5 text-sm sm:grid-cols-2 xl:grid-cols-3">
		{#each list as slot (slot.area + slot.index)}
			<li class="flex items-baseline gap-2 border-b border-line/60 py-0.5">
				<span class="w-10 font-mono text-xs text-slate">{slot.label}</span>
				<span class="flex-1 truncate">{slot.name ?? slot.area}</span>
				<span
					class={[
						'whitespace-nowrap',
						slot.result === 'differs' || slot.result === 'unknown'
							? 'text-rust'
							: slot.result === 'verified'
								? 'text-pine'
								: 'text-slate'
					]}
				>
					{RESULT_WORDS[slot.result]}{slot.result === 'differs'
						? ` (it holds ${slot.found ?? 'other data'})`
						: ''}
				</span>
			</li>
		{/each}
	</ul>
{/snippet}

<section class="mt-4" aria-label="Result">
	<div role="status">
		<h2 class="flex items-center gap-2 text-xl">
			<StateMark state={proof === 'none' ? 'attention' : words.state} size={16} />{proof
				? COMPLETE_WORDS[proof]
				: words.word}
		</h2>
	</div>
	{#if transfer.direction === 'restore' && transfer.status === 'verified'}
		<p class="mt-1">
			The device held exactly what was chosen when it was read{#if transfer.endedAt}&nbsp;<When
					at={transfer.endedAt}
				/>{/if}: {count(of('verified').length, 'slot')} written and read back equal, {of('already there')
				.length} already there.
		</p>
	{:else if transfer.direction === 'restore' && transfer.status === 'sent' && of('verified').length > 0}
		<p class="mt-1">
			{count(of('verified').length, 'slot')} written and read back equal; {count(of('sent').length, 'slot')} sent
			to an area that cannot be read: look at those on its display.
		</p>
	{:else if transfer.direction === 'capture' && transfer.status === 'complete'}
		<p class="mt-1">
			{slots.length > 0 ? `${count(slots.length, 'slot')}, every` : 'Every'} message whole{proof ===
			'checksum'
				? ', every checksum right'
				: proof === 'twice alike'
					? '; the second time it came in the same way'
					: '; it came once, and has no checksum'}.
		</p>
	{/if}
	{#if transfer.reason}
		<div class="mt-2 border-l-4 border-rust pl-3">
			<p class="font-semibold text-rust">{transfer.reason.says}</p>
			<p>{transfer.reason.remedy}</p>
		</div>
	{/if}
	<div class="mt-3 flex flex-wrap gap-2">
		{#if transfer.versionId}<a
				class="btn btn-primary btn-sm"
				href={`/gear/${transfer.deviceId}/drawer?v=${transfer.versionId}`}>Open this version</a
			>{/if}
		{#if transfer.safetyVersionId}<a
				class="btn btn-sm"
				href={`/gear/${transfer.deviceId}/drawer?v=${transfer.safetyVersionId}`}>Open the safety copy</a
			>{/if}
		{#if undoable}<a class="btn btn-sm" href={`/transfers/new?version=${transfer.safetyVersionId}`}
				>{torn ? 'Bring the safety copy back' : 'Undo: bring back what was there'}</a
			>{/if}
		{#if transfer.direction === 'restore' && wrong.length > 0 && transfer.wanted}
			<button class="btn btn-primary btn-sm" onclick={() => again(wrong)}
				>{wrong.length === 1 ? 'Send just this one again' : `Send just these ${wrong.length} again`}</button
			>
		{:else if transfer.direction === 'restore' && transfer.status === 'refused' && transfer.wanted}
			<button class="btn btn-primary btn-sm" onclick={() => again(results)}>Try again</button>
		{:else if transfer.direction === 'capture' && transfer.status === 'refused'}
			<a
				class="btn btn-primary btn-sm"
				href={`/transfers/new?device=${transfer.deviceId}${transfer.snapshotId ? `&snapshot=${transfer.snapshotId}` : ''}`}
				>Try again</a
			>
		{/if}
	</div>

	{#if missing.length > 0 && transfer.status !== 'refused'}
		<h3 class="mt-5">Missing</h3>
		<ul class="mt-1 grid gap-x-4 text-sm sm:grid-cols-3">
			{#each missing as slot (slot.area + slot.index)}<li>
					<span class="font-mono text-xs">{slot.label}</span>
					{slot.why}
				</li>{/each}
		</ul>
	{/if}

	{#if transfer.direction === 'restore' && results.length > 0}
		{#if told.length > 0}
			<h3 class="mt-5">{transfer.status === 'sent' ? 'Look at these on its display' : 'Slot by slot'}</h3>
			{@render slotList(told)}
		{/if}
		{#if rest.length > 0}
			<details class="mt-3">
				<summary class="cursor-pointer">{count(rest.length, 'slot')} already there, and not written</summary>
				{@render slotList(rest)}
			</details>
		{/if}
	{:else if slots.length > 0}
		<h3 class="mt-5">What was received</h3>
		<ul class="mt-1 grid grid-cols-2 gap-x-4 text-sm sm:grid-cols-4">
			{#each slots as slot (slot.area + slot.index)}<li class="truncate">
					<span class="font-mono text-xs text-slate">{slot.label}</span>
					{slot.name ?? ''}
				</li>{/each}
		</ul>
	{/if}
</section>
