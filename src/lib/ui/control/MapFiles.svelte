<script lang="ts">
	import { fileVersions, type MapFile } from '$lib/core/control';
	import { call } from '$lib/hardware/api';
	import { Doing } from '../doing.svelte';
	import FilePick from '../FilePick.svelte';
	import { notices } from '../notices.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import { refresh } from '../refresh';
	import When from '../When.svelte';
	import { count, weight } from '../words';

	/** Files that the host or a maker's editor keeps for a map: attached, each change a version of its own. */
	let { mapId, files }: { mapId: string; files: MapFile[] } = $props();
	const doing = new Doing();
	const named = $derived(fileVersions(files));

	const attach = (file: File) =>
		doing.run(async () => {
			const form = new FormData();
			form.set('file', file);
			// What it became is the server's word: the list on this page may be older than the last file.
			const kept = await call<{ file: MapFile; as: 'first' | 'newer' | 'same' }>(
				'POST',
				`/maps/${mapId}/files`,
				form
			);
			const what = {
				first: 'is kept.',
				newer: 'is kept; the one before stays as an older version.',
				same: 'is kept already, byte for byte.'
			}[kept.as];
			notices.say(`“${kept.file.name}” ${what}`, 'good');
			await refresh();
		});
	const remove = ({ id, name }: MapFile) =>
		doing.run(async () => {
			await call('DELETE', `/map-files/${id}`);
			notices.say(`“${name}” is taken away.`, 'good', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'POST', path: `/map-files/${id}/back` }],
					says: `“${name}” is back.`
				}
			});
			await refresh();
		});
</script>

{#snippet version(file: MapFile)}
	<When at={file.at} /> · {weight(file.size)} ·
	<a class="link" href={`/api/v1/map-files/${file.id}`} download
		>Save<span class="sr-only"> {file.name} of {file.at}</span></a
	>
	<button class="btn btn-ghost btn-xs" disabled={doing.busy} onclick={() => void remove(file)}
		>Take away<span class="sr-only"> {file.name} of {file.at}</span></button
	>
{/snippet}

<section class="mt-6" aria-labelledby="map-files">
	<h2 id="map-files">Files that the host or an editor keeps for this map</h2>
	<p class="small-print">
		Kept byte for byte. A file of the same name is a version more, and takes the place of none.
	</p>
	{#if named.length > 0}
		<ul class="mt-2 grid gap-2">
			{#each named as { name, versions } (name)}
				<li>
					<span class="font-semibold break-all">{name}</span> · {@render version(versions[0])}
					{#if versions.length > 1}
						<details>
							<summary>{count(versions.length - 1, 'older version')}</summary>
							<ul class="ml-4">
								{#each versions.slice(1) as older (older.id)}<li>{@render version(older)}</li>{/each}
							</ul>
						</details>
					{/if}
				</li>
			{/each}
		</ul>
	{/if}
	<div class="mt-2"><FilePick title="Attach a file" picked={attach} /></div>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
</section>
