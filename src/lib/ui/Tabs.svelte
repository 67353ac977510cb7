<script lang="ts">
	import { page } from '$app/state';

	/** The pages of one thing, as labels on its edge; `mark` counts the problems behind one. */
	let { label, tabs }: { label: string; tabs: { title: string; href: string; mark?: number }[] } = $props();

	/** What lies below a tab belongs to it; the first one is the room itself. */
	const isHere = (href: string) =>
		page.url.pathname === href || (href !== tabs[0].href && page.url.pathname.startsWith(`${href}/`));
</script>

<nav aria-label={label} class="flex">
	<div class="tabs-lift tabs">
		{#each tabs as { title, href, mark } (href)}
			<a
				{href}
				class={['plate tab text-base text-ink', isHere(href) && 'tab-active']}
				aria-current={isHere(href) ? 'page' : undefined}
				>{title}{#if mark}
					<span class="ml-1.5 badge badge-outline badge-sm badge-error"
						>{mark}<span class="sr-only"> {mark === 1 ? 'problem' : 'problems'}</span></span
					>{/if}</a
			>
		{/each}
	</div>
	<span class="flex-1 border-b border-line" aria-hidden="true"></span>
</nav>
