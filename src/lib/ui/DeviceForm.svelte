<script lang="ts">
	import { superForm, type SuperValidated } from 'sveltekit-superforms';
	import { zod4Client } from 'sveltekit-superforms/adapters';
	import { DEVICE_KINDS, PORT_CONNECTORS, deviceSchema, type DeviceFacts, type Port } from '$lib/core/gear';

	interface Props {
		/** `was`: what is noted, where that is changed. */
		form: SuperValidated<DeviceFacts & { was?: DeviceFacts }, string>;
		action?: string;
		submit: string;
		/** `panelAdd`: what the panel of the model adds to the device ID of the wire. */
		profiles: { id: string; title: string; panelAdd: number }[];
	}
	let { form: validated, action, submit, profiles }: Props = $props();
	// svelte-ignore state_referenced_locally
	const { form, errors, message, enhance, delayed, tainted, isTainted } = superForm(validated, {
		dataType: 'json',
		validators: zod4Client(deviceSchema),
		taintedMessage: 'What you typed is not saved yet. Leave all the same?'
	});

	/** Another profile shows the same ID of the wire in its own way. */
	const panelAdd = $derived(profiles.find(({ id }) => id === $form.profileId)?.panelAdd ?? 0);

	type TextField =
		| 'name'
		| 'maker'
		| 'model'
		| 'kind'
		| 'place'
		| 'serial'
		| 'firmware'
		| 'batteryType'
		| 'batteryFitted'
		| 'forgets'
		| 'power';
	const emptyPort = (): Port => ({ id: '', name: '', direction: 'in', connector: 'din' });
</script>

{#snippet text(field: TextField, label: string, extra: Record<string, string> = {})}
	<div class="field">
		<label for={`device-${field}`}>{label}</label>
		<input
			id={`device-${field}`}
			class="input w-full"
			bind:value={$form[field]}
			aria-invalid={$errors[field] ? 'true' : undefined}
			aria-describedby={`device-${field}-fault`}
			{...extra}
		/>
		<span id={`device-${field}-fault`} class="text-sm text-rust empty:hidden"
			>{$errors[field]?.[0] ?? ''}</span
		>
	</div>
{/snippet}

{#snippet number(field: 'channel' | 'batteryYears', label: string, step = 1)}
	<div class="field">
		<label for={`device-${field}`}>{label}</label>
		<input
			id={`device-${field}`}
			type="number"
			{step}
			class="input w-full"
			value={$form[field] ?? ''}
			oninput={(event) =>
				($form[field] = event.currentTarget.value === '' ? null : Number(event.currentTarget.value))}
			aria-invalid={$errors[field] ? 'true' : undefined}
			aria-describedby={`device-${field}-fault`}
		/>
		<span id={`device-${field}-fault`} class="text-sm text-rust empty:hidden"
			>{$errors[field]?.[0] ?? ''}</span
		>
	</div>
{/snippet}

<form method="POST" {action} use:enhance class="max-w-4xl space-y-6" novalidate>
	<fieldset class="grid gap-3 sm:grid-cols-3">
		<legend class="mb-2">What it is</legend>
		{@render text('name', 'Your name for it')}
		{@render text('maker', 'Maker')}
		{@render text('model', 'Model')}
		{@render text('kind', 'Kind', { list: 'device-kinds' })}
		<datalist id="device-kinds"
			>{#each DEVICE_KINDS as kind (kind)}<option value={kind}></option>{/each}</datalist
		>
		{@render text('place', 'Place', { placeholder: 'Desk, rack, floor …' })}
		{@render text('serial', 'Serial number')}
		{@render text('firmware', 'Firmware')}
		<div class="field">
			<label for="device-profile">Profile</label>
			<select
				id="device-profile"
				class="select w-full"
				value={$form.profileId ?? ''}
				onchange={(event) => ($form.profileId = event.currentTarget.value || null)}
			>
				<option value="">None</option>
				{#each profiles as profile (profile.id)}<option value={profile.id}>{profile.title}</option>{/each}
			</select>
		</div>
	</fieldset>
	<fieldset class="grid gap-3 sm:grid-cols-3">
		<legend class="mb-2">How it is spoken to</legend>
		{@render number('channel', 'Receive channel (1–16)')}
		<div class="field">
			<label for="device-deviceId">Device ID on its panel</label>
			<input
				id="device-deviceId"
				type="number"
				class="input w-full"
				value={$form.deviceId === null || $form.deviceId === undefined ? '' : $form.deviceId + panelAdd}
				oninput={(event) =>
					($form.deviceId =
						event.currentTarget.value === '' ? null : Number(event.currentTarget.value) - panelAdd)}
				aria-invalid={$errors.deviceId ? 'true' : undefined}
				aria-describedby="device-deviceId-fault"
			/>
			<span class="small-print"
				>{$form.profileId === null
					? 'Without a profile: as on the wire, from 0.'
					: panelAdd > 0
						? `Its panel counts from 1${$form.deviceId === null || $form.deviceId === undefined ? '' : `; ${$form.deviceId} on the wire`}.`
						: 'Its panel shows what the wire carries, from 0.'}</span
			>
			<span id="device-deviceId-fault" class="text-sm text-rust empty:hidden"
				>{$errors.deviceId?.[0] ?? ''}</span
			>
		</div>
		{@render text('forgets', 'Must be set at each power-on')}
	</fieldset>
	<fieldset class="grid gap-3 sm:grid-cols-3" id="battery">
		<legend class="mb-2">Battery and power</legend>
		{@render text('batteryType', 'Memory battery')}
		{@render text('batteryFitted', 'Fitted on', { type: 'date' })}
		{@render number('batteryYears', 'Usual life, years', 0.5)}
		{@render text('power', 'Power', { placeholder: '9 V DC, centre negative, 120 mA' })}
		<p class="small-print self-end sm:col-span-2">
			What the maker’s label says counts. Inside mains-powered gear is work for a qualified technician, a
			soldered battery too; back everything up before it is changed.
		</p>
	</fieldset>
	<fieldset>
		<legend class="mb-2">Ports</legend>
		<ul class="space-y-2">
			{#each $form.ports as port, i (i)}
				<li class="flex flex-wrap items-start gap-2">
					<div>
						<input
							class="input w-48 input-sm"
							aria-label={`Name of port ${i + 1}`}
							bind:value={port.name}
							aria-invalid={$errors.ports?.[i]?.name ? 'true' : undefined}
						/>
						<span class="block text-sm text-rust empty:hidden">{$errors.ports?.[i]?.name?.[0] ?? ''}</span>
					</div>
					<select
						class="select w-24 select-sm"
						aria-label={`Direction of port ${i + 1}`}
						bind:value={port.direction}
					>
						{#each ['in', 'out', 'thru', 'both'] as direction (direction)}<option>{direction}</option>{/each}
					</select>
					<select
						class="select w-52 select-sm"
						aria-label={`Connector of port ${i + 1}`}
						bind:value={port.connector}
					>
						{#each Object.entries(PORT_CONNECTORS) as [id, title] (id)}<option value={id}>{title}</option
							>{/each}
					</select>
					{#if port.connector === 'audio'}
						<select
							class="select w-24 select-sm"
							aria-label={`Side of port ${i + 1}`}
							value={port.side ?? 'mono'}
							onchange={(event) => (port.side = event.currentTarget.value as Port['side'])}
						>
							{#each ['mono', 'left', 'right'] as side (side)}<option>{side}</option>{/each}
						</select>
					{/if}
					<button
						type="button"
						class="btn btn-ghost btn-sm"
						onclick={() => ($form.ports = $form.ports.filter((_, at) => at !== i))}
						>Remove port {i + 1}</button
					>
				</li>
			{/each}
		</ul>
		<button
			type="button"
			class="btn mt-2 btn-sm"
			onclick={() => ($form.ports = [...$form.ports, emptyPort()])}>Add a port</button
		>
	</fieldset>
	<div class="field">
		<label for="device-notes">Notes</label>
		<textarea id="device-notes" class="textarea w-full" rows="4" bind:value={$form.notes}></textarea>
		<span class="text-sm text-rust empty:hidden">{$errors.notes?.[0] ?? ''}</span>
	</div>
	{#if $message}
		<p role="alert" class="border-l-4 border-brass bg-ground p-3">{$message}</p>
	{/if}
	<div class="flex items-center gap-3">
		<button class="btn btn-primary" disabled={$delayed}>{submit}</button>
		{#if isTainted($tainted)}<span class="small-print">Not saved yet</span>{/if}
	</div>
</form>
