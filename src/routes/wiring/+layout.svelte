<script lang="ts">
	import { page } from '$app/state';
	import { checkRig } from '$lib/core/rig';
	import Tabs from '$lib/ui/Tabs.svelte';
	import { WiringWatch } from '$lib/ui/wiring/watch-wiring.svelte';
	import WiringSteps from '$lib/ui/wiring/WiringSteps.svelte';

	let { data, children } = $props();
	const watch = new WiringWatch();
	$effect(() => watch.begin(() => ({ revision: data.revision, plan: data.plans.at(-1)?.id ?? null })));
	const troubles = $derived(checkRig(data.rig).filter(({ severity }) => severity !== 'note').length);
	const tabs = $derived([
		{ title: 'Channels', href: '/wiring' },
		{ title: 'Map', href: '/wiring/map' },
		{ title: 'Problems', href: '/wiring/problems', mark: troubles },
		{ title: 'Plan and timing', href: '/wiring/plan' },
		{ title: 'Ins and outs', href: '/wiring/host' },
		{ title: 'Power', href: '/wiring/power' },
		{ title: 'Sheets', href: '/wiring/sheets' }
	]);
</script>

<header class="mb-4 print:hidden">
	<div class="flex flex-wrap items-center justify-between gap-3">
		<h1>Wiring</h1>
		{#if !page.url.pathname.startsWith('/wiring/power')}<WiringSteps steps={data.steps} />{/if}
	</div>
	{#if watch.outOfTouch}<p role="status" class="text-rust">
			The server does not answer: what is shown may be older.
		</p>{/if}
	<div class="mt-2"><Tabs label="Pages of the wiring" {tabs} /></div>
</header>
{@render children()}
