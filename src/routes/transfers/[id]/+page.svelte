<script lang="ts">
	import { desk } from '$lib/hardware/desk.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { refresh } from '$lib/ui/refresh';
	import TraceLog from '$lib/ui/TraceLog.svelte';
	import TransferLive from '$lib/ui/TransferLive.svelte';
	import TransferOutcome from '$lib/ui/TransferOutcome.svelte';
	import { dayOf } from '$lib/ui/words';

	let { data } = $props();
	const transfer = $derived(data.result.transfer);
	const device = $derived(data.result.device);
	const live = $derived(desk.runOf(transfer.id));
	const what = $derived(transfer.direction === 'capture' ? 'Backup' : 'Restore');

	// One that runs elsewhere, or whose page has just gone away: look again until it has ended.
	$effect(() => {
		if (live || transfer.status !== 'running') return;
		const again = setInterval(() => void refresh(), 1500);
		return () => clearInterval(again);
	});
</script>

<svelte:head><title>{what} of {device.name} · Silent Drawer</title></svelte:head>

<h1>{what} of <a class="link-quiet" href={`/gear/${device.id}/drawer`}>{device.name}</a></h1>
{#if desk.problem && !live && transfer.status === 'running'}<div class="mt-3">
		<ProblemNote problem={desk.problem} />
	</div>{/if}

{#if live}
	<div class="mt-4"><TransferLive state={live} /></div>
{:else if transfer.status === 'running'}
	<p class="mt-3" role="status">
		It has not ended, and no tab of this browser runs it: another browser does, or its page has just gone
		away. That is known in half a minute.
	</p>
{:else}
	<TransferOutcome result={data.result} changed={() => void refresh()} />
{/if}

{#if !live}<TraceLog lines={data.trace} name={`${device.name} ${dayOf(transfer.startedAt)}`} />{/if}
