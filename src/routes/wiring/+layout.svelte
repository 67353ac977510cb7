<script lang="ts">
	import { page } from '$app/state';
	import { checkRig } from '$lib/core/rig';
	import { count } from '$lib/ui/words';

	let { data, children } = $props();
	const troubles = $derived(checkRig(data.rig).filter(({ severity }) => severity !== 'note').length);
	const tabs = $derived([
		{ title: 'Channels', href: '/wiring' },
		{ title: 'Map', href: '/wiring/map' },
		{ title: 'Trace', href: '/wiring/trace' },
		{ title: 'Problems', href: '/wiring/problems', mark: troubles },
		{ title: 'Plan', href: '/wiring/plan' },
		{ title: 'Timing', href: '/wiring/timing' },
		{ title: 'Host ports', href: '/wiring/host' },
		{ title: 'Audio returns', href: '/wiring/returns' },
		{ title: 'Sheets', href: '/wiring/sheets' }
	]);
</script>

<header class="mb-4 print:hidden">
	<h1>Wiring</h1>
	<nav aria-label="Pages of the wiring" class="mt-2 flex flex-wrap gap-1 border-b border-line">
		{#each tabs as tab (tab.href)}
			<a
				href={tab.href}
				class={['tab-label plate', page.url.pathname === tab.href && 'is-here']}
				aria-current={page.url.pathname === tab.href ? 'page' : undefined}
				>{tab.title}{#if tab.mark}
					<span class="mark" title={count(tab.mark, 'problem')}
						>{tab.mark}<span class="sr-only"> {tab.mark === 1 ? 'problem' : 'problems'}</span></span
					>{/if}</a
			>
		{/each}
	</nav>
</header>
{@render children()}

<style>
	.tab-label {
		padding: 5px 11px;
		border: 1px solid transparent;
		border-bottom: 0;
		border-radius: 4px 4px 0 0;
		margin-bottom: -1px;
	}
	.tab-label.is-here {
		background: var(--color-sheet);
		border-color: var(--color-line);
	}
	.mark {
		display: inline-block;
		min-width: 1.4em;
		margin-left: 4px;
		line-height: 1.25;
		padding: 0 0.35em;
		border: 1.5px solid var(--color-rust);
		border-radius: 3px;
		font-size: 0.8rem;
		text-align: center;
		color: var(--color-rust);
	}
</style>
