<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';
	import { stageNamed } from '$lib/ui/stages';

	let { children } = $props();
</script>

<div class="mb-4"><Tabs label="Pages of the sounds" tabs={[...stageNamed('sounds').pages]} /></div>
{@render children()}
