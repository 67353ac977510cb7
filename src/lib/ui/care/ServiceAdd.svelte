<script lang="ts">
	import { SERVICE_KINDS, type ServiceKind, type WornControl } from '$lib/core/care';
	import { dayOf } from '../words';
	import type { ServiceOnPage } from './service-on-page.svelte';

	interface Props {
		open: ServiceOnPage;
		devices: readonly { id: string; name: string; firmware: string }[];
		procedures: readonly { id: string; title: string }[];
		only: string | null;
	}
	/** One form for what is noted: what was done, what is due, a fault, a worn control. */
	let { open, devices, procedures, only }: Props = $props();
	type Noted = 'entries' | 'due' | 'faults' | 'worn';
	let noted = $state<Noted>('entries');
	// svelte-ignore state_referenced_locally
	let device = $state(only ?? '');
	let kind = $state<ServiceKind>('repair');
	let on = $state(dayOf(new Date().toISOString()));
	let says = $state('');
	let more = $state('');
	let by = $state('');
	let firmware = $state('');
	let every = $state<number | null>(null);
	let procedure = $state('');
	let losesSounds = $state(false);
	let how = $state<'worn' | 'dead'>('worn');
	let needed = $state<WornControl['needed']>([]);
	const NEEDED = [
		['sending', 'to send its dumps'],
		['receiving', 'to receive'],
		['update', 'for update mode'],
		['playing', 'to play']
	] as const;
	const told = $derived(devices.find(({ id }) => id === device)?.firmware ?? '');

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const value = {
			entries: { device, on, kind, says, firmware: kind === 'firmware' ? firmware : '', by },
			due: { device, on, kind, says, everyMonths: every, procedure },
			faults: { device, since: on, says, wayRound: more, firmware: told, losesSounds, mended: null },
			worn: { device, control: says, how, says: more, needed }
		}[noted];
		if (await open.add(noted, says, value)) {
			says = more = firmware = '';
			needed = [];
		}
	}
	const WORD = {
		entries: 'What was done',
		due: 'What is to be done',
		faults: 'The fault',
		worn: 'The control'
	};
</script>

<form class="grid gap-3 print:hidden" aria-labelledby="note-something" onsubmit={add}>
	<h2 id="note-something">Note something</h2>
	<div class="flex flex-wrap gap-1" role="group" aria-label="What is noted">
		{#each [['entries', 'Done'], ['due', 'Due'], ['faults', 'Fault'], ['worn', 'Worn control']] as const as [which, title] (which)}
			<button
				type="button"
				class={['btn btn-sm', noted === which && 'is-chosen']}
				aria-pressed={noted === which}
				onclick={() => (noted = which)}>{title}</button
			>
		{/each}
	</div>
	<div class="field">
		<label for="note-device">Device</label>
		<select id="note-device" class="select w-full select-sm" bind:value={device} required>
			<option value="">Choose one …</option>
			{#each devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="note-says">{WORD[noted]}</label>
		<input
			id="note-says"
			class="input w-full input-sm"
			maxlength={noted === 'worn' ? 80 : 600}
			bind:value={says}
			required
		/>
	</div>
	{#if noted === 'entries' || noted === 'due'}
		<div class="grid grid-cols-2 gap-3">
			<div class="field">
				<label for="note-kind">Kind</label>
				<select id="note-kind" class="select w-full select-sm" bind:value={kind}>
					{#each Object.entries(SERVICE_KINDS) as [id, title] (id)}<option value={id}>{title}</option>{/each}
				</select>
			</div>
			<div class="field">
				<label for="note-on">{noted === 'due' ? 'On' : 'Date'}</label>
				<input id="note-on" type="date" class="input w-full input-sm" bind:value={on} required />
			</div>
		</div>
	{/if}
	{#if noted === 'entries'}
		{#if kind === 'firmware'}
			<div class="field">
				<label for="note-firmware">Version that it has since</label>
				<input id="note-firmware" class="input w-full input-sm" maxlength="30" bind:value={firmware} />
			</div>
		{/if}
		<div class="field">
			<label for="note-by">By (may be empty)</label>
			<input id="note-by" class="input w-full input-sm" maxlength="80" bind:value={by} />
		</div>
	{:else if noted === 'due'}
		<div class="grid grid-cols-2 gap-3">
			<div class="field">
				<label for="note-every">Every so many months (may be empty)</label>
				<input
					id="note-every"
					type="number"
					min="1"
					max="240"
					class="input w-full input-sm"
					bind:value={every}
				/>
			</div>
			<div class="field">
				<label for="note-procedure">By which procedure</label>
				<select id="note-procedure" class="select w-full select-sm" bind:value={procedure}>
					<option value="">none</option>
					{#each procedures as each (each.id)}<option value={each.id}>{each.title}</option>{/each}
				</select>
			</div>
		</div>
	{:else}
		{#if noted === 'worn'}
			<div class="flex gap-2" role="group" aria-label="How bad it is">
				{#each [['worn', 'Worn'], ['dead', 'Dead']] as const as [which, title] (which)}
					<button
						type="button"
						class={['btn btn-sm', how === which && 'is-chosen']}
						aria-pressed={how === which}
						onclick={() => (how = which)}>{title}</button
					>
				{/each}
			</div>
			<fieldset>
				<legend class="text-sm">One needs it</legend>
				{#each NEEDED as [which, title] (which)}
					<label class="mr-4 inline-flex items-center gap-2"
						><input
							type="checkbox"
							class="checkbox checkbox-sm"
							value={which}
							bind:group={needed}
						/>{title}</label
					>
				{/each}
			</fieldset>
		{:else}
			<label class="flex items-center gap-2"
				><input type="checkbox" class="checkbox checkbox-sm" bind:checked={losesSounds} />It can cost sounds</label
			>
			<p class="small-print">
				{told
					? `Seen with firmware ${told}; asked again when it tells another one.`
					: 'Its firmware is not known: it is not asked again.'}
			</p>
		{/if}
		<div class="field">
			<label for="note-more"
				>{noted === 'worn' ? 'How it shows (may be empty)' : 'Way round (may be empty)'}</label
			>
			<input id="note-more" class="input w-full input-sm" maxlength="300" bind:value={more} />
		</div>
	{/if}
	<button
		class="btn justify-self-start btn-primary btn-sm"
		disabled={open.doing.busy || !device || !says.trim()}>Note it</button
	>
</form>
