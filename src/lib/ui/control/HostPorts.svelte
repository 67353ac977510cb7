<script lang="ts">
	import { hostNeeds, type HostNeedState } from '$lib/core/control';
	import { refresh } from '../refresh';
	import StateMark from '../StateMark.svelte';
	import type { OpenMap } from './open-map.svelte';

	interface Props {
		open: OpenMap;
		/** Controllers of Gear, with what the wiring says of the ports that the map needs. */
		controllers: { id: string; name: string; needs: HostNeedState[] }[];
	}
	/** What the map needs of the host's ports, and whether the wiring has it so. */
	let { open, controllers }: Props = $props();
	const map = $derived(open.map);
	const needs = $derived(hostNeeds(map));
	const chosen = $derived(controllers.find(({ id }) => id === map.gear) ?? null);
	const told = $derived(chosen?.needs ?? needs.map((need) => ({ ...need, is: null, says: '' })));
	const HOSTED: Record<typeof map.hosted, string> = {
		nothing: 'nothing: straight to the devices',
		computer: 'a computer',
		'host-box': 'a USB host box'
	};
	/** What the wiring says is told by the server, for the map as it then is. */
	async function set(says: string, key: 'gear' | 'hosted', value: string | null) {
		if (await open.edit(says, () => [{ path: [key], value }])) await refresh();
	}
</script>

<section class="mt-6" aria-labelledby="host-ports">
	<h2 id="host-ports">Ports that this map needs of it</h2>
	<div class="mt-2 flex flex-wrap gap-3">
		<div class="field">
			<label for="host-between">Between the controller and what it tells</label>
			<select
				id="host-between"
				class="select w-72 select-sm"
				value={map.hosted}
				onchange={(event) =>
					void set(
						`Between: ${HOSTED[event.currentTarget.value as typeof map.hosted]}`,
						'hosted',
						event.currentTarget.value
					)}
			>
				{#each Object.entries(HOSTED) as [value, title] (value)}<option {value}>{title}</option>{/each}
			</select>
		</div>
		{#if needs.length > 0}
			<div class="field">
				<label for="host-gear">The {map.surface.model} in Gear</label>
				<select
					id="host-gear"
					class="select w-56 select-sm"
					value={chosen?.id ?? ''}
					onchange={(event) => void set('Its controller in Gear', 'gear', event.currentTarget.value || null)}
				>
					<option value="">not chosen</option>
					{#each controllers as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			</div>
		{/if}
	</div>
	{#if needs.length === 0}
		<p class="mt-2">
			Nothing: what its lines tell needs no port of a host{map.hosted === 'nothing'
				? ' as long as no computer is between'
				: ''}.
		</p>
	{:else}
		<ul class="mt-2 grid gap-1">
			{#each told as need (`${need.port} ${need.direction} ${need.use}`)}
				<li class="flex items-baseline gap-1.5">
					<StateMark state={need.is === 'so' || need.is === null ? 'quiet' : 'attention'} size={11} />
					<span
						>{need.port}, {need.direction === 'in' ? 'input' : 'output'} for {need.use === 'control'
							? 'a control surface'
							: need.use}: {need.is === null ? 'not looked up.' : need.says}
						<span class="small-print">{need.why}</span></span
					>
				</li>
			{/each}
		</ul>
		<p class="small-print mt-1">
			{chosen
				? 'As the wiring has it noted; nobody asked the host itself.'
				: 'Choose the controller in Gear, and it is looked up in the wiring.'}
			<a class="link" href="/wiring/host">The host’s ports in Wiring</a>
		</p>
	{/if}
</section>
