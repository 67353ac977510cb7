<script lang="ts">
	import { checkRig } from '$lib/core/rig';
	import Tabs from '$lib/ui/Tabs.svelte';

	let { data, children } = $props();
	const troubles = $derived(checkRig(data.rig).filter(({ severity }) => severity !== 'note').length);
	const tabs = $derived([
		{ title: 'Channels', href: '/wiring' },
		{ title: 'Map', href: '/wiring/map' },
		{ title: 'Trace', href: '/wiring/trace' },
		{ title: 'Problems', href: '/wiring/problems', mark: troubles },
		{ title: 'Plan', href: '/wiring/plan' },
		{ title: 'Timing', href: '/wiring/timing' },
		{ title: 'Computer ports', href: '/wiring/host' },
		{ title: 'Audio returns', href: '/wiring/returns' },
		{ title: 'Sheets', href: '/wiring/sheets' }
	]);
</script>

<header class="mb-4 print:hidden">
	<h1>Wiring</h1>
	<div class="mt-2"><Tabs label="Pages of the wiring" {tabs} /></div>
</header>
{@render children()}
