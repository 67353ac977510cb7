<script lang="ts">
	import { refresh } from '$lib/ui/refresh';
	import { goto } from '$app/navigation';
	import type { SlotResult } from '$lib/core/transfer';
	import { call } from '$lib/hardware/api';
	import { desk } from '$lib/hardware/desk.svelte';
	import BenchPanel from '$lib/ui/BenchPanel.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import TraceLog from '$lib/ui/TraceLog.svelte';
	import TransferLive from '$lib/ui/TransferLive.svelte';
	import TransferResult from '$lib/ui/TransferResult.svelte';
	import { count, dayOf, problemOf } from '$lib/ui/words';

	let { data } = $props();
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	const live = $derived(desk.runOf(data.transfer.id));
	const waiting = $derived(
		!live &&
			data.transfer.direction === 'capture' &&
			data.transfer.versionId === null &&
			['unfinished', 'incomplete'].includes(data.transfer.status)
	);
	const results = $derived((data.transfer.outcome?.slots ?? []) as SlotResult[]);

	// Another tab, or one that has just gone away: look again until it has ended.
	$effect(() => {
		if (live || data.transfer.status !== 'running') return;
		const again = setInterval(() => void refresh(), 1500);
		return () => clearInterval(again);
	});

	async function act(work: () => Promise<unknown>) {
		problem = null;
		try {
			await work();
		} catch (error) {
			problem = problemOf(error);
		}
	}

	const resume = () =>
		act(() =>
			desk.start({
				direction: 'capture',
				deviceId: data.device.id,
				scope: data.transfer.scope,
				kind: data.transfer.kind,
				title: data.transfer.title,
				versionId: null,
				resume: data.transfer.id,
				paceFactor: 1
			})
		);
	const keep = () =>
		act(async () => {
			const { versionId } = await call<{ versionId: string }>('POST', `/transfers/${data.transfer.id}/keep`);
			await goto(`/gear/${data.device.id}/drawer?v=${versionId}`, { invalidateAll: true });
			notices.say('Kept as it is: an incomplete version that does not count as verified.', 'good');
		});
	const drop = () =>
		act(async () => {
			await call('POST', `/transfers/${data.transfer.id}/drop`);
			await refresh();
		});
	const again = (slots: SlotResult[]) =>
		goto(
			`/transfers/new?again=${data.transfer.id}&slots=${slots.map(({ area, index }) => `${area}:${index}`).join(',')}`
		);
</script>

<svelte:head
	><title
		>{data.transfer.direction === 'capture' ? 'Backup' : 'Restore'} of {data.device.name} · Silent Drawer</title
	></svelte:head
>

<h1>
	{data.transfer.direction === 'capture' ? 'Backup' : 'Restore'} of
	<a class="link-quiet" href={`/gear/${data.device.id}/drawer`}>{data.device.name}</a>
</h1>
{#if problem}<div class="mt-3"><ProblemNote {problem} /></div>{/if}
{#if desk.problem && !live && data.transfer.status === 'running'}<div class="mt-3">
		<ProblemNote problem={desk.problem} />
	</div>{/if}

{#if live}
	<div class="mt-4 grid gap-6 xl:grid-cols-[minmax(0,1fr)_24rem]">
		<TransferLive state={live} />
		{#if data.device.benchUnit && desk.world === 'bench'}<section aria-label="Front panel">
				<BenchPanel unitId={data.device.benchUnit} />
			</section>{/if}
	</div>
{:else if data.transfer.status === 'running'}
	<p class="mt-3">It runs in another tab.</p>
{:else if waiting}
	<section class="mt-4 border-l-4 border-brass pl-4" aria-label="Unfinished">
		<h2>{data.transfer.status === 'unfinished' ? 'This capture broke off' : 'This capture is incomplete'}</h2>
		<p class="mt-1">
			{count(data.received, 'message')} with {count(data.slots.length, 'slot')} are stored safely.
			{data.transfer.reason
				? `${data.transfer.reason.says} ${data.transfer.reason.remedy}`
				: 'Its page was closed, or the computer stopped, before the end.'}
		</p>
		<div class="mt-3 flex flex-wrap gap-2">
			<button class="btn btn-primary" onclick={resume}>Resume</button>
			{#if data.received > 0}<button class="btn" onclick={keep}>Keep as it is</button>{/if}
			<button class="btn btn-ghost" onclick={drop}>Let it go</button>
		</div>
	</section>
{:else if data.transfer.direction === 'restore' && data.transfer.status === 'unfinished'}
	<section class="mt-4 border-l-4 border-rust pl-4" aria-label="Broken off">
		<h2>This restore broke off</h2>
		<p class="mt-1 max-w-prose">
			Its page was closed before the end, so part of the slots may be written and part not. {data.transfer
				.safetyVersionId
				? 'What was there before is in the safety copy.'
				: 'Nothing had been written when it stopped.'}
		</p>
		<div class="mt-3 flex gap-2">
			<a class="btn btn-primary" href={`/transfers/new?again=${data.transfer.id}`}>Restore again</a>
			{#if data.transfer.safetyVersionId}<a
					class="btn"
					href={`/transfers/new?version=${data.transfer.safetyVersionId}`}>Bring the safety copy back</a
				>{/if}
		</div>
	</section>
{:else}
	<TransferResult transfer={data.transfer} slots={data.slots} {results} {again} proof={data.proof} />
{/if}

{#if !live}<TraceLog lines={data.trace} name={`${data.device.name} ${dayOf(data.transfer.startedAt)}`} />{/if}
