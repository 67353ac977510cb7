<script lang="ts">
	import StepButtons from '../StepButtons.svelte';
	import { moveWiring } from './change-rig';

	interface Step {
		id: number;
		says: string;
	}
	/** Takes back the last step of the wiring, or makes it again; through reloads, and whoever made it. */
	let { steps }: { steps: { undo: Step | null; redo: Step | null } } = $props();
	let busy = $state(false);

	async function move(which: 'undo' | 'redo') {
		const step = steps[which];
		if (!step || busy) return;
		busy = true;
		await moveWiring(which, step.id);
		busy = false;
	}
</script>

<StepButtons of="the wiring" {steps} {busy} move={(which) => void move(which)} />
