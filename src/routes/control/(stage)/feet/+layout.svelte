<script lang="ts">
	import { provideFloor } from '$lib/ui/feet/open-floor.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import Rooms from '$lib/ui/Rooms.svelte';
	import StepButtons from '$lib/ui/StepButtons.svelte';

	let { data, children } = $props();
	// svelte-ignore state_referenced_locally
	const open = provideFloor(data.opened);
	$effect(() => open.take(data.opened));

	const rooms = [
		{ title: 'Lines', href: '/control/feet' },
		{ title: 'All pairings', href: '/control/feet/pairings' },
		{ title: 'Slots and presets', href: '/control/feet/slots' },
		{ title: 'Deputies', href: '/control/feet/deputies' },
		{ title: 'What there is', href: '/control/feet/shelf' },
		{ title: 'Sheet', href: '/control/feet/sheet' }
	];
</script>

<div class="mb-4 flex flex-wrap items-center justify-between gap-3 print:hidden">
	<Rooms of="the floor" {rooms} />
	<StepButtons
		of="the floor"
		steps={open.steps}
		busy={open.doing.busy}
		move={(which) => void open.move(which)}
	/>
</div>
{#if open.doing.problem}<div class="mb-3"><ProblemNote problem={open.doing.problem} /></div>{/if}
{@render children()}
