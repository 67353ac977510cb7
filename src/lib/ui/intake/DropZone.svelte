<script lang="ts">
	import { intake } from '../intake.svelte';
	import { notices } from '../notices.svelte';
	import { problemOf } from '../words';
	import { filesOf } from './dropped';

	/** The whole window takes files and folders; what looks into them is fetched when there are any. */
	let over = $state(false);
	let brought = $state(false);
	$effect(() => {
		if (intake.files.length > 0) brought = true;
	});

	async function drop(event: DragEvent) {
		over = false;
		const items = event.dataTransfer?.items;
		if (!items || ![...items].some(({ kind }) => kind === 'file')) return;
		event.preventDefault();
		try {
			intake.files = await filesOf(items);
		} catch (error) {
			notices.say(`A file that was dropped cannot be read: ${problemOf(error).message}`, 'bad');
		}
	}
</script>

<svelte:window
	ondragover={(event) => {
		if (!event.dataTransfer?.types.includes('Files')) return;
		event.preventDefault();
		over = true;
	}}
	ondragleave={(event) => {
		if (event.relatedTarget === null) over = false;
	}}
	ondrop={drop}
/>

{#if over}
	<div
		class="pointer-events-none fixed inset-3 z-50 grid place-items-center border-2 border-dashed border-brass bg-ground/90"
		aria-hidden="true"
	>
		<p class="plate text-2xl">Let go to look into it</p>
	</div>
{/if}
{#if brought}
	{#await import('../FileIntake.svelte') then { default: FileIntake }}<FileIntake />{/await}
{/if}
