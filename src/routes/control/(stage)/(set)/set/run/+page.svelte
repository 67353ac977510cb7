<script lang="ts">
	import { untrack } from 'svelte';
	import { hearCalls } from '$lib/ui/scene/hear-calls';
	import { changeInWords, changeWarnings, isLoaded, sceneNumbered, unsentInWords } from '$lib/core/scene';
	import { desk } from '$lib/hardware/desk.svelte';
	import { KeptStage, keptSince } from '$lib/ui/scene/kept-stage.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import ChosenRows from '$lib/ui/scene/ChosenRows.svelte';
	import SentRows from '$lib/ui/scene/SentRows.svelte';
	import { SetRun } from '$lib/ui/scene/set-run.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import When from '$lib/ui/When.svelte';

	const open = openSet();
	const run = new SetRun(open);
	/** What a foot switch says comes in. */
	const hears = $derived(desk.world === 'bench' || midiDesk.permission === 'granted');
	const kept = new KeptStage();
	const since = keptSince();
	const KEPT = {
		asking: 'This page is being kept for a reload without a network …',
		kept: 'This page is kept: it opens again without a network.',
		cannot: 'This browser does not keep this page at this address: do not reload it without a network.'
	};
	const songOf = (at: number) => open.set.songs.find(({ id }) => id === run.steps[at]?.song) ?? null;
	const sceneOf = (at: number) => sceneNumbered(open.set, run.steps[at]?.scene ?? null);
	const now = $derived(sceneOf(run.at));
	const next = $derived(sceneOf(run.at + 1));
	const comes = $derived(next ? open.changeTo(next, desk.world) : null);
	const hands = $derived(run.steps[run.at + 1]?.hands ?? []);
	/** What has to be loaded before the song that comes, and is not there yet. */
	const loads = $derived((run.steps[run.at + 1]?.loads ?? []).filter((load) => !isLoaded(open.sounds, load)));

	$effect(() => run.ear.listen());
	$effect(() => (run.foot || run.learning ? run.listen() : undefined));
	$effect(() => {
		const { calls } = open.set;
		return calls ? hearCalls(calls, (scene) => run.call(scene)) : undefined;
	});
	$effect(() => {
		// The screen stays awake where the browser lets it; one that does not changes nothing else.
		const lock = navigator.wakeLock?.request('screen').catch(() => null);
		return () => void lock?.then((held) => held?.release());
	});

	$effect(() => {
		// Kept anew whenever the set was changed; an older page that was kept stays what it is.
		void open.told.revision;
		const profiles = Object.values(open.lines.asked).map(({ profile }) => profile);
		if (untrack(() => open.fresh)) void kept.keep([...new Set(profiles)]);
	});

	function keydown(event: KeyboardEvent) {
		if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
		if (event.target instanceof HTMLInputElement || event.target instanceof HTMLButtonElement) {
			if (event.key === ' ' || event.key === 'Enter') return;
		}
		const by = { ' ': 1, ArrowRight: 1, PageDown: 1, ArrowLeft: -1, PageUp: -1 }[event.key];
		if (by === undefined) return;
		event.preventDefault();
		void run.go(run.at + by);
	}
</script>

<svelte:head><title>The set, on stage · Silent Drawer</title></svelte:head>
<svelte:window onkeydown={keydown} />

<section aria-label="On stage" class="run">
	<p class="small-print">
		{run.at < 0 ? 'Not begun' : `${run.at + 1} of ${run.steps.length}`} · {desk.world === 'bench'
			? 'on the bench'
			: 'over real ports'}
	</p>
	{#if !open.fresh}<p role="alert" class="text-rust">
			The server did not answer, or failed: this is the page as it was kept {#if since}<When
					at={since}
				/>{/if}. What instruments hold since is not known: the next scene is sent whole.
		</p>{/if}
	<h2 class="run-now">{now ? `${songOf(run.at)?.name}` : open.set.name || 'The set'}</h2>
	{#if now}<p class="run-scene">
			{now.name === songOf(run.at)?.name ? `Scene ${now.number}` : `${now.number} ${now.name}`}
		</p>{/if}
	<div role="status">
		{#if run.sender.doing.busy}<p>Sending …</p>
		{:else if run.sender.outcome}
			{#if run.sender.outcome.rows.length + run.sender.outcome.unsent.length === 0}<p>
					Nothing was to be sent.
				</p>{/if}
			<SentRows {open} outcome={run.sender.outcome} />
		{/if}
		<ChosenRows {open} ear={run.ear} />
		{#if run.sender.unnoted}<p>Sent. It is not noted yet: {run.sender.unnoted.message}</p>{/if}
		{#if run.sender.doing.problem}<p class="text-rust">{run.sender.doing.problem.message}</p>{/if}
	</div>
	{#if songOf(run.at)?.notes}<p class="mt-2 whitespace-pre-wrap">{songOf(run.at)?.notes}</p>{/if}

	<div class="run-next">
		{#if next && comes}
			<p class="plate">
				Next: {songOf(run.at + 1)?.id === songOf(run.at)?.id
					? ''
					: `${songOf(run.at + 1)?.name}, `}{next.number}
				{next.name}
			</p>
			<p class="small-print figures">{changeInWords(comes)}</p>
			<ul>
				{#each loads as { asked, says } (says)}<li class="run-hand">
						By hand: {says}
						<button class="btn btn-sm" disabled={open.doing.busy} onclick={() => void open.load(asked)}
							>Put it in the tray</button
						>
					</li>{/each}
				{#each hands as says (says)}<li class="run-hand">By hand: {says}</li>{/each}
				{#each [...changeWarnings(open.set, comes).flatMap( ({ loud, says }) => (loud ? says : []) ), ...unsentInWords(open.set, comes)] as says (says)}
					<li class="flex items-start gap-2">
						<span class="mt-1"><StateMark state="attention" /></span>{says}
					</li>
				{/each}
			</ul>
		{:else}<p class="plate">
				{run.steps.length === 0 ? 'Nothing is in the set yet.' : 'That was the last one.'}
			</p>{/if}
		<div class="mt-3 flex gap-3">
			<button class="btn btn-lg" disabled={run.at <= 0} onclick={() => void run.go(run.at - 1)}>Back</button>
			<button
				class="btn flex-1 btn-lg btn-primary"
				disabled={!next || run.sender.doing.busy}
				onclick={() => void run.go(run.at + 1)}
				>{run.asking === run.at + 1
					? 'It gets louder: send it'
					: next
						? run.at < 0
							? 'Begin'
							: 'Next'
						: 'The end'}</button
			>
		</div>
	</div>
	<div class="mt-4 flex flex-wrap items-center gap-3">
		<button class="btn btn-sm" onclick={() => (run.learning = !run.learning)}
			>{run.learning
				? hears
					? 'Press the foot switch …'
					: 'Opening the ports …'
				: run.foot
					? 'Another foot switch'
					: 'Learn a foot switch'}</button
		>
		<span class="small-print"
			>{run.foot && !hears
				? `The foot switch is not heard: ${midiDesk.problem?.message ?? 'the ports are being opened …'}`
				: run.foot
					? `Controller ${run.foot.controller} on channel ${run.foot.channel} goes on.`
					: 'Space, → or page down go on; ← and page up go back.'}</span
		>
		{#if desk.world === 'bench' && (run.learning || run.foot)}<button
				class="btn btn-sm"
				onclick={() => run.pressSimulated()}>Press the simulated foot switch</button
			>{/if}
		{#if run.at >= 0}<button class="btn btn-ghost btn-sm" onclick={() => void run.go(0)}
				>From the first again</button
			>{/if}
		<a class="btn btn-ghost btn-sm" href="/control/set">Back to the songs</a>
	</div>
	{#if open.fresh}<p class="small-print mt-2">{KEPT[kept.state]}</p>{/if}
</section>

<style>
	.run {
		max-width: 46rem;
	}
	.run-now {
		font-size: clamp(1.8rem, 6vw, 3.2rem);
		line-height: 1.1;
		overflow-wrap: anywhere;
	}
	.run-scene {
		font-size: clamp(1.2rem, 4vw, 1.8rem);
	}
	.run-next {
		margin-top: 1.25rem;
		border-top: 1px solid var(--color-line);
		padding-top: 1rem;
		font-size: 1.15rem;
	}
	.run-hand {
		font-weight: 600;
	}
</style>
