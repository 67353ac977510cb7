<script lang="ts">
	import { superForm } from 'sveltekit-superforms';
	import { zod4Client } from 'sveltekit-superforms/adapters';
	import DeviceForm from '$lib/ui/DeviceForm.svelte';
	import { quickSchema } from './quick';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const { form, errors, enhance, delayed } = superForm(data.quick, { validators: zod4Client(quickSchema) });
	let bare = $state(false);
</script>

<svelte:head><title>Add a device · Silent Drawer</title></svelte:head>

<h1>Add a device</h1>

<form method="POST" action="?/quick" use:enhance class="sheet mt-4 max-w-3xl p-5" novalidate>
	<h2>A model that Silent Drawer knows</h2>
	<div class="mt-3 grid items-start gap-4 sm:grid-cols-[1fr_1fr_auto]">
		<div class="field">
			<label for="quick-profile">Model</label>
			<select
				id="quick-profile"
				name="profileId"
				class="select w-full"
				bind:value={$form.profileId}
				aria-invalid={$errors.profileId ? 'true' : undefined}
				aria-describedby="quick-profile-fault"
			>
				<option value="">Choose a model</option>
				{#each data.profiles as profile (profile.id)}<option value={profile.id}
						>{profile.title} — {profile.kind}</option
					>{/each}
			</select>
			<span id="quick-profile-fault" class="text-sm text-rust">{$errors.profileId?.[0] ?? ''}</span>
		</div>
		<div class="field">
			<label for="quick-name">Your name for it</label>
			<input
				id="quick-name"
				name="name"
				class="input w-full"
				bind:value={$form.name}
				aria-invalid={$errors.name ? 'true' : undefined}
				aria-describedby="quick-name-fault"
			/>
			<span id="quick-name-fault" class="text-sm text-rust">{$errors.name?.[0] ?? ''}</span>
		</div>
		<button class="btn mt-6 btn-primary" disabled={$delayed}>Add</button>
	</div>
	<p class="small-print">
		Ports, device ID and what it forgets at power-off come from its profile. If the bench has a free unit of
		this model, it is plugged in.
	</p>
</form>

<div class="mt-6">
	{#if bare}
		<h2 class="mb-3">Any other device</h2>
		<DeviceForm form={data.bare} action="?/bare" submit="Add this device" profiles={data.profiles} />
	{:else}
		<button class="btn" onclick={() => (bare = true)}>Any other device…</button>
	{/if}
</div>
