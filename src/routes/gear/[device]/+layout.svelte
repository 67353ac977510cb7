<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { pageKeys } from '$lib/ui/keys.svelte';

	let { data, children } = $props();
	const base = $derived(`/gear/${data.device.id}`);
	const tabs = $derived([
		{ title: 'Facts', href: base },
		{ title: 'Ports', href: `${base}/ports` },
		...(data.profile
			? [
					{ title: 'Drawer', href: `${base}/drawer` },
					{ title: 'Profile', href: `${base}/profile` }
				]
			: [{ title: 'Drawer', href: `${base}/drawer` }]),
		{ title: 'Notes', href: `${base}/notes` }
	]);
	const readable = $derived((data.profile?.capture.length ?? 0) > 0);
	const backUp = $derived(`/transfers/new?device=${data.device.id}`);

	$effect(() => {
		if (!readable) return;
		return pageKeys.add([{ key: 'b', says: `Back up ${data.device.name}`, run: () => void goto(backUp) }]);
	});
</script>

<header class="mb-4">
	<div class="flex flex-wrap items-center gap-3">
		<div class="min-w-0 flex-1">
			<h1 class="truncate" title={data.device.name}>{data.device.name}</h1>
			<p class="small-print">
				{[`${data.device.maker} ${data.device.model}`.trim(), data.device.kind, data.device.place]
					.filter(Boolean)
					.join(' · ')}
				{#if data.device.archivedAt}· archived{/if}
			</p>
		</div>
		{#if readable}<a href={backUp} class="btn btn-primary">Back up <span class="key">B</span></a>{/if}
	</div>
	<nav aria-label="Pages of this device" class="mt-3 flex gap-1 border-b border-line">
		{#each tabs as tab (tab.href)}
			<a
				href={tab.href}
				class={['tab-label plate', page.url.pathname === tab.href && 'is-here']}
				aria-current={page.url.pathname === tab.href ? 'page' : undefined}>{tab.title}</a
			>
		{/each}
	</nav>
</header>
{@render children()}

<style>
	.tab-label {
		padding: 5px 12px;
		border: 1px solid transparent;
		border-bottom: 0;
		border-radius: 4px 4px 0 0;
		margin-bottom: -1px;
	}
	.tab-label.is-here {
		background: var(--color-sheet);
		border-color: var(--color-line);
	}
</style>
