<script lang="ts">
	import { SERVICE_KINDS } from '$lib/core/care';
	import type { ServiceOnPage } from './service-on-page.svelte';

	interface Props {
		open: ServiceOnPage;
		devices: readonly { id: string; name: string }[];
		only: string | null;
	}
	/** What was done, newest first. */
	let { open, devices, only }: Props = $props();
	const FEW = 25;
	let all = $state(false);
	const entries = $derived(
		open.document.entries
			.filter(({ device }) => only === null || device === only)
			.sort((a, b) => b.on.localeCompare(a.on))
	);
	const nameOf = (id: string) => devices.find((each) => each.id === id)?.name ?? 'a device that is gone';
</script>

<section aria-labelledby="what-was-done">
	<h2 id="what-was-done">What was done</h2>
	{#if entries.length === 0}<p class="small-print mt-1">Nothing is noted.</p>{:else}
		<div class="scroll-x overflow-x-auto">
			<table class="table mt-1 table-sm">
				<thead class="text-ink"
					><tr
						><th scope="col">Date</th><th scope="col">Device</th><th scope="col">What</th><th scope="col"
							>By</th
						><th scope="col" class="print:hidden"><span class="sr-only">Take out</span></th></tr
					></thead
				>
				<tbody>
					{#each all ? entries : entries.slice(0, FEW) as entry (entry.id)}
						<tr>
							<td class="figures whitespace-nowrap">{entry.on}</td>
							<td>{nameOf(entry.device)}</td>
							<td
								><span class="small-print">{SERVICE_KINDS[entry.kind]}</span>
								{entry.says}{entry.firmware ? ` (${entry.firmware})` : ''}</td
							>
							<td>{entry.by}</td>
							<td class="print:hidden"
								><button
									class="btn btn-ghost btn-xs"
									disabled={open.doing.busy}
									onclick={() => void open.remove('entries', entry.id, entry.says)}
									>Take out<span class="sr-only"> {entry.says} of {entry.on}</span></button
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		{#if entries.length > FEW && !all}<button class="btn mt-2 btn-sm" onclick={() => (all = true)}
				>Show all {entries.length}</button
			>{/if}
	{/if}
</section>
