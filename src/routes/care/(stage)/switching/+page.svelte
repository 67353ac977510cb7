<script lang="ts">
	import { powerOnSchema } from '$lib/core/care';
	import { call } from '$lib/hardware/api';
	import { SwitchingOnPage } from '$lib/ui/care/open-switching.svelte';
	import { PowerOnList } from '$lib/ui/care/power-on-list.svelte';
	import PowerOnEditor from '$lib/ui/care/PowerOnEditor.svelte';
	import SwitchRun from '$lib/ui/care/SwitchRun.svelte';
	import SwitchSheet from '$lib/ui/care/SwitchSheet.svelte';
	import { Doing } from '$lib/ui/doing.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { refresh } from '$lib/ui/refresh';
	import StepButtons from '$lib/ui/StepButtons.svelte';
	import When from '$lib/ui/When.svelte';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const list = new PowerOnList(data.list);
	$effect(() => list.take(data.list));
	const doing = new Doing();
	/** One for each switching: what was asked in the one before is not shown in the next. */
	const run = $derived(data.current ? new SwitchingOnPage(data.current) : null);
	let shown = $state<'on' | 'off'>('on');

	const begin = (way: 'on' | 'off') =>
		doing.run(async () => {
			await call('POST', '/switchings', { way });
			await refresh();
		});
	const takeOver = (file: File) => list.takeOver(file, powerOnSchema, 'power-on');
</script>

<svelte:head><title>On and off · Silent Drawer</title></svelte:head>

{#if doing.problem}<div class="mb-3"><ProblemNote problem={doing.problem} /></div>{/if}
<aside class="mb-4 max-w-prose border-l-4 border-warn pl-3" aria-label="Cautions">
	<p>
		Turn levels down before amplifiers are switched: a thump can harm hearing and speakers. What the maker’s
		label or manual says of switching comes first; mains wiring is a qualified technician’s work.
	</p>
</aside>

{#if run && run.now.over === null}
	{#key run.now.id}<SwitchRun {run} reach={data.reach} />{/key}
{:else}
	<section aria-labelledby="begin-switching">
		<div class="flex flex-wrap items-center gap-3 print:hidden">
			<h2 id="begin-switching" class="min-w-0 flex-1 basis-40">Switch the studio</h2>
			<button class="btn btn-primary" disabled={doing.busy} onclick={() => void begin('on')}
				>Switch it on</button
			>
			<button class="btn" disabled={doing.busy} onclick={() => void begin('off')}>Switch it off</button>
			<button class="btn" onclick={() => print()}>Print the list</button>
		</div>
		<div class="mt-3 flex gap-2 print:hidden" role="group" aria-label="Which list is shown">
			{#each [['on', 'On'], ['off', 'Off']] as const as [way, title] (way)}
				<button
					class={['btn btn-sm', shown === way && 'is-chosen']}
					aria-pressed={shown === way}
					onclick={() => (shown = way)}>{title}</button
				>
			{/each}
		</div>
		<SwitchSheet items={list.lists[shown].items} conflicts={list.lists[shown].conflicts} way={shown} />
	</section>
{/if}

<section class="mt-8 print:hidden" aria-labelledby="what-it-holds">
	<div class="flex flex-wrap items-center justify-between gap-3">
		<h2 id="what-it-holds">What the list holds</h2>
		<div class="flex flex-wrap items-center gap-2">
			<StepButtons
				of="the power-on list"
				steps={list.steps}
				busy={list.doing.busy}
				move={(which) => void list.move(which)}
			/>
			<a class="btn btn-sm" href="/api/v1/power-on/document" download>Save it</a>
			<FilePick title="Take one from a file" accept=".json" picked={takeOver} />
		</div>
	</div>
	{#if list.doing.problem}<div class="mt-2"><ProblemNote problem={list.doing.problem} /></div>{/if}
	<PowerOnEditor {list} />
</section>

{#if data.past.length > 0}
	<section class="mt-8 print:hidden" aria-labelledby="lately-switched">
		<h2 id="lately-switched">Lately</h2>
		<ul class="mt-2">
			{#each data.past as each (each.id)}
				<li>
					{each.way === 'on' ? 'On' : 'Off'}, <When at={each.begunAt} />: {each.ticked} of {each.items} ticked{each.over ===
					'abandoned'
						? ', then left as it was'
						: ''}
					<a class="link" href={`/api/v1/switchings/${each.id}/document`} download
						>Save<span class="sr-only"> the list of {each.begunAt}</span></a
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}
