<script lang="ts">
	import { Doing } from './doing.svelte';
	import { goto } from '$app/navigation';
	import type { TransferResult as Result } from '../core/drawer';
	import type { SlotResult } from '../core/transfer';
	import { call } from '../hardware/api';
	import { tray } from '../hardware/tray.svelte';
	import { notices } from './notices.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import TransferResult from './TransferResult.svelte';
	import { putInTray } from './tray/put';
	import { count } from './words';

	interface Props {
		result: Result;
		/** Called when something was done with it. */
		changed: () => void;
	}
	/** How a transfer ended, or that it did not, with everything that can be done about it. */
	let { result, changed }: Props = $props();
	const doing = new Doing();
	const transfer = $derived(result.transfer);
	const waiting = $derived(
		transfer.direction === 'capture' &&
			transfer.versionId === null &&
			['unfinished', 'incomplete'].includes(transfer.status)
	);
	const results = $derived((transfer.outcome?.slots ?? []) as SlotResult[]);

	/** What broke off goes on with what is stored: one click, since it was checked when it began. */
	const resume = () =>
		doing.run(async () => {
			await tray.add([`resume=${transfer.id}`]);
			const row = tray.openRows.find(({ ask }) => ask === `resume=${transfer.id}`)!;
			const checked = tray.checkOf(row)?.checked;
			if (checked) tray.change(row.key, { ticked: tray.ticksOf(checked).map(({ id }) => id) });
			void tray.go([row.key]);
		});
	const keep = () =>
		doing.run(async () => {
			const { versionId } = await call<{ versionId: string }>('POST', `/transfers/${transfer.id}/keep`);
			await goto(`/gear/${result.device.id}/drawer?v=${versionId}`, { invalidateAll: true });
			notices.say('Kept as it is: an incomplete version that does not count as verified.', 'good');
			changed();
		});
	const drop = () =>
		doing.run(async () => {
			await call('POST', `/transfers/${transfer.id}/drop`);
			changed();
		});
	const again = (slots: SlotResult[]) =>
		void putInTray(
			`again=${transfer.id}&slots=${slots.map(({ area, index }) => `${area}:${index}`).join(',')}`
		);
</script>

{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
{#if waiting}
	<section class="mt-3 border-l-4 border-warn pl-4" aria-label="Unfinished">
		<h2>{transfer.status === 'unfinished' ? 'This backup broke off' : 'This backup is incomplete'}</h2>
		<p class="mt-1">
			{count(result.received, 'message')} with {count(result.slots.length, 'slot')} are stored safely.
			{transfer.reason
				? `${transfer.reason.says} ${transfer.reason.remedy}`
				: 'Its page was closed, or the computer stopped, before the end.'}
		</p>
		<div class="mt-3 flex flex-wrap gap-2">
			<button class="btn btn-primary" onclick={resume}>Resume</button>
			{#if result.received > 0}<button class="btn" onclick={keep}>Keep as it is</button>{/if}
			<button class="btn btn-ghost" onclick={drop}>Clear</button>
		</div>
	</section>
{:else if transfer.direction === 'restore' && transfer.status === 'unfinished'}
	<section class="mt-3 border-l-4 border-rust pl-4" aria-label="Broken off">
		<h2>This restore broke off</h2>
		<p class="mt-1 max-w-prose">
			Its page was closed before the end, so part of the slots may be written and part not. {transfer.safetyVersionId
				? 'What was there before is in the safety copy.'
				: 'Nothing had been written when it stopped.'}
		</p>
		<div class="mt-3 flex flex-wrap gap-2">
			<button class="btn btn-primary" onclick={() => putInTray(`again=${transfer.id}`)}>Restore again</button>
			{#if transfer.safetyVersionId}<button
					class="btn"
					onclick={() => putInTray(`version=${transfer.safetyVersionId}`)}>Bring the safety copy back</button
				>{/if}
		</div>
	</section>
{:else}
	<TransferResult {transfer} slots={result.slots} {results} {again} proof={result.proof} />
{/if}
