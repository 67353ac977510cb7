<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';
	import { stageNamed } from '$lib/ui/stages';

	let { children } = $props();
</script>

<header class="mb-4">
	<h1>Control</h1>
	<div class="mt-2"><Tabs label="Pages of control" tabs={[...stageNamed('control').pages]} /></div>
</header>
{@render children()}
