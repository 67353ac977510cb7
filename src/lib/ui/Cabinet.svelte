<script lang="ts">
	import { page } from '$app/state';
	import StateMark, { type Mark } from './StateMark.svelte';
	import { roving } from './roving';

	export interface DrawerFront {
		id: string;
		name: string;
		place: string;
		line: string;
		state: Mark;
		hasMemory: boolean;
	}

	let { fronts, open = $bindable(false) }: { fronts: DrawerFront[]; open?: boolean } = $props();
	let wanted = $state('');
	let cabinet: HTMLElement | undefined = $state();

	// Over the page it takes the focus with it, keeps it, and gives it back.
	$effect(() => {
		if (!open || !cabinet) return;
		const before = document.activeElement;
		cabinet.querySelector<HTMLElement>('button, input, a')?.focus();
		return () => {
			if (before instanceof HTMLElement && before.isConnected) before.focus();
		};
	});
	function stayInside(event: KeyboardEvent) {
		if (!open || event.key !== 'Tab' || !cabinet) return;
		const stops = [...cabinet.querySelectorAll<HTMLElement>('a, button, input')].filter(
			({ tabIndex }) => tabIndex >= 0
		);
		const edge = event.shiftKey ? stops[0] : stops.at(-1);
		if (document.activeElement !== edge) return;
		event.preventDefault();
		(event.shiftKey ? stops.at(-1) : stops[0])?.focus();
	}

	const shown = $derived(
		fronts.filter(({ name, place, line }) =>
			`${name} ${place} ${line}`.toLowerCase().includes(wanted.trim().toLowerCase())
		)
	);
	const places = $derived(
		[...new Set(shown.map(({ place }) => place))].sort((a, b) => (a || '~').localeCompare(b || '~'))
	);
	const openId = $derived(page.params.device);
</script>

{#if open}<button class="scrim" tabindex="-1" aria-label="Close the cabinet" onclick={() => (open = false)}
	></button>{/if}
<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav
	id="cabinet"
	aria-label="Cabinet"
	class={['cabinet', open && 'is-open']}
	bind:this={cabinet}
	onkeydown={stayInside}
>
	{#if open}<button class="btn m-2 self-end btn-sm min-[900px]:hidden" onclick={() => (open = false)}
			>Close</button
		>{/if}
	<a
		href="/"
		class="plate block px-4 pt-3 pb-2 text-xl"
		aria-current={page.url.pathname === '/' ? 'page' : undefined}>Silent Drawer</a
	>
	<div class="px-3 pb-2">
		<label class="input w-full input-sm">
			<span class="sr-only">Filter the drawers</span>
			<input
				id="cabinet-filter"
				type="search"
				placeholder="Filter drawers"
				bind:value={wanted}
				onkeydown={(event) => event.key === 'Escape' && (wanted = '')}
			/>
			<span class="key" aria-hidden="true">/</span>
		</label>
	</div>
	<div class="flex-1 overflow-y-auto pb-4 pl-3" {@attach roving('a')}>
		{#each places as place (place)}
			<h2 class="mt-2 mb-1 text-sm text-slate">{place || 'No place yet'}</h2>
			<ul>
				{#each shown.filter((front) => front.place === place) as front (front.id)}
					<li>
						<a
							href={`/gear/${front.id}${front.hasMemory ? '/drawer' : ''}`}
							class={['front', front.id === openId && 'is-out']}
							aria-current={front.id === openId ? 'true' : undefined}
							onclick={() => (open = false)}
						>
							<span class="plate label-plate">{front.name}</span>
							<span class="line"
								><StateMark state={front.state} size={11} /><span class="truncate">{front.line}</span></span
							>
						</a>
					</li>
				{/each}
			</ul>
		{:else}
			<p class="small-print px-1 py-3">
				{fronts.length === 0 ? 'The cabinet is empty.' : 'No drawer is called that.'}
			</p>
		{/each}
	</div>
	{#if page.data.world === 'bench'}<p class="small-print px-4 pt-1 pb-2">
			A studio on the bench: every device is simulated.
		</p>{/if}
	<a href="/gear/new" class="btn mx-3 mb-3 btn-sm">Add a device</a>
</nav>

<style>
	.cabinet {
		display: flex;
		flex-direction: column;
		width: 260px;
		min-height: 0;
		background: var(--color-ground);
		border-right: 1px solid var(--color-line);
	}
	.front {
		position: relative;
		display: block;
		margin-bottom: 3px;
		padding: 2px 10px 4px;
		background: color-mix(in srgb, var(--color-sheet) 55%, var(--color-ground));
		border: 1px solid var(--color-line);
		border-right: 0;
		border-radius: 4px 0 0 4px;
		transition: margin 120ms;
	}
	/* The pull: a short brass line at the lower edge. */
	.front::after {
		content: '';
		position: absolute;
		left: 50%;
		bottom: 1px;
		width: 26px;
		height: 2px;
		margin-left: -13px;
		border-radius: 1px;
		background: var(--color-brass);
		opacity: 0.55;
	}
	.front:hover {
		background: var(--color-sheet);
	}
	.front.is-out {
		margin-left: -6px;
		margin-right: -1px;
		padding-top: 6px;
		padding-bottom: 8px;
		background: var(--color-sheet);
		border-left: 4px solid var(--color-chosen);
		z-index: 1;
	}
	.label-plate {
		display: block;
		font-size: 1rem;
		line-height: 1.2;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.line {
		display: flex;
		align-items: center;
		gap: 5px;
		min-width: 0;
		font-size: 0.8rem;
		color: var(--color-slate);
	}
	.scrim {
		display: none;
	}
	@media (max-width: 899px) {
		.scrim {
			display: block;
			position: fixed;
			inset: 0;
			z-index: 29;
			background: color-mix(in srgb, #000 45%, transparent);
		}
		.cabinet {
			position: fixed;
			inset: 0 auto 0 0;
			z-index: 30;
			transform: translateX(-100%);
			visibility: hidden;
		}
		.cabinet.is-open {
			transform: none;
			visibility: visible;
		}
	}
</style>
