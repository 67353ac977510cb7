<script lang="ts">
	import { provideMap } from '$lib/ui/control/map-context';

	let { data, children } = $props();
	// svelte-ignore state_referenced_locally
	const open = provideMap(data.opened);
	$effect(() => open.take(data.opened));
</script>

{@render children()}
