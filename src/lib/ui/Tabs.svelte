<script lang="ts">
	import { page } from '$app/state';
	import { count } from './words';

	/** The pages of one thing, as labels on its edge; `mark` counts the problems behind one. */
	let { label, tabs }: { label: string; tabs: { title: string; href: string; mark?: number }[] } = $props();

	/** What lies below a tab belongs to it; the first one is the room itself. */
	const isHere = (href: string) =>
		page.url.pathname === href || (href !== tabs[0].href && page.url.pathname.startsWith(`${href}/`));
</script>

<nav aria-label={label} class="flex flex-wrap gap-1 border-b border-line">
	{#each tabs as { title, href, mark } (href)}
		<a
			{href}
			class={['tab-label plate', isHere(href) && 'is-here']}
			aria-current={isHere(href) ? 'page' : undefined}
			>{title}{#if mark}
				<span class="mark" title={count(mark, 'problem')}
					>{mark}<span class="sr-only"> {mark === 1 ? 'problem' : 'problems'}</span></span
				>{/if}</a
		>
	{/each}
</nav>

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
		padding: 0 0.35em;
		border: 1.5px solid var(--color-rust);
		border-radius: 3px;
		font-size: 0.8rem;
		line-height: 1.25;
		text-align: center;
		color: var(--color-rust);
	}
</style>
