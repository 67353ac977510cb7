<script lang="ts">
	import { page } from '$app/state';
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';

	let { children } = $props();
	const open = openSet();
	const rooms = [
		{ title: 'Desk and scenes', href: '/control/zones' },
		{ title: 'Players and instruments', href: '/control/zones/gear' }
	];
</script>

<div class="mb-4 flex flex-wrap items-center justify-between gap-3 print:hidden">
	<nav aria-label="Rooms of the zones" class="flex flex-wrap gap-1">
		{#each rooms as { title, href } (href)}
			<a
				{href}
				class={['btn btn-ghost btn-sm', page.url.pathname === href && 'is-chosen']}
				aria-current={page.url.pathname === href ? 'page' : undefined}>{title}</a
			>
		{/each}
	</nav>
	<StepButtons
		of="the set"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</div>
{@render children()}
