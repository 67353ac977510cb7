<script lang="ts">
	import { waitsFor, walksOf, type SwitchItem, type Tick } from '$lib/core/care';
	import ProblemNote from '../ProblemNote.svelte';
	import { refresh } from '../refresh';
	import StateMark, { type Mark } from '../StateMark.svelte';
	import When from '../When.svelte';
	import { putInTray } from '../tray/put';
	import type { Reach, SwitchingOnPage } from './open-switching.svelte';

	/** The studio being switched: the next thing large, all of them ticked one by one, and what the app can do by itself. */
	let { run, reach }: { run: SwitchingOnPage; reach: Record<string, Reach> } = $props();
	const now = $derived(run.now);
	const items = $derived(now.run.items);
	const done = $derived(now.done);
	const doneMap = $derived(new Map(Object.entries(done)));
	const next = $derived(items.find(({ id }) => id === now.next) ?? null);
	const left = $derived(items.length - Object.keys(done).length);
	const walks = $derived(walksOf(items));

	/** How something is known: what was shown, and no more than that. */
	const KNOWN: Record<Tick['how'], { word: string; mark: Mark }> = {
		hand: { word: 'ticked by hand', mark: 'quiet' },
		heard: { word: 'it answered', mark: 'verified' },
		sent: { word: 'sent, look at the display', mark: 'quiet' },
		proved: { word: 'sent, and it answers as it should', mark: 'verified' },
		left: { word: 'left out this time', mark: 'quiet' },
		'taken back': { word: 'taken back', mark: 'quiet' }
	};
	const othersOf = (waits: readonly SwitchItem[]): string => {
		const names = waits.map(({ name }) => name).filter((name, at, all) => all.indexOf(name) === at);
		return names.length > 3 ? `${names.length} others` : names.join(', ');
	};
	const toggle = (item: SwitchItem) => void run.tick([item.id], done[item.id] ? 'taken back' : 'hand');
	let acts = $state(0);
	async function goOn() {
		if (!next) return;
		if (await run.tick([next.id], 'hand')) acts++;
	}
	const keepFocus = (node: HTMLElement) => {
		if (acts > 0) node.focus();
	};
</script>

<section aria-labelledby="switching-now">
	<div class="flex flex-wrap items-center gap-3 print:hidden">
		<h2 id="switching-now" class="min-w-0 flex-1 basis-60">
			{now.run.way === 'on' ? 'Switching the studio on' : 'Switching the studio off'}:
			{left === 0 ? 'everything is ticked' : `${left} of ${items.length} left`}
		</h2>
		{#if run.ready.length > 0}
			<button class="btn" disabled={run.doing.busy || run.elsewhere} onclick={() => void run.carryOut(reach)}
				>{now.run.way === 'on' ? 'Ask who is on, and send' : 'Send what is due'}</button
			>
		{/if}
		<button
			class={['btn', left === 0 && 'btn-primary']}
			disabled={run.doing.busy}
			onclick={() => void run.end().then(() => refresh())}
			>{left === 0 ? 'Close the list' : 'Leave it as it is'}</button
		>
	</div>
	<p class="small-print">
		Begun <When at={now.begunAt} />. Whatever is ticked is kept, through reloads and on every page.
		{#if run.elsewhere}The line goes to the other world now: what answers there would prove nothing here.{/if}
	</p>
	{#if run.doing.problem}<div class="mt-2"><ProblemNote problem={run.doing.problem} /></div>{/if}
	<p class="mt-1" role="status">{run.trying ? `${run.trying} …` : ''}</p>

	{#if next}
		<div class="next-thing mt-2 print:hidden">
			<p class="text-lg">
				<span class="plate">{next.name}</span>{next.place ? `, ${next.place}` : ''}: {next.says}
			</p>
			{#if next.see}<p>You should see: {next.see}</p>{/if}
			{#if next.why}<p class="small-print">{next.why}</p>{/if}
			{#if run.silent[next.id]}<p class="mt-1 border-l-4 border-rust pl-2">{run.silent[next.id]}</p>{/if}
			<div class="mt-2 flex flex-wrap gap-2">
				{#if next.what === 'keep'}
					<button class="btn btn-sm" onclick={() => void putInTray(`device=${next.device}`)}
						>Back it up</button
					>
				{/if}
				{#if next.messages.length > 0}
					<button
						class="btn btn-primary btn-sm"
						disabled={run.doing.busy || run.elsewhere}
						onclick={() => void run.send(next, reach)}>Send it</button
					>
				{/if}
				<button
					class={['btn btn-sm', next.messages.length === 0 && 'btn-primary']}
					disabled={run.doing.busy}
					{@attach keepFocus}
					onclick={() => void goOn()}>It is done</button
				>
				<button
					class="btn btn-ghost btn-sm"
					disabled={run.doing.busy}
					onclick={() => void run.tick([next.id], 'left')}>Leave it out this time</button
				>
			</div>
		</div>
	{/if}

	<ol class="mt-3 max-w-4xl" aria-label="What is ticked">
		{#each items as item, i (item.id)}
			{@const tick = done[item.id]}
			{@const waits = tick ? [] : waitsFor(now.run, doneMap, item)}
			{#if walks[i]}<li class="plate mt-3 border-b border-line" aria-label={`Place: ${walks[i]}`}>
					{walks[i]}
				</li>{/if}
			<li
				class="border-b border-line py-1"
				data-item={item.id}
				aria-current={item.id === now.next ? 'step' : undefined}
			>
				<label class="flex items-start gap-3">
					<input
						type="checkbox"
						class="checkbox mt-0.5 checkbox-sm"
						checked={tick !== undefined}
						disabled={run.doing.busy}
						onchange={() => toggle(item)}
					/>
					<span class="min-w-0 flex-1">
						<span class="plate">{item.name}</span>: {item.says}
						{#if tick}
							<span class="small-print inline-flex items-center gap-1.5"
								><StateMark state={KNOWN[tick.how].mark} size={10} />{KNOWN[tick.how].word}, <When
									at={tick.at}
								/>{tick.early.length > 0 ? ` · before ${tick.early.join(', ')}` : ''}</span
							>
						{:else if run.silent[item.id]}
							<span class="text-rust">{run.silent[item.id]}</span>
						{:else if waits.length > 0}
							<span class="small-print">after {othersOf(waits)}</span>
						{/if}
					</span>
				</label>
			</li>
		{/each}
	</ol>
</section>

<style>
	.next-thing {
		max-width: 56rem;
		padding: 0.75rem 1rem;
		border: 1px solid var(--color-line);
		background: var(--color-sheet);
	}
</style>
