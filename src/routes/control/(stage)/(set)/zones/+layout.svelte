<script lang="ts">
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import Rooms from '$lib/ui/Rooms.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';

	let { children } = $props();
	const open = openSet();
	const rooms = [
		{ title: 'Desk and scenes', href: '/control/zones' },
		{ title: 'Players and instruments', href: '/control/zones/gear' }
	];
</script>

<div class="mb-4 flex flex-wrap items-center justify-between gap-3 print:hidden">
	<Rooms of="the zones" {rooms} />
	<StepButtons
		of="the set"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</div>
{@render children()}
