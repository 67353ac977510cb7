<script lang="ts">
	import { fileVersions, type KeptFile } from '$lib/core/kept-file';
	import { call } from '$lib/hardware/api';
	import { Doing } from './doing.svelte';
	import FilePick from './FilePick.svelte';
	import { notices } from './notices.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import { refresh } from './refresh';
	import When from './When.svelte';
	import { count, weight } from './words';

	/** Files that are kept with a map or a device, at that path of the API: each change is a version of its own. */
	let { title, path, files }: { title: string; path: string; files: KeptFile[] } = $props();
	const doing = new Doing();
	const named = $derived(fileVersions(files));

	const attach = (file: File) =>
		doing.run(async () => {
			const form = new FormData();
			form.set('file', file);
			// What it became is the server's word: the list on this page may be older than the last file.
			const kept = await call<{ file: KeptFile; as: 'first' | 'newer' | 'same' }>('POST', path, form);
			const what = {
				first: 'is kept.',
				newer: 'is kept; the one before stays as an older version.',
				same: 'is kept already, byte for byte.'
			}[kept.as];
			notices.say(`“${kept.file.name}” ${what}`, 'good');
			await refresh();
		});
	const remove = ({ id, name }: KeptFile) =>
		doing.run(async () => {
			await call('DELETE', `/kept-files/${id}`);
			notices.say(`“${name}” is taken away.`, 'good', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'POST', path: `/kept-files/${id}/back` }],
					says: `“${name}” is back.`
				}
			});
			await refresh();
		});
</script>

{#snippet version(file: KeptFile)}
	<When at={file.at} /> · {weight(file.size)} ·
	<a class="link" href={`/api/v1/kept-files/${file.id}`} download
		>Save<span class="sr-only"> {file.name} of {file.at}</span></a
	>
	<button class="btn btn-ghost btn-xs" disabled={doing.busy} onclick={() => void remove(file)}
		>Take away<span class="sr-only"> {file.name} of {file.at}</span></button
	>
{/snippet}

<section class="mt-6" aria-labelledby="kept-files">
	<h2 id="kept-files">{title}</h2>
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
