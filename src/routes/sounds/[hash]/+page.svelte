<script lang="ts">
	import { putInTray } from '$lib/ui/tray/put';
	import type { LifeKind, Stay } from '$lib/core/drawer';
	import AddToBank from '$lib/ui/AddToBank.svelte';
	import LookAlikes from '$lib/ui/LookAlikes.svelte';
	import SoundMarks from '$lib/ui/SoundMarks.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { count, minuteOf } from '$lib/ui/words';

	let { data } = $props();
	const SIGNS: Record<LifeKind, { glyph: string; word: string }> = {
		created: { glyph: '●', word: 'first seen' },
		edited: { glyph: '~', word: 'edited' },
		renamed: { glyph: 'A', word: 'renamed' },
		moved: { glyph: '→', word: 'moved' },
		copied: { glyph: '+', word: 'copied' },
		'edited and moved': { glyph: '⤳', word: 'edited and moved' },
		'brought back': { glyph: '↺', word: 'brought back' },
		lost: { glyph: '×', word: 'lost' }
	};
	const nameOf = (id: string) => data.devices.find((device) => device.id === id)?.name ?? '';
	const place = (stay: Stay) => `${nameOf(stay.deviceId)}, ${stay.label}`;
	let sending = $state.raw<{ record: string; name: string } | null>(null);
	// svelte-ignore state_referenced_locally
	let target = $state(data.receivers.at(0)?.id ?? '');
	const receiver = $derived(data.receivers.find(({ id }) => id === target));
	let slot = $state(0);

	/** Puts this form of the sound into a slot, with the usual safety and proof. */
	const send = () => putInTray(`device=${target}&sounds=${receiver!.area}:${slot}:${sending!.record}`);
</script>

<svelte:head><title>{data.sound.name ?? 'Sound'} · Silent Drawer</title></svelte:head>

<h1>{data.sound.name || 'A sound without a name'}</h1>
<p class="small-print">{data.sound.model}. Its life over all slots, devices of the model and years.</p>
<div class="mt-1 flex flex-wrap items-center gap-3">
	<SoundMarks
		record={data.sound.hash}
		name={data.sound.name ?? 'unnamed'}
		mark={data.mark}
		own={data.sound.category}
		whole
	/>
	<AddToBank
		record={data.sound.hash}
		name={data.sound.name ?? ''}
		profileId={data.sound.profileId}
		area={data.sound.area}
		from={data.life.events.length > 0 ? place(data.life.events.at(-1)!.stay) : 'Find'}
	/>
	{#key data.sound.hash}<LookAlikes record={data.sound.hash} />{/key}
</div>

<section class="mt-4" aria-label="Where it is now">
	<h2 class="flex items-center gap-2">
		<StateMark state={data.life.now.length > 0 ? 'verified' : 'danger'} />
		{data.life.now.length > 0 ? `In ${count(data.life.now.length, 'slot')} now` : 'In no device now'}
	</h2>
	<ul class="mt-1">
		{#each data.life.now as stay (stay.id)}
			<li>
				<a class="link-quiet" href={`/gear/${stay.deviceId}/drawer?slot=${stay.area}:${stay.slot}`}
					>{place(stay)}</a
				>
				as <strong>{stay.name ?? 'unnamed'}</strong>{stay.record === data.sound.hash
					? ''
					: ', changed since'}, since
				<When at={stay.fromAt} />
			</li>
		{/each}
	</ul>
</section>

{#if sending}
	<form
		class="mt-4 flex flex-wrap items-end gap-3 border-l-4 border-brass pl-4"
		onsubmit={(event) => (event.preventDefault(), void send())}
	>
		<p class="w-full">Send “{sending.name}” to a slot:</p>
		<div class="field">
			<label for="target">Device</label>
			<select id="target" class="select" bind:value={target}>
				{#each data.receivers as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="slot">Slot</label>
			<select id="slot" class="select w-28" bind:value={slot}>
				{#each receiver?.labels as label, index (index)}<option value={index}>{label}</option>{/each}
			</select>
		</div>
		<button class="btn btn-primary">Look at it first</button>
		<button type="button" class="btn btn-ghost" onclick={() => (sending = null)}>Leave it</button>
	</form>
{/if}

<section class="mt-6" aria-label="Life">
	<h2 class="mb-2">Its life</h2>
	<ol class="life">
		{#each data.life.events as { kind, stay, from, change, at }, i (i)}
			<li class={[stay.record === data.sound.hash && kind !== 'lost' && 'is-this']}>
				<span class="glyph" aria-hidden="true">{SIGNS[kind].glyph}</span>
				<div class="min-w-0">
					<p>
						<strong>{SIGNS[kind].word}</strong>
						<When {at} />{kind === 'lost' ? `: overwritten in ${place(stay)}` : `: ${place(stay)}`}{from &&
						(from.deviceId !== stay.deviceId || from.slot !== stay.slot)
							? `, from ${place(from)}`
							: ''}{kind !== 'lost' && stay.name ? `, as “${stay.name}”` : ''}
					</p>
					{#if change && kind !== 'lost'}
						{#if change.name}<p class="small-print">{change.name.from} → {change.name.to}</p>{/if}
						<p class="small-print">
							{change.parameters
								.slice(0, 6)
								.map(({ name, from: was, to }) => `${name} ${was} → ${to}`)
								.join(' · ')}{change.parameters.length > 6 ? ` and ${change.parameters.length - 6} more` : ''}
						</p>
					{/if}
					{#if kind !== 'lost'}
						<p class="mt-1 flex gap-2">
							<a
								class="btn btn-xs"
								href={`/gear/${stay.deviceId}/drawer?v=${stay.versionId}&slot=${stay.area}:${stay.slot}`}
								>Open version<span class="sr-only"> of {minuteOf(at)}, {place(stay)}</span></a
							>
							<button
								class="btn btn-xs"
								onclick={() => (sending = { record: stay.record, name: stay.name ?? 'unnamed' })}
								>Go back to this<span class="sr-only"> of {minuteOf(at)}, {place(stay)}</span></button
							>
						</p>
					{/if}
				</div>
			</li>
		{/each}
	</ol>
</section>

<section class="mt-6" aria-label="Settings of the sound">
	<h2 class="mb-1">As it is in this form</h2>
	<dl class="columns-2 text-sm md:columns-4">
		{#each data.sound.parameters as { id, name, shown } (id)}
			<div class="flex justify-between gap-3">
				<dt class="truncate text-slate">{name}</dt>
				<dd class="figures">{shown}</dd>
			</div>
		{/each}
	</dl>
</section>

<style>
	.life {
		border-left: 2px solid var(--color-line);
		margin-left: 12px;
	}
	.life li {
		display: flex;
		gap: 12px;
		padding: 6px 0;
	}
	.glyph {
		flex: none;
		width: 26px;
		height: 26px;
		margin-left: -14px;
		border: 2px solid var(--color-line);
		border-radius: 4px;
		background: var(--color-sheet);
		text-align: center;
		line-height: 21px;
	}
	.is-this .glyph {
		border-color: var(--color-chosen);
	}
</style>
