<script lang="ts">
	import { Doing } from './doing.svelte';
	import { call } from '../hardware/api';
	import ProblemNote from './ProblemNote.svelte';
	import { refresh } from './refresh';
	import When from './When.svelte';
	import { count } from './words';

	/** Whether it asks for a passphrase: then one can leave it. */
	let { guarded }: { guarded: boolean } = $props();
	const doing = new Doing();
	let said = $state('');
	interface Taken {
		devices: number;
		versions: number;
		known: number;
		left: { device: string; takenAt: string; says: string }[];
	}
	/** Versions that are damaged in the bundle. */
	let hurt = $state.raw<Taken['left']>([]);

	async function take(event: Event & { currentTarget: HTMLInputElement }) {
		const input = event.currentTarget;
		const file = input.files?.[0];
		if (!file) return;
		said = '';
		hurt = [];
		await doing.run(async () => {
			const { devices, versions, known, left } = await call<Taken>('POST', '/bundle', file);
			hurt = left;
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
	{#if hurt.length > 0}
		<div role="alert" class="mt-2 border-l-4 border-brass bg-ground p-3">
			<p>{count(hurt.length, 'version')} left out: damaged in the bundle. Make it again, if you can.</p>
			<ul class="mt-1">
				{#each hurt as { device, takenAt, says } (`${device} ${takenAt} ${says}`)}
					<li><span class="plate">{device}</span>, <When at={takenAt} />: {says}</li>
				{/each}
			</ul>
		</div>
	{/if}
	{#if guarded}
		<form method="POST" action="/leave" class="mt-3">
			<button class="btn">Log out of this studio</button>
		</form>
	{/if}
</section>
