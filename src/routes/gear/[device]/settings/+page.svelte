<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import type { Setting } from '$lib/core/drawer';
	import { call } from '$lib/hardware/api';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { remembered } from '$lib/ui/remembered.svelte';
	import { refresh } from '$lib/ui/refresh';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const draft = remembered<Setting[]>(`settings ${data.device.id}`, data.settings);
	const settings = $derived(draft.value);
	const doing = new Doing();
	const EMPTY: Record<Setting['type'], Setting> = {
		number: { type: 'number', label: '', unit: '', value: null },
		switch: { type: 'switch', label: '', value: null },
		text: { type: 'text', label: '', value: '' }
	};

	async function save(event: SubmitEvent) {
		event.preventDefault();
		await doing.run(async () => {
			await call('PUT', `/devices/${data.device.id}/settings`, $state.snapshot(draft.value));
			draft.forget($state.snapshot(draft.value));
			await refresh();
			notices.say('Noted. The next snapshot of the studio holds it.', 'good');
		});
	}
</script>

<svelte:head><title>Settings of {data.device.name} · Silent Drawer</title></svelte:head>

<h2>What no dump holds</h2>
<p class="small-print max-w-prose">
	Knobs, switches and menus whose positions the device never sends. What is noted here is kept with every
	snapshot of the studio, and snapshots are compared in it.
</p>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
<form class="mt-3" onsubmit={save}>
	<ul class="space-y-2">
		{#each settings as setting, i (i)}
			<li class="flex flex-wrap items-end gap-3">
				<div class="field">
					<label for={`label-${i}`}>Setting</label>
					<input
						id={`label-${i}`}
						class="input w-56 input-sm"
						required
						maxlength="40"
						bind:value={setting.label}
					/>
				</div>
				{#if setting.type === 'number'}
					<div class="field">
						<label for={`value-${i}`}>Value</label>
						<input
							id={`value-${i}`}
							class="input w-28 input-sm"
							type="number"
							step="any"
							bind:value={setting.value}
						/>
					</div>
					<div class="field">
						<label for={`unit-${i}`}>Unit</label>
						<input id={`unit-${i}`} class="input w-20 input-sm" maxlength="10" bind:value={setting.unit} />
					</div>
				{:else if setting.type === 'switch'}
					<label class="flex items-center gap-2 pb-1"
						><input
							type="checkbox"
							class="toggle toggle-sm"
							checked={setting.value ?? false}
							onchange={(event) => (setting.value = event.currentTarget.checked)}
						/>{setting.value === null ? 'not noted' : setting.value ? 'on' : 'off'}<span class="sr-only"
							>: {setting.label}</span
						></label
					>
				{:else}
					<div class="field">
						<label for={`value-${i}`}>Value</label>
						<input id={`value-${i}`} class="input w-72 input-sm" maxlength="120" bind:value={setting.value} />
					</div>
				{/if}
				<button
					type="button"
					class="btn mb-1 btn-ghost btn-xs"
					aria-label={`Take ${setting.label || 'this setting'} off the list`}
					onclick={() => (draft.value = settings.filter((_, at) => at !== i))}>Take off</button
				>
			</li>
		{/each}
	</ul>
	<p class="mt-4 flex flex-wrap gap-2">
		<button type="button" class="btn btn-sm" onclick={() => draft.value.push({ ...EMPTY.number })}
			>Add a number</button
		>
		<button type="button" class="btn btn-sm" onclick={() => draft.value.push({ ...EMPTY.switch })}
			>Add a switch</button
		>
		<button type="button" class="btn btn-sm" onclick={() => draft.value.push({ ...EMPTY.text })}
			>Add words</button
		>
		<button class="btn btn-primary btn-sm">Save</button>
	</p>
</form>
