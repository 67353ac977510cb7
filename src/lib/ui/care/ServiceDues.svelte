<script lang="ts">
	import { goto } from '$app/navigation';
	import { dueBy } from '$lib/core/care';
	import { call } from '$lib/hardware/api';
	import { wallClock } from '../clock.svelte';
	import StateMark from '../StateMark.svelte';
	import { count, dayOf } from '../words';
	import type { ServiceOnPage } from './service-on-page.svelte';

	interface Props {
		open: ServiceOnPage;
		devices: readonly { id: string; name: string; firmware: string }[];
		only: string | null;
	}
	/** What is due, the most overdue first; done in one press. */
	let { open, devices, only }: Props = $props();
	const today = $derived(dayOf(new Date(wallClock.now).toISOString()));
	const due = $derived(
		dueBy(open.document, today, Infinity).filter(({ device }) => only === null || device === only)
	);
	const nameOf = (id: string) => devices.find((each) => each.id === id)?.name ?? 'a device that is gone';
	const begin = (procedure: string, device: string) =>
		open.doing.run(async () => {
			const { id } = await call<{ id: string }>('POST', '/runs', { procedure, device });
			await goto(`/care/procedures/${id}`);
		});
	const when = (days: number) =>
		days < 0 ? `${count(-days, 'day')} overdue` : days === 0 ? 'today' : `in ${count(days, 'day')}`;
</script>

<section aria-labelledby="what-is-due">
	<h2 id="what-is-due">What is due</h2>
	{#if due.length === 0}<p class="small-print mt-1">Nothing is noted.</p>{/if}
	<ul class="mt-1">
		{#each due as item (item.id)}
			<li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5">
				<StateMark state={item.days < 0 ? 'attention' : 'quiet'} />
				<span class="min-w-0 flex-1 basis-56"
					><span class="plate">{nameOf(item.device)}</span>: {item.says}
					<span class="small-print block"
						>{item.on}, {when(item.days)}{item.everyMonths
							? ` · every ${count(item.everyMonths, 'month')}`
							: ''}</span
					></span
				>
				{#if item.procedure}<button
						class="btn btn-sm print:hidden"
						disabled={open.doing.busy}
						aria-label={`Begin its procedure: ${item.says}`}
						onclick={() => void begin(item.procedure, item.device)}>Begin</button
					>{/if}
				<button
					class="btn btn-sm print:hidden"
					disabled={open.doing.busy}
					aria-label={`Done today: ${item.says}, ${nameOf(item.device)}`}
					onclick={() => void open.done(item.id, today, '', '')}>Done today</button
				>
				<button
					class="btn btn-ghost btn-sm print:hidden"
					disabled={open.doing.busy}
					aria-label={`Take out: ${item.says}`}
					onclick={() => void open.remove('due', item.id, item.says)}>Take out</button
				>
			</li>
		{/each}
	</ul>
</section>
