<script lang="ts">
	import { LEAST_REASON, type ProcedureStep } from '$lib/core/care';
	import type { StoredLine } from '$lib/core/contact';
	import type { LiveWorld } from '$lib/core/drawer';
	import type { Profile } from '$lib/core/profile';
	import type { Target } from '$lib/core/transfer';
	import FilePick from '../FilePick.svelte';
	import type { RunOnPage } from './open-run.svelte';
	import RunAppStep from './RunAppStep.svelte';
	import RunWait from './RunWait.svelte';

	interface Props {
		open: RunOnPage;
		step: ProcedureStep;
		line: StoredLine | null;
		profile: Profile | null;
		target: Target | null;
		own: LiveWorld;
	}
	/** The step whose turn it is: what to do, what should be seen, and the one next action. */
	let { open, step, line, profile, target, own }: Props = $props();
	const run = $derived(open.now);
	const busy = $derived(open.doing.busy);
	let reason = $state('');
	let version = $state('');
	let people = $state('');
	const lookers = $derived(
		people
			.split(',')
			.map((name) => name.trim())
			.filter(Boolean)
	);
	const failed = $derived.by(() => {
		const last = run.run.entries.findLast((entry) => entry.step === step.id);
		return last?.what === 'failed' ? last.note : null;
	});
	/** After an act here the next step's own button has the focus: Enter goes on. */
	const focusNext = (node: HTMLElement) => {
		if (open.acts > 0) node.focus();
	};
	async function overrule(event: SubmitEvent) {
		event.preventDefault();
		if (await open.act({ do: 'overrule', step: step.id, reason })) reason = '';
	}
</script>

{#snippet without(title: string)}
	<details class="mt-3 print:hidden">
		<summary class="cursor-pointer text-sm">{title}</summary>
		<form class="mt-2 flex flex-wrap items-end gap-3" onsubmit={overrule}>
			<div class="field min-w-60 flex-1">
				<label for="overrule-reason">Why, in at least {LEAST_REASON} characters: it stays on record</label>
				<input
					id="overrule-reason"
					class="input w-full input-sm"
					minlength={LEAST_REASON}
					maxlength="600"
					required
					bind:value={reason}
				/>
			</div>
			<button class="btn btn-sm" disabled={busy || reason.trim().length < LEAST_REASON}
				>Go on without it</button
			>
		</form>
	</details>
{/snippet}

<p class="mt-1 max-w-prose">{step.says}</p>
{#each step.cautions as caution (caution)}
	<p class="mt-1 max-w-prose border-l-4 border-warn pl-2"><span class="plate">Caution:</span> {caution}</p>
{/each}
{#if failed}
	<p class="mt-2 max-w-prose border-l-4 border-rust pl-2" role="status">
		<span class="plate">Not so the last time:</span>
		{failed}
	</p>
{/if}

{#if step.by === 'hand'}
	{#if step.see}<p class="mt-1 max-w-prose"><span class="plate">You should see:</span> {step.see}</p>{/if}
	{#if step.otherwise}<p class="small-print mt-1 max-w-prose">If not: {step.otherwise}</p>{/if}
	<div class="mt-3 flex flex-wrap gap-2 print:hidden">
		<button
			class="btn btn-primary btn-sm"
			disabled={busy}
			{@attach focusNext}
			onclick={() => void open.act({ do: 'done', step: step.id })}>{step.see ? 'It is so' : 'Done'}</button
		>
		{#if step.see || step.otherwise}<button
				class="btn btn-sm"
				disabled={busy}
				onclick={() =>
					void open.act({
						do: 'fail',
						step: step.id,
						note: step.by === 'hand' && step.see ? `Not seen: ${step.see}` : 'It was not so.'
					})}>It is not so</button
			>{/if}
	</div>
{:else if step.by === 'choice'}
	<div class="mt-3 flex flex-wrap gap-2 print:hidden">
		{#each step.of as variant, i (variant.id)}
			<button
				class="btn btn-sm"
				disabled={busy}
				{@attach i === 0 ? focusNext : () => {}}
				onclick={() => void open.act({ do: 'choose', step: step.id, variant: variant.id })}
				>{variant.title}{variant.version ? `, ${variant.version}` : ''}</button
			>
		{/each}
	</div>
{:else if step.by === 'file'}
	<div class="mt-3 flex flex-wrap items-end gap-3 print:hidden">
		{#if !run.firmware}
			<div class="field">
				<label for="file-version">Version, as the maker calls it</label>
				<input id="file-version" class="input w-40 input-sm" maxlength="30" bind:value={version} />
			</div>
		{/if}
		<FilePick title="Choose the file" picked={(file) => open.chooseFile(file, version)} />
		{#each run.files as kept (kept.id)}
			<button class="btn btn-sm" disabled={busy} onclick={() => void open.useKept(kept.id, version)}
				>Take {kept.name}</button
			>
		{/each}
	</div>
{:else if step.by === 'wait'}
	<RunWait {open} {step} />
{:else if step.by === 'gate'}
	<div class="mt-2 grid gap-2">
		{#if step.holds.is === 'people'}
			<form
				class="flex flex-wrap items-end gap-3 print:hidden"
				onsubmit={(event) => {
					event.preventDefault();
					void open.act({ do: 'pass', step: step.id }, lookers);
				}}
			>
				<div class="field min-w-60 flex-1">
					<label for="lookers">Who has looked: {step.holds.count} names, with commas</label>
					<input
						id="lookers"
						class="input w-full input-sm"
						maxlength="300"
						placeholder="Ada, Brun"
						bind:value={people}
					/>
				</div>
				<button class="btn btn-primary btn-sm" disabled={busy || lookers.length < step.holds.count}
					>They have looked</button
				>
			</form>
		{:else}
			<p class="max-w-prose" role="status">
				<span class="plate">The gate does not hold:</span>
				{run.gate ?? 'It holds now.'}
			</p>
			<div class="flex flex-wrap gap-2 print:hidden">
				<button
					class="btn btn-primary btn-sm"
					disabled={busy}
					{@attach focusNext}
					onclick={() => void open.act({ do: 'pass', step: step.id })}>Look again</button
				>
			</div>
		{/if}
	</div>
	{@render without('Go on without it …')}
{:else}
	<RunAppStep {open} {step} {line} {profile} {target} {own} {focusNext} />
	{#if !busy}{@render without('It was done in another way …')}{/if}
{/if}
