<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';
	import { stageNamed } from '$lib/ui/stages';

	let { children } = $props();
</script>

<header class="mb-4 print:hidden">
	<h1>Care</h1>
	<div class="mt-2"><Tabs label="Pages of care" tabs={[...stageNamed('care').pages]} /></div>
</header>
{@render children()}
