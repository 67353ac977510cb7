<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';
	import { stageNamed } from '$lib/ui/stages';

	let { children } = $props();
</script>

<header class="mb-4">
	<h1>Transfers</h1>
	<div class="mt-2"><Tabs label="Pages of the transfers" tabs={[...stageNamed('transfers').pages]} /></div>
</header>
{@render children()}
