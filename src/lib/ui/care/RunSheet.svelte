<script lang="ts">
	import { isOpenTo, variantOf, type ProcedureStep, type RunEntry } from '$lib/core/care';
	import type { StoredLine } from '$lib/core/contact';
	import type { LiveWorld } from '$lib/core/drawer';
	import type { Profile } from '$lib/core/profile';
	import type { Target } from '$lib/core/transfer';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import type { RunOnPage } from './open-run.svelte';
	import RunStep from './RunStep.svelte';

	interface Props {
		open: RunOnPage;
		line: StoredLine | null;
		profile: Profile | null;
		target: Target | null;
		own: LiveWorld;
	}
	/** The steps of a run one below the other; a gate is a rule across the page with what must be true beside it. */
	let { open, line, profile, target, own }: Props = $props();
	const run = $derived(open.now);
	const ended = $derived(new Set(run.ended));
	/** Steps of variants that were not chosen are not shown once that is known. */
	const steps = $derived(run.run.procedure.steps.filter((step) => isOpenTo(step, run.chosen)));
	const lastOf = (step: ProcedureStep): RunEntry | undefined =>
		run.run.entries.findLast((entry) => entry.step === step.id);
	/** A step that was gone back to just now. */
	const slip = $derived.by(() => {
		const last = run.run.entries.at(-1);
		return last?.what === 'back' ? run.run.procedure.steps.find(({ id }) => id === last.step) : undefined;
	});
	const doneAt = $derived(steps.findIndex(({ id }) => id === run.step));

	const titleOf = (choice: string, variant: string): string =>
		variantOf(run.run.procedure, choice, variant)?.title ?? variant;
	/** What a hand says it did is its word; what the app saw is shown. */
	const markOf = (step: ProcedureStep, what: string) =>
		what === 'overruled'
			? 'attention'
			: step.by === 'app' || (step.by === 'gate' && step.holds.is !== 'people')
				? 'verified'
				: 'quiet';
	const saidOf = (entry: RunEntry | undefined): string =>
		entry === undefined
			? ''
			: entry.what === 'overruled'
				? `passed without it: ${entry.reason}`
				: entry.what === 'chosen'
					? titleOf(entry.step, entry.variant)
					: entry.what === 'file'
						? `${entry.name}${entry.version ? `, version ${entry.version}` : ''}`
						: entry.what === 'done' || entry.what === 'held'
							? entry.note.replace(/\.$/, '')
							: '';
</script>

<section aria-label="Steps">
	{#if run.over !== null}
		<p class="mb-3 flex items-center gap-2" role="status">
			<StateMark state="quiet" />
			{run.over === 'done' ? 'Every step has ended.' : 'This run was given up.'}
			{#if run.endedAt}<When at={run.endedAt} />{/if}
		</p>
	{/if}
	{#if slip && run.over === null}
		<p class="mb-2 flex flex-wrap items-center gap-3 print:hidden" role="status">
			Gone back to “{slip.title}”: it and all after it are done again.
			<button class="btn btn-sm" disabled={open.doing.busy} onclick={() => void open.act({ do: 'forth' })}
				>Undo: that was a slip</button
			>
		</p>
	{/if}
	<ol>
		{#each steps as step, i (step.id)}
			{@const isDue = step.id === run.step}
			{@const isDone = ended.has(step.id)}
			{@const word = lastOf(step)}
			<li
				class={['day-step', step.by === 'gate' && 'gate', isDue && 'due']}
				aria-current={isDue ? 'step' : undefined}
				data-step={step.id}
			>
				<div class="flex items-baseline gap-3">
					<span class="figures small-print w-6 shrink-0 text-right">{i + 1}</span>
					<div class="min-w-0 flex-1">
						<p class="flex flex-wrap items-baseline gap-x-3">
							<span class={['plate', !isDue && !isDone && 'text-slate']}>{step.title}</span>
							{#if step.by === 'gate' && !isDue}<span class="small-print">gate</span>{/if}
							{#if isDone && word}
								<span class="small-print inline-flex items-center gap-1.5"
									><StateMark state={markOf(step, word.what)} size={10} />{word.what === 'held'
										? 'held'
										: word.what === 'overruled'
											? 'overruled'
											: 'done'}{saidOf(word) ? `: ${saidOf(word)}` : ''}, <When at={word.at} /></span
								>
							{/if}
						</p>
						{#if isDue}<RunStep {open} {step} {line} {profile} {target} {own} />{/if}
						{#if !isDone && !isDue}<p class="small-print hidden print:block">{step.says}</p>{/if}
					</div>
					{#if isDone && run.over === null && (doneAt < 0 || i < doneAt)}
						<button
							class="btn btn-ghost btn-xs print:hidden"
							disabled={open.doing.busy}
							onclick={() => void open.act({ do: 'back', step: step.id })}
							>Go back<span class="sr-only"> to {step.title}</span></button
						>
					{/if}
				</div>
			</li>
		{/each}
	</ol>
</section>

<style>
	.day-step {
		padding: 0.4rem 0;
		border-bottom: 1px solid var(--color-line);
	}
	/* A gate is a rule across the page. */
	.gate {
		border-bottom: 3px double var(--color-slate);
	}
	.due {
		margin: 0.35rem 0;
		padding: 0.75rem 0.75rem 0.9rem 0.25rem;
		border: 1px solid var(--color-line);
		background: var(--color-sheet);
	}
	.due.gate {
		border-bottom: 3px double var(--color-warn);
	}
</style>
