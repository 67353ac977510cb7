<script lang="ts">
	import type { BundleImport } from '../core/drawer';
	import BundleDifferences from './BundleDifferences.svelte';
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
	/** The bundle that was taken over, and what came of it. */
	let taken = $state.raw<{ file: File; result: BundleImport } | null>(null);
	const hurt = $derived(taken?.result.left ?? []);
	const differ = $derived(taken?.result.differ ?? []);

	const take = (file: File, chosen: readonly string[] = []) =>
		doing.run(async () => {
			said = '';
			const result = await call<BundleImport>('POST', `/bundle?take=${chosen.join(',')}`, file);
			taken = { file, result };
			const { devices, versions, known, also, chosen: done } = result;
			const rest = also.map(({ what, rows }) => `${what} (${rows})`).join(', ');
			said =
				chosen.length > 0
					? `Taken from the bundle: ${count(done, 'thing')}.${done < chosen.length ? ' The rest has changed since it was shown.' : ''}`
					: `${count(versions, 'version')} taken over, ${count(devices, 'device')} added, ${known} were here already.${rest && ` Also: ${rest}.`}`;
			await refresh();
		});

	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const input = event.currentTarget;
		const file = input.files?.[0];
		if (!file) return;
		taken = null;
		await take(file);
		input.value = '';
	}
</script>

<section aria-label="Copies">
	<h2>Copies</h2>
	<p class="mt-2 flex flex-wrap gap-2">
		<a class="btn" href="/api/v1/copy" download>Copy of the whole studio (.sqlite)</a>
		<a class="btn" href="/api/v1/bundle" download>The studio as a bundle (.zip)</a>
	</p>
	<p class="small-print mt-1 max-w-prose">
		The bundle holds plain .syx files, lists and a manifest; any unzip reads it. Taken over in another studio
		it brings what that one lacks, and asks where both differ: a laptop on tour, a desktop at home. Keep a
		copy on another disk.
	</p>
	<label class="field mt-3 max-w-sm"
		><span>Import a bundle</span>
		<input
			type="file"
			class="file-input w-full"
			accept=".zip,application/zip"
			disabled={doing.busy}
			onchange={choose}
		/></label
	>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	<p role="status" class="mt-1">{said}</p>
	{#if hurt.length > 0}
		<div role="alert" class="mt-2 border-l-4 border-brass bg-ground p-3">
			<p>
				{count(hurt.length, 'thing')} left out, each for its reason. Where it is damaged, make the bundle again
				if you can.
			</p>
			<ul class="mt-1">
				{#each hurt as { device, takenAt, says } (`${device} ${takenAt} ${says}`)}
					<li><span class="plate">{device}</span>, <When at={takenAt} />: {says}</li>
				{/each}
			</ul>
		</div>
	{/if}
	{#if taken && differ.length > 0}
		{@const { file } = taken}
		<BundleDifferences {differ} busy={doing.busy} take={(keys) => take(file, keys)} />
	{/if}
	{#if guarded}
		<form method="POST" action="/leave" class="mt-3">
			<button class="btn">Log out of this studio</button>
		</form>
	{/if}
</section>
