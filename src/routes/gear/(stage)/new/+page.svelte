<script lang="ts">
	import { superForm } from 'sveltekit-superforms';
	import { zod4Client } from 'sveltekit-superforms/adapters';
	import DeviceForm from '$lib/ui/DeviceForm.svelte';
	import { interfaceSchema, quickSchema } from './quick';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const quick = superForm(data.quick, { validators: zod4Client(quickSchema) });
	const { form, errors, enhance, delayed } = quick;
	// svelte-ignore state_referenced_locally
	const sockets = superForm(data.sockets, { validators: zod4Client(interfaceSchema) });
	const { form: own, errors: faults, enhance: enhanceOwn, delayed: adding } = sockets;
	let bare = $state(false);
	/** The name that was suggested last: one that was written by hand stays. */
	let suggested = '';

	function suggest() {
		if ($form.name !== '' && $form.name !== suggested) return;
		suggested = data.profiles.find(({ id }) => id === $form.profileId)?.model ?? '';
		$form.name = suggested;
	}
</script>

<svelte:head><title>Add a device · Silent Drawer</title></svelte:head>

<h1>Add a device</h1>
<p class="mt-1 max-w-prose">
	Is it plugged in and on? <a class="link-quiet" href="/gear/find?now">Find it</a> instead: then its cables and
	its interface are noted with it.
</p>

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
				onchange={suggest}
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
	{#if data.free}
		<label class="flex items-center gap-2"
			><input type="checkbox" class="checkbox checkbox-sm" name="plug" bind:checked={$form.plug} /> Plug it
			into the next free sockets: {data.free.out}{data.free.in ? `, back at ${data.free.in}` : ''}</label
		>
	{/if}
	<p class="small-print">
		Sockets, device ID and what it forgets at power-off come from its profile. On a bench, a free unit of this
		model is plugged in.
	</p>
</form>

<form method="POST" action="?/sockets" use:enhanceOwn class="sheet mt-4 max-w-3xl p-5" novalidate>
	<h2>A MIDI interface</h2>
	<div class="mt-3 grid items-start gap-4 sm:grid-cols-[1fr_6rem_6rem_auto]">
		<div class="field">
			<label for="own-name">Name of the interface</label>
			<input
				id="own-name"
				name="name"
				class="input w-full"
				bind:value={$own.name}
				aria-invalid={$faults.name ? 'true' : undefined}
				aria-describedby="own-name-fault"
			/>
			<span id="own-name-fault" class="text-sm text-rust">{$faults.name?.[0] ?? ''}</span>
		</div>
		{#each ['ins', 'outs'] as const as way (way)}
			<div class="field">
				<label for={`own-${way}`}>{way === 'ins' ? 'Ins' : 'Outs'}</label>
				<input
					id={`own-${way}`}
					name={way}
					type="number"
					min="0"
					max="32"
					class="input w-full text-right"
					bind:value={$own[way]}
					aria-invalid={$faults[way] ? 'true' : undefined}
					aria-describedby={`own-${way}-fault`}
				/>
				<span id={`own-${way}-fault`} class="text-sm text-rust">{$faults[way]?.[0] ?? ''}</span>
			</div>
		{/each}
		<button class="btn mt-6" disabled={$adding}>Add the interface</button>
	</div>
	<p class="small-print">
		One that is plugged in is added from the computer’s own port names: <a
			class="link-quiet"
			href="/gear/find">Find it</a
		>.
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
