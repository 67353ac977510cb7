<script lang="ts">
	import { page } from '$app/state';
	import Moon from '@lucide/svelte/icons/moon';
	import PanelLeft from '@lucide/svelte/icons/panel-left';
	import Sun from '@lucide/svelte/icons/sun';
	import { desk, SPEEDS } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { STAGES } from './stages';
	import { light } from './theme.svelte';

	let {
		onCommands,
		onKeys,
		onCabinet
	}: { onCommands: () => void; onKeys: () => void; onCabinet: () => void } = $props();
	const speed = $derived(SPEEDS.find(({ factor }) => factor === desk.speed)?.title ?? '');
</script>

<header class="flex h-13 shrink-0 items-center gap-2 border-b border-line bg-ground px-4">
	<button class="btn btn-ghost btn-sm min-[900px]:hidden" onclick={onCabinet} aria-label="Open the cabinet"
		><PanelLeft size={18} /></button
	>
	<nav aria-label="Stages" class="flex gap-1">
		{#each STAGES as stage (stage.id)}
			<a
				href={stage.href}
				class={['stage plate', page.url.pathname.startsWith(stage.href) && 'is-here']}
				aria-current={page.url.pathname.startsWith(stage.href) ? 'page' : undefined}
				title={stage.says}
			>
				<span class="key" aria-hidden="true">{stage.key}</span>{stage.title}
			</a>
		{/each}
	</nav>
	<form action="/sounds" class="ml-2 min-w-0 flex-1" role="search">
		<label class="input w-full max-w-64 input-sm">
			<span class="sr-only">Find a sound</span>
			<input
				type="search"
				name="q"
				placeholder="Find a sound by name"
				value={page.url.pathname === '/sounds' ? page.url.searchParams.get('q') : ''}
			/>
		</label>
	</form>
	<button class="btn btn-sm" onclick={onCommands}>Go to or do <span class="key">Ctrl K</span></button>
	<a
		href={desk.world === 'bench' ? '/transfers/bench' : '/transfers/ports'}
		class="lamp"
		title={desk.world === 'bench' ? speed : `${midiDesk.present.length} ports`}
	>
		<span class={['bulb', desk.running && 'is-busy']} aria-hidden="true"></span>
		<span
			><span class="sr-only">Line: </span><strong>{desk.world === 'bench' ? 'Bench' : 'Hardware'}</strong> · {desk
				.runs.length > 1
				? `busy: ${desk.runs.length} devices`
				: desk.running
					? `busy: ${desk.running.deviceName}`
					: desk.world === 'hardware' && midiDesk.permission !== 'granted'
						? 'ports not open'
						: 'idle'}</span
		>
	</a>
	<button
		class="btn btn-square btn-ghost btn-sm"
		onclick={() => light.toggle()}
		aria-label={light.theme === 'daylight' ? 'Switch to lamplight' : 'Switch to daylight'}
	>
		{#if light.theme === 'daylight'}<Moon size={17} />{:else}<Sun size={17} />{/if}
	</button>
	<button class="btn btn-square btn-ghost btn-sm" onclick={onKeys} aria-label="Keys of this page">?</button>
</header>

<style>
	.stage {
		display: flex;
		align-items: center;
		gap: 6px;
		padding: 4px 10px;
		border-bottom: 3px solid transparent;
	}
	.stage.is-here {
		border-bottom-color: var(--color-brass);
	}
	.lamp {
		display: flex;
		align-items: center;
		gap: 7px;
		max-width: 210px;
		padding: 3px 10px;
		border: 1px solid var(--color-line);
		border-radius: 99px;
		font-size: 0.85rem;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.bulb {
		width: 10px;
		height: 10px;
		flex: none;
		border: 2px solid var(--color-slate);
		border-radius: 50%;
	}
	.bulb.is-busy {
		background: var(--color-brass);
		border-color: var(--color-brass);
	}
</style>
