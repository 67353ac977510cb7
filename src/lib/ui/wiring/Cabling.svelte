<script lang="ts">
	import {
		checkJoin,
		indexRig,
		portName,
		RIG_CONNECTORS,
		type Cable,
		type Rig,
		type RigDevice
	} from '$lib/core/rig';
	import { changeRig } from './change-rig';

	/** The cables of a device, and one more to plug in: what fits is said before it is done. */
	let { rig, device, revision }: { rig: Rig; device: RigDevice; revision: number } = $props();
	const index = $derived(indexRig(rig));
	const cables = $derived(
		rig.cables.filter(({ from, to }) => device.ports.some(({ id }) => id === from || id === to))
	);
	let mine = $state('');
	let far = $state('');
	let adapter = $state<Cable['adapter'] | ''>('');
	const sockets = $derived(
		rig.devices
			.filter(({ id }) => id !== device.id)
			.map((other) => ({ other, ports: other.ports }))
			.filter(({ ports }) => ports.length > 0)
	);
	/** The cable in the direction in which it carries. */
	const ends = $derived.by(() => {
		const [a, b] = [index.ports.get(mine), index.ports.get(far)];
		if (!a || !b) return null;
		const swap =
			a.port.direction === 'in' ||
			(a.port.direction === 'both' && (b.port.direction === 'out' || b.port.direction === 'thru'));
		return swap && b.port.direction !== 'in' ? { from: b, to: a } : { from: a, to: b };
	});
	const join = $derived(ends && checkJoin(ends.from, ends.to, adapter || undefined));
	const taken = $derived(ends && [ends.from, ends.to].filter(({ port }) => index.cablesAt.has(port.id)));

	async function plug() {
		if (!ends) return;
		const cable: Cable = { from: ends.from.port.id, to: ends.to.port.id, ...(adapter ? { adapter } : {}) };
		if (
			await changeRig(
				[{ do: 'plug', ...cable }],
				`${portName(ends.from)} goes to ${portName(ends.to)}.`,
				revision
			)
		)
			far = '';
	}
</script>

<h2 class="mb-1">Cables of {device.name}</h2>
{#if cables.length === 0}<p class="small-print">None is noted.</p>{:else}
	<table class="ledger-table">
		<thead
			><tr
				><th>From</th><th>To</th><th>Adapter</th><th class="number">Length, m</th><th
					><span class="sr-only">Pull</span></th
				></tr
			></thead
		>
		<tbody>
			{#each cables as cable (cable.from + cable.to)}
				{@const [from, to] = [index.ports.get(cable.from)!, index.ports.get(cable.to)!]}
				{@const fit = checkJoin(from, to, cable.adapter)}
				<tr>
					<td>{portName(from)}</td><td>{portName(to)}</td>
					<td class={fit.fits ? '' : 'text-rust'}>{fit.fits ? fit.adapter || 'none' : fit.says}</td>
					<td class="number">{cable.length ?? ''}</td>
					<td
						><button
							class="btn btn-xs"
							onclick={() =>
								changeRig(
									[{ do: 'pull', from: cable.from, to: cable.to }],
									`Pulled: ${portName(from)} to ${portName(to)}.`,
									revision
								)}>Pull {portName(from)} → {portName(to)}</button
						></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
<form
	class="mt-3 flex flex-wrap items-end gap-2"
	onsubmit={(event) => {
		event.preventDefault();
		void plug();
	}}
>
	<div class="field">
		<label for="cable-mine">Socket of {device.name}</label>
		<select id="cable-mine" class="select w-52 select-sm" bind:value={mine}>
			<option value="">Choose</option>
			{#each device.ports as port (port.id)}<option value={port.id}
					>{port.name} ({port.direction}, {RIG_CONNECTORS[port.connector]}){index.cablesAt.has(port.id)
						? ' · taken'
						: ''}</option
				>{/each}
		</select>
	</div>
	<div class="field">
		<label for="cable-far">goes to</label>
		<select id="cable-far" class="select w-64 select-sm" bind:value={far}>
			<option value="">Choose</option>
			{#each sockets as { other, ports } (other.id)}
				<optgroup label={other.name}
					>{#each ports as port (port.id)}<option value={port.id}
							>{port.name} ({port.direction}, {RIG_CONNECTORS[port.connector]}){index.cablesAt.has(port.id)
								? ' · taken'
								: ''}</option
						>{/each}</optgroup
				>
			{/each}
		</select>
	</div>
	<div class="field">
		<label for="cable-adapter">Adapter on it</label>
		<select id="cable-adapter" class="select w-40 select-sm" bind:value={adapter}>
			<option value="">the right one</option>
			<option value="type-a">TRS type A</option>
			<option value="type-b">TRS type B</option>
			<option value="crossing">crossing</option>
		</select>
	</div>
	<button class="btn btn-primary btn-sm" disabled={!ends}>Plug it in</button>
</form>
<p role="status" class={['mt-1', join && !join.fits ? 'text-rust' : '']}>
	{#if join}{join.says}{join.adapter ? ` Needs a ${join.adapter}.` : ''}{/if}
	{#if taken && taken.length > 0}
		{taken.map(portName).join(' and ')}
		{taken.length === 1 ? 'has' : 'have'} a cable already: pull it first, or it is noted as a problem.{/if}
</p>
