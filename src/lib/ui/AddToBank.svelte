<script lang="ts">
	import type { Bank, BankDocument } from '../core/drawer';
	import { call } from '../hardware/api';
	import { attempt } from './attempt';
	import { notices } from './notices.svelte';

	interface Props {
		record: string;
		name: string;
		profileId: string;
		area: string;
		/** Where it is taken from, for people. */
		from: string;
	}
	/** Puts a sound into the first free slot of a bank for its model; nothing in the bank is overwritten. */
	let { record, name, profileId, area, from }: Props = $props();
	const uid = $props.id();
	let banks = $state.raw<Bank[] | null>(null);
	let busy = $state(false);

	const open = () =>
		attempt(async () => {
			banks = (await call<Bank[]>('GET', '/banks')).filter(
				({ document }) => document.profileId === profileId && document.area === area
			);
		});
	async function add(id: string) {
		busy = true;
		await attempt(async () => {
			const { bank, labels, before } = await call<{ bank: Bank; labels: string[]; before: BankDocument }>(
				'POST',
				`/banks/${id}/sounds`,
				{ sounds: [{ record, from: from.slice(0, 160) }] }
			);
			notices.say(`${name || 'The sound'} is in ${bank.document.title}, ${labels.join(', ')}.`, 'good', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [
						{ method: 'PUT', path: `/banks/${id}`, body: { revision: bank.revision, document: before } }
					],
					says: `${name || 'The sound'} is out of ${bank.document.title} again.`
				}
			});
			banks = null;
		});
		busy = false;
	}
</script>

{#if !banks}
	<button class="btn btn-sm" onclick={open}>Add to a bank<span class="sr-only">: {name}</span></button>
{:else if banks.length === 0}
	<span>There is no bank for its model yet.</span>
	<a class="btn btn-sm" href="/sounds/banks">Begin one</a>
{:else}
	<span class="inline-flex flex-wrap items-center gap-1" role="group" aria-labelledby={uid}>
		<span id={uid} class="small-print">First free slot of</span>
		{#each banks as { id, document } (id)}
			<button class="btn btn-sm" disabled={busy} onclick={() => add(id)}>{document.title}</button>
		{/each}
		<button class="btn btn-ghost btn-sm" onclick={() => (banks = null)}>Cancel</button>
	</span>
{/if}
