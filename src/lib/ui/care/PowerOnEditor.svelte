<script lang="ts">
	import { uniqueId } from '$lib/core/unique-id';
	import type { PowerOnList } from './power-on-list.svelte';

	/** What a hand adds to the list: things to set, load or send, the walk, and what nobody switches. */
	let { list }: { list: PowerOnList } = $props();
	const busy = $derived(list.doing.busy);
	let device = $state('');
	let what = $state<'set' | 'load' | 'send'>('set');
	let says = $state('');
	let see = $state('');
	let messages = $state('');
	let ask = $state('');
	let answer = $state('');
	const nameOf = (id: string) => list.devices.find((each) => each.id === id)?.name ?? 'a device that is gone';
	const WHAT = { set: 'is set by hand', load: 'loads', send: 'is sent by the app' };
	const lines = $derived(
		messages
			.split('\n')
			.map((line) => line.trim())
			.filter(Boolean)
	);

	async function add(event: SubmitEvent) {
		event.preventDefault();
		const kept = await list.edit(`${nameOf(device)}: ${says.trim()}`.slice(0, 200), (now) => [
			{
				path: ['items', now.items.length],
				value: {
					id: uniqueId(says, new Set(now.items.map(({ id }) => id)), 'item'),
					device,
					what,
					says: says.trim(),
					see: see.trim(),
					messages: what === 'send' ? lines : [],
					ask: what === 'send' ? ask.trim() : '',
					answer: what === 'send' ? answer.trim() : ''
				}
			}
		]);
		if (kept) says = see = messages = ask = answer = '';
	}
	let first = $state('');
	let then = $state('');
	const addOrder = () =>
		list.edit(`${nameOf(then)} after ${nameOf(first)}`, (now) => [
			{ path: ['orders', now.orders.length], value: { first, then } }
		]);
</script>

<div class="mt-2 grid grid-cols-1 gap-x-10 gap-y-6 xl:grid-cols-2">
	<form class="grid content-start gap-3" aria-label="Add something to the list" onsubmit={add}>
		<div class="flex flex-wrap gap-3">
			<div class="field">
				<label for="item-device">Device</label>
				<select id="item-device" class="select w-48 select-sm" bind:value={device} required>
					<option value="">Choose one …</option>
					{#each list.devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
				</select>
			</div>
			<div class="field">
				<label for="item-what">each time</label>
				<select id="item-what" class="select w-44 select-sm" bind:value={what}>
					<option value="set">is set by hand</option>
					<option value="load">loads something</option>
					<option value="send">is sent messages</option>
				</select>
			</div>
		</div>
		<div class="field">
			<label for="item-says">What is to be so</label>
			<input
				id="item-says"
				class="input w-full input-sm"
				maxlength="300"
				placeholder={what === 'load'
					? 'The template “Autumn sky”, with the account of the dome'
					: 'Swing 54 %'}
				bind:value={says}
				required
			/>
		</div>
		<div class="field">
			<label for="item-see">What one sees then (may be empty)</label>
			<input id="item-see" class="input w-full input-sm" maxlength="200" bind:value={see} />
		</div>
		{#if what === 'send'}
			<div class="field">
				<label for="item-messages">Messages in hexadecimal, one a line</label>
				<textarea
					id="item-messages"
					class="textarea w-full font-mono"
					rows="2"
					placeholder="C0 0B"
					required
					bind:value={messages}
				></textarea>
			</div>
			<div class="grid grid-cols-2 gap-3">
				<div class="field">
					<label for="item-ask">A question afterwards (may be empty)</label>
					<input id="item-ask" class="input w-full font-mono input-sm" bind:value={ask} />
				</div>
				<div class="field">
					<label for="item-answer">and the answer that shows it, <code>..</code> for any byte</label>
					<input id="item-answer" class="input w-full font-mono input-sm" bind:value={answer} />
				</div>
			</div>
		{/if}
		<button class="btn justify-self-start btn-sm" disabled={busy || !device || !says.trim()}>Add it</button>
	</form>

	<div class="grid content-start gap-5">
		{#if list.document.items.length > 0}
			<div>
				<h3>Your own</h3>
				<ul class="mt-1">
					{#each list.document.items as item, at (item.id)}
						<li class="flex items-baseline gap-2">
							<span class="min-w-0 flex-1"
								><span class="plate">{nameOf(item.device)}</span>
								{WHAT[item.what]}: {item.says}</span
							>
							<button
								class="btn btn-ghost btn-xs"
								disabled={busy}
								onclick={() =>
									void list.edit(`${item.says} is taken off the list`.slice(0, 200), () => [
										{ path: ['items', at] }
									])}>Take off<span class="sr-only"> {item.says}</span></button
							>
						</li>
					{/each}
				</ul>
			</div>
		{/if}
		<div>
			<h3>The walk</h3>
			<ol class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
				{#each list.places as place, i (place)}
					<li class="flex items-center gap-1">
						<span class="plate">{place}</span>
						<span class="join">
							<button
								class="btn join-item btn-xs"
								disabled={busy || i === 0}
								aria-label={`${place} earlier`}
								onclick={() => void list.movePlace(place, -1)}>‹</button
							>
							<button
								class="btn join-item btn-xs"
								disabled={busy || i === list.places.length - 1}
								aria-label={`${place} later`}
								onclick={() => void list.movePlace(place, 1)}>›</button
							>
						</span>
					</li>
				{/each}
			</ol>
		</div>
		<div>
			<h3>One after another, besides what the wiring says</h3>
			<ul>
				{#each list.document.orders as order, at (at)}
					<li class="flex items-baseline gap-2">
						<span class="flex-1">{nameOf(order.then)} after {nameOf(order.first)}</span>
						<button
							class="btn btn-ghost btn-xs"
							disabled={busy}
							onclick={() => void list.edit('An order is taken off', () => [{ path: ['orders', at] }])}
							>Take off<span class="sr-only"> {nameOf(order.then)} after {nameOf(order.first)}</span></button
						>
					</li>
				{/each}
			</ul>
			<div class="mt-1 flex flex-wrap items-end gap-2">
				<div class="field">
					<label for="order-then">Device</label>
					<select id="order-then" class="select w-40 select-sm" bind:value={then}>
						<option value="">…</option>
						{#each list.devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
					</select>
				</div>
				<div class="field">
					<label for="order-first">only after</label>
					<select id="order-first" class="select w-40 select-sm" bind:value={first}>
						<option value="">…</option>
						{#each list.devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
					</select>
				</div>
				<button
					class="btn btn-sm"
					disabled={busy || !first || !then || first === then}
					onclick={() => void addOrder()}>Note it</button
				>
			</div>
		</div>
		<details>
			<summary class="cursor-pointer">What nobody switches ({list.document.left.length})</summary>
			<ul class="mt-1 columns-2 gap-6">
				{#each list.devices as each (each.id)}
					<li>
						<label class="flex items-center gap-2"
							><input
								type="checkbox"
								class="checkbox checkbox-sm"
								disabled={busy}
								checked={list.document.left.includes(each.id)}
								onchange={(event) => void list.leave(each.id, each.name, event.currentTarget.checked)}
							/>{each.name}</label
						>
					</li>
				{/each}
			</ul>
		</details>
	</div>
</div>
