<script lang="ts">
	import { page } from '$app/state';
	import Moon from '@lucide/svelte/icons/moon';
	import PanelLeft from '@lucide/svelte/icons/panel-left';
	import Sun from '@lucide/svelte/icons/sun';
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { STAGES } from './stages';
	import { light } from './theme.svelte';
	import { count } from './words';

	let {
		onCommands,
		onKeys,
		onCabinet,
		cabinet
	}: { onCommands: () => void; onKeys: () => void; onCabinet: () => void; cabinet: boolean } = $props();
	const speed = $derived(`${desk.speed} × speed`);
</script>

<header class="strip">
	<button
		class="btn btn-ghost btn-sm min-[900px]:hidden"
		onclick={onCabinet}
		aria-expanded={cabinet}
		aria-controls="cabinet"
		aria-label="Open the cabinet"><PanelLeft size={18} /></button
	>
	<nav aria-label="Stages" class="flex flex-wrap">
		{#each STAGES as stage (stage.id)}
			<a
				href={stage.href}
				class={['stage plate', page.url.pathname.startsWith(stage.href) && 'is-here']}
				aria-current={page.url.pathname.startsWith(stage.href) ? 'page' : undefined}
			>
				<span class="key max-[1100px]:hidden" aria-hidden="true">{stage.key}</span>{stage.title}
			</a>
		{/each}
	</nav>
	<form action="/sounds" class="min-w-24 flex-1 max-sm:basis-24" role="search">
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
	<div class="flex min-w-0 items-center gap-1">
		<button class="btn btn-sm" onclick={onCommands}
			><span class="max-[1100px]:hidden">Go to or do</span><span class="min-[1101px]:hidden">Go to</span>
			<span class="key max-sm:hidden">Ctrl K</span></button
		>
		<a href={desk.world === 'bench' ? '/transfers/bench' : '/transfers/ports'} class="lamp">
			<span class={['bulb', desk.running && 'is-busy']} aria-hidden="true"></span>
			<span class="truncate"
				><span class="sr-only">Line: </span><strong>{desk.world === 'bench' ? 'Bench' : 'Hardware'}</strong> · {desk
					.runs.length > 1
					? `busy: ${desk.runs.length} devices`
					: desk.running
						? `busy: ${desk.running.deviceName}`
						: desk.world === 'bench'
							? `idle${desk.speed > 1 ? `, ${speed}` : ''}`
							: midiDesk.permission === 'granted'
								? `${count(midiDesk.present.length, 'port')} open`
								: 'ports not open'}</span
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
	</div>
</header>

<style>
	.strip {
		display: flex;
		flex-wrap: wrap;
		flex-shrink: 0;
		align-items: center;
		gap: 0.15rem 0.5rem;
		min-height: 3.25rem;
		padding: 0.2rem 1rem;
		border-bottom: 1px solid var(--color-line);
		background: var(--color-ground);
	}
	@media (max-width: 640px) {
		.strip {
			padding: 0.2rem 0.5rem;
		}
	}
	.stage {
		display: flex;
		align-items: center;
		gap: 6px;
		padding: 4px clamp(4px, 0.75vw, 10px);
		border-bottom: 3px solid transparent;
	}
	.stage.is-here {
		border-bottom-color: var(--color-chosen);
	}
	.lamp {
		display: flex;
		align-items: center;
		gap: 7px;
		min-width: 0;
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
		background: var(--color-going);
		border-color: var(--color-going);
	}
</style>
