<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { attempt } from '$lib/ui/attempt';
	import { goto } from '$app/navigation';
	import { call } from '$lib/hardware/api';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { refresh } from '$lib/ui/refresh';
	import When from '$lib/ui/When.svelte';

	let { data } = $props();
	let title = $state('');
	// svelte-ignore state_referenced_locally
	let deviceId = $state(data.devices[0]?.id ?? '');
	const doing = new Doing();
	const device = $derived(data.devices.find(({ id }) => id === deviceId));

	async function create(event: SubmitEvent) {
		event.preventDefault();
		const area = device?.areas[0];
		if (!device || !area) return;
		await doing.run(async () => {
			const { id } = await call<{ id: string }>('POST', '/banks', {
				from: 'document',
				deviceId: device.id,
				document: {
					title: title.trim() || `Bank for ${device.name}`,
					profileId: device.profileId,
					area: area.id,
					entries: Array.from({ length: area.slots }, () => null)
				}
			});
			await goto(`/sounds/banks/${id}`);
		});
	}

	async function remove(id: string, name: string) {
		await attempt(async () => {
			const {
				deviceId: device,
				baseVersionId,
				document
			} = await call<{ deviceId: string; baseVersionId: string | null; document: unknown }>(
				'GET',
				`/banks/${id}`
			);
			await call('DELETE', `/banks/${id}`);
			await refresh();
			notices.say(`“${name}” is removed.`, 'good', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [
						{
							method: 'POST',
							path: '/banks',
							body: { from: 'document', deviceId: device, document, baseVersionId }
						}
					],
					says: `“${name}” is back.`
				}
			});
		});
	}
</script>

<svelte:head><title>Banks · Silent Drawer</title></svelte:head>

<h2>Banks for a show</h2>
<p class="small-print max-w-prose">
	Put sounds of any year, from any device of one model, into song order; send the bank with a safety copy and
	proof, or save it as a file. To begin with what a device holds, open a version in its drawer.
</p>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
<form class="mt-3 flex flex-wrap items-end gap-3" onsubmit={create}>
	<div class="field">
		<label for="bank-title">Title</label>
		<input
			id="bank-title"
			class="input w-64"
			maxlength="80"
			bind:value={title}
			placeholder="Night of the comets"
		/>
	</div>
	<div class="field">
		<label for="bank-device">For</label>
		<select id="bank-device" class="select" bind:value={deviceId}>
			{#each data.devices.filter(({ areas }) => areas.length > 0) as { id, name } (id)}<option value={id}
					>{name}</option
				>{/each}
		</select>
	</div>
	<button class="btn btn-primary" disabled={!device}>Begin an empty bank</button>
</form>
{#if data.banks.length > 0}
	<table class="ledger-table mt-5">
		<thead
			><tr
				><th>Bank</th><th>For</th><th class="number">Slots used</th><th>Changed</th><th
					><span class="sr-only">Remove</span></th
				></tr
			></thead
		>
		<tbody>
			{#each data.banks as bank (bank.id)}
				<tr>
					<td class="plate"><a class="link-quiet" href={`/sounds/banks/${bank.id}`}>{bank.title}</a></td>
					<td>{bank.device}</td>
					<td class="number">{bank.used} of {bank.slots}</td>
					<td><When at={bank.updatedAt} /></td>
					<td class="text-right"
						><button
							class="btn btn-xs"
							aria-label={`Remove ${bank.title}`}
							onclick={() => remove(bank.id, bank.title)}>Remove</button
						></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
