<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { untrack } from 'svelte';
	import { createVirtualizer } from '@tanstack/svelte-virtual';
	import { WIRE_BYTES_PER_SECOND, toHex, writeSysexMidiFile } from '$lib/core/midi';
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { traffic, type Passed } from '$lib/hardware/traffic.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { kindOf, meaning, MONITOR_KINDS, ratesOf, type MonitorKind } from '$lib/ui/monitor-words';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { saveFile } from '$lib/ui/save-file';
	import { count, groupHex } from '$lib/ui/words';

	let { data } = $props();
	const ROW = 24;
	let paused = $state(false);
	/** What stands still while the page is paused. */
	let held = $state.raw<Passed[] | null>(null);
	let hidden = $state<Partial<Record<MonitorKind, boolean>>>({});
	let words = $state('');
	let port = $state('');
	let opened = $state.raw<Passed | null>(null);
	let scroller: HTMLDivElement | undefined = $state();
	let follow = $state(true);
	const doing = new Doing();

	const filtered = $derived(Object.values(hidden).some(Boolean) || words.trim() !== '' || port !== '');
	/** What is shown, as a new thing each time: the list itself grows in place. */
	const shown = $derived.by(() => {
		void traffic.tick;
		const all = held ?? traffic.all();
		const wanted = words.trim().toLowerCase();
		const list = filtered
			? all.filter(
					(passed) =>
						!hidden[kindOf(passed.bytes)] &&
						(port === '' || passed.port === port) &&
						(wanted === '' || meaning(data.profiles, passed.bytes).toLowerCase().includes(wanted))
				)
			: all;
		return { list, length: list.length, of: all.length };
	});
	const ports = $derived.by(() => {
		void traffic.tick;
		return [
			...new Set(
				traffic
					.all()
					.slice(-5000)
					.map((passed) => passed.port)
			)
		].sort();
	});
	const rates = $derived.by(() => {
		void traffic.tick;
		return ratesOf(traffic.all(), performance.now());
	});

	const virtual = createVirtualizer<HTMLDivElement, HTMLDivElement>({
		count: 0,
		getScrollElement: () => scroller ?? null,
		estimateSize: () => ROW,
		overscan: 12
	});
	$effect(() => {
		const { length } = shown;
		// The list tells of its own changes: reading it here would go round in circles.
		untrack(() => {
			$virtual.setOptions({ count: length, getScrollElement: () => scroller ?? null });
			if (follow && !paused && length > 0) $virtual.scrollToIndex(length - 1);
		});
	});

	function pause() {
		paused = !paused;
		held = paused ? [...traffic.all()] : null;
	}

	function save(as: 'txt' | 'syx' | 'mid') {
		const { list } = shown;
		if (as === 'txt') {
			const lines = list.map(
				({ atMs, port: at, way, bytes }) =>
					`${(atMs / 1000).toFixed(3)}\t${at}\t${way}\t${meaning(data.profiles, bytes)}\t${toHex(bytes, ' ')}`
			);
			saveFile('monitor.txt', `${lines.join('\n')}\n`, 'text/plain');
			return;
		}
		const dumps = list.map(({ bytes }) => bytes).filter((bytes) => bytes[0] === 0xf0);
		const content = as === 'mid' ? [writeSysexMidiFile(dumps)] : dumps;
		saveFile(`monitor.${as}`, content, 'application/octet-stream');
	}

	$effect(() => {
		if (desk.world !== 'hardware' || midiDesk.permission !== 'granted') return;
		return midiDesk.hearAll();
	});
	$effect(() =>
		pageKeys.add([
			{ key: 'p', says: 'Pause, or resume', run: pause },
			{ key: 'x', says: 'Clear what passed', run: () => traffic.clear() }
		])
	);
</script>

<svelte:head><title>Monitor · Silent Drawer</title></svelte:head>

<div class="flex flex-wrap items-end gap-3">
	<div class="field">
		<label for="monitor-port">Port</label>
		<select id="monitor-port" class="select select-sm" bind:value={port}>
			<option value="">all</option>
			{#each ports as name (name)}<option value={name}>{name}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="monitor-words">Meaning contains</label>
		<input id="monitor-words" class="input w-48 input-sm" bind:value={words} />
	</div>
	<fieldset class="flex flex-wrap gap-3">
		<legend class="sr-only">Kinds that are shown</legend>
		{#each Object.entries(MONITOR_KINDS) as [kind, title] (kind)}
			<label class="flex items-center gap-1 text-sm"
				><input
					type="checkbox"
					class="checkbox checkbox-xs"
					checked={!hidden[kind as MonitorKind]}
					onchange={(event) => (hidden = { ...hidden, [kind]: !event.currentTarget.checked })}
				/>{title}</label
			>
		{/each}
	</fieldset>
	<span class="flex-1"></span>
	<button class="btn btn-sm" aria-pressed={paused} onclick={pause}
		>{paused ? 'Resume' : 'Pause'} <span class="key">P</span></button
	>
	<button class="btn btn-sm" onclick={() => traffic.clear()}>Clear <span class="key">X</span></button>
	<button class="btn btn-xs" onclick={() => save('txt')}>.txt</button>
	<button class="btn btn-xs" onclick={() => save('syx')}>.syx</button>
	<button class="btn btn-xs" onclick={() => save('mid')}>.mid</button>
</div>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
<p class="small-print mt-2" role="status">
	{count(shown.length, 'message')}{filtered ? ` of ${shown.of.toLocaleString('en')}` : ''}{paused
		? ', standing still'
		: ''}.
	{desk.world === 'bench'
		? 'On the bench, what transfers and roll calls of this tab say is heard.'
		: midiDesk.permission === 'granted'
			? 'Every in of the computer is heard, and what this tab sends.'
			: ''}
</p>
{#if desk.world === 'hardware' && midiDesk.permission !== 'granted'}
	<button class="btn mt-2 btn-primary" onclick={() => void doing.run(() => midiDesk.ask())}
		>Listen to the computer’s MIDI ports</button
	>
{/if}
{#if rates.length > 0}
	<ul class="mt-1 flex flex-wrap gap-4 text-sm" aria-label="Rate of each port">
		{#each rates as rate (rate.port)}
			<li class="figures">
				<strong>{rate.port}</strong>
				{rate.messages} messages/s, {rate.bytes.toLocaleString('en')} B/s ({Math.round(
					(rate.bytes / WIRE_BYTES_PER_SECOND) * 100
				)} % of a wire)
			</li>
		{/each}
	</ul>
{/if}

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
	bind:this={scroller}
	class="mt-2 h-[52vh] overflow-auto border border-line bg-ground font-mono text-xs outline-offset-2"
	role="log"
	aria-label="Messages"
	aria-live="off"
	tabindex="0"
	onscroll={() => {
		if (scroller) follow = scroller.scrollTop + scroller.clientHeight > scroller.scrollHeight - 4 * ROW;
	}}
>
	<div style={`height: ${$virtual.getTotalSize()}px; position: relative`}>
		{#each $virtual.getVirtualItems() as row (row.key)}
			{@const passed = shown.list[row.index]}
			{#if passed}
				<button
					class={['line', opened === passed && 'is-open']}
					style={`transform: translateY(${row.start}px)`}
					onclick={() => (opened = opened === passed ? null : passed)}
				>
					<span class="text-slate">{(passed.atMs / 1000).toFixed(3)}</span>
					<span class="truncate"
						>{passed.way === 'sent' ? '→' : '←'}<span class="sr-only">{passed.way}</span> {passed.port}</span
					>
					<span class="truncate">{meaning(data.profiles, passed.bytes)}</span>
					<span class="truncate text-slate"
						>{groupHex(toHex(passed.bytes.subarray(0, 16)))}{passed.bytes.length > 16 ? ' …' : ''}</span
					>
				</button>
			{/if}
		{/each}
	</div>
</div>
{#if opened}
	<section aria-label="Bytes" class="mt-3">
		<h2>{meaning(data.profiles, opened.bytes)}</h2>
		<p class="small-print">{opened.port}, {opened.way}, {opened.bytes.length.toLocaleString('en')} bytes</p>
		<pre class="mt-1 max-h-60 overflow-auto font-mono text-xs">{Array.from(
				{ length: Math.ceil(opened.bytes.length / 16) },
				(_, i) =>
					`${(i * 16).toString(16).padStart(4, '0')}  ${toHex(opened!.bytes.subarray(i * 16, i * 16 + 16), ' ')}`
			).join('\n')}</pre>
	</section>
{/if}

<style>
	.line {
		position: absolute;
		display: grid;
		grid-template-columns: 5rem 11rem minmax(0, 1fr) minmax(0, 22rem);
		gap: 10px;
		width: 100%;
		height: 24px;
		align-items: center;
		padding: 0 8px;
		text-align: left;
	}
	.line.is-open {
		background: var(--color-sheet);
		box-shadow: inset 3px 0 0 var(--color-chosen);
	}
</style>
