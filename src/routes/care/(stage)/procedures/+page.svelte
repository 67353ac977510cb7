<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { procedureSchema } from '$lib/core/care';
	import { readDocument } from '$lib/core/reading';
	import { call } from '$lib/hardware/api';
	import { Doing } from '$lib/ui/doing.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { refresh } from '$lib/ui/refresh';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	const doing = new Doing();
	const open = $derived(data.runs.filter(({ over }) => over === null));
	const past = $derived(data.runs.filter(({ over }) => over !== null));
	/** The device that one came from, or that was chosen last. */
	let device = $state(page.url.searchParams.get('device') ?? '');

	const begin = (procedure: string, about: string) =>
		doing.run(async () => {
			const { id } = await call<{ id: string }>('POST', '/runs', {
				procedure,
				device: about === 'device' ? device : null
			});
			await goto(`/care/procedures/${id}`);
		});
	const bring = (file: File) =>
		doing.run(async () => {
			const { value } = readDocument(procedureSchema, await file.text(), 'procedure');
			await call('POST', '/procedures', value);
			notices.say(`“${value.title}” is kept.`, 'good');
			await refresh();
		});
	const remove = (id: string, title: string) =>
		doing.run(async () => {
			await call('DELETE', `/procedures/${id}`);
			notices.say(`“${title}” is taken away.`, 'good', {
				title: 'Undo',
				way: {
					by: 'calls',
					calls: [{ method: 'POST', path: `/procedures/${id}/back` }],
					says: `“${title}” is back.`
				}
			});
			await refresh();
		});
</script>

<svelte:head><title>Procedures · Silent Drawer</title></svelte:head>

{#if doing.problem}<div class="mb-3"><ProblemNote problem={doing.problem} /></div>{/if}

{#if open.length > 0}
	<section aria-labelledby="going-on" class="mb-6">
		<h2 id="going-on">Begun and not over</h2>
		<ul class="mt-2 border-t border-line">
			{#each open as run (run.id)}
				<li class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2">
					<StateMark state="attention" />
					<div class="min-w-0 flex-1 basis-60">
						<a class="plate link-quiet" href={`/care/procedures/${run.id}`}
							>{run.title}{run.device ? `: ${run.device}` : ''}</a
						>
						<p class="small-print">
							Next: {run.step} · begun <When at={run.begunAt} />{#if run.overruled > 0}
								· {count(run.overruled, 'gate')} passed with a reason{/if}
						</p>
					</div>
					<a
						class="btn btn-primary btn-sm"
						href={`/care/procedures/${run.id}`}
						aria-label={`Go on: ${run.title}`}>Go on</a
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}

<section aria-labelledby="begin-one">
	<div class="flex flex-wrap items-end justify-between gap-3">
		<h2 id="begin-one">Begin one</h2>
		<div class="flex flex-wrap items-end gap-3">
			<div class="field">
				<label for="about-device">About which device</label>
				<select id="about-device" class="select w-56 select-sm" bind:value={device}>
					<option value="">Choose one …</option>
					{#each data.devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
				</select>
			</div>
			<FilePick title="Bring one from a file" accept=".json" picked={bring} />
			<a class="btn btn-sm" href="/care/procedures/write?procedure=new">Write one</a>
		</div>
	</div>
	<ul class="mt-2 border-t border-line">
		{#each data.procedures as each (each.id)}
			{@const lacks = each.about === 'device' && device === ''}
			<li class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2">
				<div class="min-w-0 flex-1 basis-60">
					<p class="plate">{each.title}</p>
					<p class="small-print">
						{count(each.steps, 'step')}{each.gates > 0 ? `, ${count(each.gates, 'gate')}` : ''} · {each.about ===
						'device'
							? 'about one device'
							: 'about the studio'}{each.own ? ' · your own' : ''}
					</p>
				</div>
				<a
					class="btn btn-ghost btn-sm"
					href={`/care/procedures/write?procedure=${each.id}`}
					aria-label={`Write on it: ${each.title}`}>Write on it</a
				>
				{#if each.own}<button
						class="btn btn-ghost btn-sm"
						aria-label={`Take away: ${each.title}`}
						onclick={() => void remove(each.id, each.title)}>Take away</button
					>{/if}
				<button
					class="btn btn-sm"
					disabled={lacks || doing.busy}
					aria-label={`Begin: ${each.title}`}
					title={lacks ? 'Choose the device first' : undefined}
					onclick={() => void begin(each.id, each.about)}>Begin</button
				>
			</li>
		{/each}
	</ul>
</section>

{#if past.length > 0}
	<section aria-labelledby="past-runs" class="mt-6">
		<h2 id="past-runs">What was done</h2>
		<ul class="mt-2 border-t border-line">
			{#each past as run (run.id)}
				<li class="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1.5">
					<StateMark state={run.overruled > 0 ? 'attention' : 'quiet'} />
					<a class="link-quiet min-w-0 flex-1" href={`/care/procedures/${run.id}`}
						>{run.title}{run.device ? `: ${run.device}` : ''}</a
					>
					<span class="small-print"
						>{run.over === 'done' ? 'every step ended' : 'given up'}{run.overruled > 0
							? `, ${count(run.overruled, 'gate')} passed with a reason`
							: ''}, <When at={run.endedAt!} /></span
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}
