<script lang="ts">
	import {
		elsewhere,
		hostSchema,
		roleOf,
		takeOver,
		type Host,
		type Rig,
		type RigChange
	} from '$lib/core/rig';

	/** The computers and tablets of the studio: which one is looked at, what it is called, and one more. */
	interface Props {
		rig: Rig;
		host: Host;
		save: (values: Partial<Host>, says: string) => Promise<boolean>;
		change: (changes: RigChange[], says: string) => Promise<boolean>;
		show: (id: string) => unknown;
	}
	let { rig, host, save, change, show }: Props = $props();

	const computers = $derived(rig.devices.filter((device) => roleOf(device) === 'host'));
	/** Devices that another host has the ports of. */
	const others = $derived(elsewhere(rig, host));
	let another = $state('');

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const name = another.trim();
		if (!name) return;
		another = '';
		const id = `host-${Date.now().toString(36)}`;
		// The first one is there from then on, with the name that it has shown.
		const first: RigChange[] = rig.hosts.length === 0 ? [{ do: 'host', host }] : [];
		const made = await change(
			[...first, { do: 'host', host: hostSchema.parse({ id, name }) }],
			`${name} added. Add the ports that it shows.`
		);
		if (made) await show(id);
	}
	async function remove() {
		const rest = rig.hosts.find(({ id }) => id !== host.id)!;
		const freed = rig.devices
			.filter(({ wants }) => wants.host === host.id)
			.map(({ id, wants }): RigChange => ({
				do: 'wire',
				device: id,
				wiring: { wants: { ...wants, host: undefined } }
			}));
		if (await change([...freed, { do: 'host-gone', host: host.id }], `${host.name} removed.`))
			await show(rest.id);
	}
</script>

{#snippet addHost()}
	<form class="flex gap-2" onsubmit={add}>
		<input
			class="input w-56 input-sm"
			aria-label="Name of another computer or tablet"
			placeholder="Another computer or tablet"
			maxlength="60"
			bind:value={another}
		/>
		<button class="btn btn-sm">Add host</button>
	</form>
{/snippet}

{#if rig.hosts.length > 1}
	<div class="mb-4 flex flex-wrap items-end gap-x-4 gap-y-3">
		<nav aria-label="Hosts" class="flex flex-wrap gap-2">
			{#each rig.hosts as entry (entry.id)}
				<a
					href={`/wiring/host?host=${encodeURIComponent(entry.id)}`}
					class={['btn btn-sm', entry.id === host.id && 'btn-primary']}
					aria-current={entry.id === host.id ? 'page' : undefined}>{entry.name}</a
				>
			{/each}
		</nav>
		{@render addHost()}
	</div>
	<div class="mb-4 flex flex-wrap items-end gap-3">
		<div class="field">
			<label for="host-name">Name</label>
			<input
				id="host-name"
				class="input w-44 input-sm"
				maxlength="60"
				value={host.name}
				onchange={(event) => {
					const name = event.currentTarget.value.trim();
					if (name) void save({ name }, `It is called ${name}.`);
					else event.currentTarget.value = host.name;
				}}
			/>
		</div>
		{#if computers.length > 0}
			<div class="field">
				<label for="host-computer">Runs on</label>
				<select
					id="host-computer"
					class="select w-44 select-sm"
					value={host.computer ?? ''}
					onchange={(event) =>
						save(
							{ computer: event.currentTarget.value || null },
							event.currentTarget.value
								? `It runs on ${event.currentTarget.selectedOptions[0].text}.`
								: 'It runs on any of the computers.'
						)}
				>
					<option value="">not noted</option>
					{#each computers as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			</div>
		{/if}
		{#if others.length > 0}
			<div class="field">
				<label for="host-take">Take over from another host</label>
				<select
					id="host-take"
					class="select w-52 select-sm"
					value=""
					onchange={(event) => {
						const device = others.find(({ id }) => id === event.currentTarget.value);
						event.currentTarget.value = '';
						if (device) void change(takeOver(rig, host, device), `${device.name} is on ${host.name} now.`);
					}}
				>
					<option value="">a device …</option>
					{#each others as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			</div>
		{/if}
		<button class="btn btn-ghost btn-sm" onclick={remove}>Remove {host.name}</button>
	</div>
{:else}
	<div class="float-right">{@render addHost()}</div>
{/if}
