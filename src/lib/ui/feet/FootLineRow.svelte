<script lang="ts">
	import {
		CABLE_KINDS,
		jackOf,
		pairingOf,
		passingOf,
		type FootLine,
		type ToldLine,
		type VerdictKind
	} from '$lib/core/pedal';
	import StateMark, { type Mark } from '../StateMark.svelte';
	import CalibrateLine from './CalibrateLine.svelte';
	import type { OpenFloor } from './open-floor.svelte';
	import PassingView from './PassingView.svelte';
	import SymptomList from './SymptomList.svelte';

	/** Jack, cable and pedal in one line, with what passes between them, the verdict, and what mends it. */
	let { open, line, told }: { open: OpenFloor; line: FootLine; told: ToldLine | null } = $props();

	const WORDS: Record<VerdictKind, { word: string; mark: Mark }> = {
		works: { word: 'Works', mark: 'quiet' },
		inverted: { word: 'Acts inverted', mark: 'attention' },
		exchanged: { word: 'Exchanged', mark: 'attention' },
		'one of two': { word: 'Only one works', mark: 'attention' },
		backwards: { word: 'Reads backwards', mark: 'attention' },
		cannot: { word: 'Cannot', mark: 'danger' },
		'does not fit': { word: 'Does not fit', mark: 'danger' }
	};
	const verdict = $derived(told?.verdict ?? null);
	const worn = $derived(
		open.floor.calibrations.some(({ line: of, worn: places }) => of === line.id && places.length > 0)
	);
	const word = $derived(
		!verdict
			? { word: 'Gone', mark: 'danger' as Mark }
			: worn && verdict.kind === 'works'
				? { word: 'Works, looks worn', mark: 'attention' as Mark }
				: WORDS[verdict.kind]
	);
	const pairing = $derived(pairingOf(open.floor, line));
	const passing = $derived(pairing ? passingOf(pairing) : null);
	const jacks = $derived(line.jacks.map((at) => jackOf(open.floor, at)));
	const cable = $derived(open.floor.cables.find(({ id }) => id === line.cable));
	const pedals = $derived(line.pedals.map((id) => open.floor.pedals.find((pedal) => pedal.id === id)));
	const hasPot = $derived(pedals.some((pedal) => pedal?.parts.some(({ is }) => is === 'pot')));
	const [first, others] = $derived([told?.cures[0], told?.cures.slice(1) ?? []]);

	const pullOut = () =>
		open.edit(`${told?.name ?? line.id}: pulled out`, (floor) => {
			const at = floor.lines.findIndex(({ id }) => id === line.id);
			return at < 0
				? []
				: [
						{ path: ['lines', at] },
						{ path: ['feeds'], value: floor.feeds.filter((feed) => feed.line !== line.id) },
						{ path: ['calibrations'], value: floor.calibrations.filter((each) => each.line !== line.id) }
					];
		});
</script>

<li class="rounded border border-line bg-sheet p-3" aria-label={told?.name ?? line.id}>
	<div class="flex flex-wrap items-center gap-x-2 gap-y-1">
		<span class="plate"
			>{jacks
				.map((found) => (found ? `${found.box.name} · ${found.jack.name}` : 'a jack that is gone'))
				.join(' + ')}</span
		>
		<span class="h-px w-6 bg-slate" aria-hidden="true"></span>
		<span class="small-print"
			>{cable
				? `${cable.name} (${CABLE_KINDS[cable.kind]})`
				: line.cable
					? 'a cable that is gone'
					: 'its own cable'}</span
		>
		<span class="h-px w-6 bg-slate" aria-hidden="true"></span>
		<span class="plate">{pedals.map((pedal) => pedal?.name ?? 'a pedal that is gone').join(' + ')}</span>
		<span class="ml-auto flex items-center gap-1.5"><StateMark state={word.mark} /><b>{word.word}</b></span>
	</div>
	<div class="mt-2 flex flex-wrap items-start gap-x-6 gap-y-2">
		{#if passing}<PassingView {passing} name={told?.name ?? ''} />{/if}
		<div class="min-w-64 flex-1">
			<p>
				{verdict?.says ?? 'Something of this line is not on the floor any more: pull it out.'}
				{#if verdict && !verdict.sure}
					It depends on resistors that nobody has noted: try it.{/if}
			</p>
			{#each verdict?.besides ?? [] as says (says)}<p class="small-print">{says}</p>{/each}
			{#if first}
				<p class="mt-2"><b>{first.says}.</b></p>
				<button
					class="btn mt-1 btn-primary btn-sm"
					disabled={open.doing.busy}
					onclick={() => open.edit(`${told!.name}: ${first.says}`, () => first.edits)}
					>{first.wants ? 'Got it and plugged it in' : 'Done'}<span class="sr-only">
						{first.says}</span
					></button
				>
				{#if others.length > 0}
					<details class="mt-1">
						<summary class="small-print">Other ways ({others.length})</summary>
						<ul class="mt-1 flex flex-col items-start gap-1">
							{#each others as cure (cure.says)}
								<li>
									{cure.says}.
									<button
										class="btn btn-xs"
										disabled={open.doing.busy}
										onclick={() => open.edit(`${told!.name}: ${cure.says}`, () => cure.edits)}
										>{cure.wants ? 'Got it' : 'Done'}<span class="sr-only"> {cure.says}</span></button
									>
								</li>
							{/each}
						</ul>
					</details>
				{/if}
			{:else if verdict && verdict.kind !== 'works'}
				<p class="small-print mt-1">Nothing on this floor mends it: no setting, cable or jack of this box.</p>
			{/if}
		</div>
	</div>
	<div class="mt-2 flex flex-wrap items-start gap-x-4 gap-y-1">
		{#if hasPot && pairing}<CalibrateLine {open} {line} name={told?.name ?? line.id} />{/if}
		{#if pairing}<SymptomList {open} {line} />{/if}
		<button class="btn ml-auto btn-ghost btn-xs" disabled={open.doing.busy} onclick={pullOut}
			>Pull out<span class="sr-only"> {told?.name}</span></button
		>
	</div>
</li>
