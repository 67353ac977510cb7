<script lang="ts">
	import { Doing } from './doing.svelte';
	import { call } from '../hardware/api';
	import ProblemNote from './ProblemNote.svelte';
	import { refresh } from './refresh';
	import { count } from './words';

	/** Whether it asks for a passphrase: then one can leave it. */
	let { guarded }: { guarded: boolean } = $props();
	const doing = new Doing();
	let said = $state('');

	async function take(event: Event & { currentTarget: HTMLInputElement }) {
		const input = event.currentTarget;
		const file = input.files?.[0];
		if (!file) return;
		said = '';
		await doing.run(async () => {
			const { devices, versions, known } = await call<{ devices: number; versions: number; known: number }>(
				'POST',
				'/bundle',
				file
			);
			said = `${count(versions, 'version')} taken over, ${count(devices, 'device')} added, ${known} were here already.`;
			await refresh();
		});
		input.value = '';
	}
</script>

<section aria-label="Copies">
	<h2>Copies</h2>
	<p class="mt-2 flex flex-wrap gap-2">
		<a class="btn" href="/api/v1/copy" download>Copy of the whole studio (.sqlite)</a>
		<a class="btn" href="/api/v1/bundle" download>All drawers as a bundle (.zip)</a>
	</p>
	<p class="small-print mt-1 max-w-prose">
		The bundle holds plain .syx files and a manifest; any unzip reads it, and here it gives the same history
		again. Keep a copy on another disk.
	</p>
	<label class="field mt-3 max-w-sm"
		><span>Import a bundle</span>
		<input
			type="file"
			class="file-input w-full"
			accept=".zip,application/zip"
			disabled={doing.busy}
			onchange={take}
		/></label
	>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	<p role="status" class="mt-1">{said}</p>
	{#if guarded}
		<form method="POST" action="/leave" class="mt-3">
			<button class="btn">Log out of this studio</button>
		</form>
	{/if}
</section>
