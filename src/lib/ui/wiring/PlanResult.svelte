<script lang="ts">
	import { GOALS, POLICIES, type Goal } from '$lib/core/plan/policy';
	import { SvelteSet } from 'svelte/reactivity';
	import type { KeptPlan } from '$lib/workers/planner.svelte';
	import { channelWords, indexRig, portName, type RigChange } from '$lib/core/rig';
	import StateMark from '../StateMark.svelte';
	import { count, duration } from '../words';

	interface Props {
		kept: KeptPlan;
		/** Whether the studio's wiring is still the one that the plan was made for. */
		current: boolean;
		/** Still being bettered: nothing of it can be followed yet. */
		draft?: boolean;
		onApply: (changes: RigChange[], says: string) => Promise<boolean>;
	}
	let { kept, current, draft = false, onApply }: Props = $props();
	const plan = $derived(kept.plan);
	const index = $derived(indexRig(kept.rig));
	const name = (id: string) => index.devices.get(id)?.name ?? id;
	const socket = (id: string | null) => {
		const placed = id === null ? undefined : index.ports.get(id);
		return placed ? portName(placed) : '';
	};
	const allProved = $derived(plan.proved.length === Object.keys(GOALS).length - 1);
	const proof = $derived(
		draft ? 'Best so far, still looking' : allProved ? 'Proved best' : 'Best found, not proved'
	);
	const busiest = $derived(
		plan.loads.reduce(
			(most, load) => (load.bytesPerSecond > most.bytesPerSecond ? load : most),
			plan.loads[0]
		)
	);
	const ticksOf = (_: KeptPlan) => new SvelteSet<number>();
	/** Steps that are ticked; another plan begins with none. */
	const ticks = $derived(ticksOf(kept));
	let open = $state<string | null>(null);
	let busy = $state(false);
	const done = $derived(ticks.size);

	async function applyTicked(all: boolean) {
		busy = true;
		const steps = plan.steps.filter((_, i) => all || ticks.has(i));
		await onApply(
			steps.map(({ change }) => change),
			`${count(steps.length, 'step')} of the plan done.`
		);
		busy = false;
	}
	/** Goals as they are told: the hard rules are kept always. */
	const goalRows = $derived(
		(Object.keys(GOALS) as Goal[])
			.filter((goal) => goal !== 'broken')
			.map((goal, i) => ({ goal, value: plan.goals[goal], says: proofOf(goal, i) }))
	);
	/** How far off a goal may be is known of the first that is open. */
	function proofOf(goal: Goal, i: number): string {
		if (plan.proved.includes(goal)) return 'proved';
		return i === plan.proved.length && plan.gap > 0 && plan.gap < 1
			? `not proved; at most ${Math.ceil(plan.gap * 100)} % less is possible`
			: 'not proved';
	}
</script>

<section aria-labelledby={`plan-${kept.id}`}>
	<div class="flex flex-wrap items-baseline gap-3">
		<h2 id={`plan-${kept.id}`}>{kept.title}</h2>
		<p class="flex items-center gap-2" role="status">
			<StateMark state={plan.unplaced.length > 0 ? 'danger' : allProved ? 'verified' : 'attention'} />
			<span
				><strong>{proof}</strong>{plan.unplaced.length > 0
					? `, ${count(plan.unplaced.length, 'device')} without a place`
					: ''}</span
			>
			<span class="small-print"
				>{POLICIES[plan.policy].title.toLowerCase()}{draft ? '' : `, in ${duration(kept.tookMs)}`}{!draft &&
				plan.took.proofMs >= 1
					? `, ${duration(plan.took.proofMs)} of it for looking a second time`
					: ''}{plan.cancelled ? '; stopped' : ''}</span
			>
		</p>
	</div>
	<div class="mt-2 grid gap-5 xl:grid-cols-2">
		<table class="ledger-table self-start">
			<thead><tr><th>Goal, in strict order</th><th class="number">Value</th><th>Proof</th></tr></thead>
			<tbody>
				{#each goalRows as { goal, value, says } (goal)}
					<tr><td>{GOALS[goal]}</td><td class="number">{value}</td><td>{says}</td></tr>
				{/each}
			</tbody>
		</table>
		<div>
			<h3 class="mb-1">Change list</h3>
			{#if plan.steps.length === 0}
				<p class="flex items-center gap-2">
					<StateMark state="verified" /> Nothing to change: the studio is wired like this today.
				</p>
			{:else}
				<ol class="todo">
					{#each plan.steps as step, i (step.says)}
						<li>
							<label class="flex items-start gap-2"
								><input
									type="checkbox"
									class="checkbox mt-0.5 checkbox-sm"
									disabled={draft}
									checked={ticks.has(i)}
									onchange={(event) => (event.currentTarget.checked ? ticks.add(i) : ticks.delete(i))}
								/>
								<span>{step.says}</span></label
							>
						</li>
					{/each}
				</ol>
				<div class="mt-2 flex flex-wrap items-center gap-2">
					{#if draft}
						<p class="small-print">The list may still get shorter.</p>
					{:else if kept.supposed.length > 0}
						<p class="small-print">
							This plan supposes {kept.supposed.join(', ')}: add it to the catalogue before you follow the
							list.
						</p>
					{:else if !current}
						<p class="small-print">
							The wiring was changed since this plan was made. Plan again to follow it.
						</p>
					{:else}
						<button
							class="btn btn-primary btn-sm"
							disabled={busy || done === 0}
							onclick={() => applyTicked(false)}>Note the {done} ticked as done</button
						>
						<button class="btn btn-sm" disabled={busy} onclick={() => applyTicked(true)}
							>All {plan.steps.length} are done</button
						>
					{/if}
				</div>
			{/if}
		</div>
	</div>
	{#if plan.asks.length > 0}
		<h3 class="mt-4">To be looked up</h3>
		<ul>
			{#each plan.asks as { says } (says)}<li class="flex items-center gap-2 py-1">
					<StateMark state="attention" />
					<span>{says}</span>
				</li>{/each}
		</ul>
	{/if}
	{#if plan.unplaced.length > 0}
		<h3 class="mt-4">Without a place</h3>
		<ul>
			{#each plan.unplaced as { device, because, wouldHelp } (device)}
				<li class="border-t border-line py-2" data-unplaced={name(device)}>
					<strong>{name(device)}</strong>: {because.join('; ')}.
					<ul class="ml-5 list-disc">
						{#each wouldHelp as help (help)}<li>{help}</li>{/each}
					</ul>
				</li>
			{/each}
		</ul>
	{/if}
	<h3 class="mt-4 mb-1">
		Who goes where{busiest
			? `; the busiest port is ${socket(busiest.port)} with ${Math.round(busiest.share * 100)} %`
			: ''}
	</h3>
	<div class="overflow-x-auto">
		<table class="ledger-table">
			<thead
				><tr><th>Device</th><th>Out</th><th>Through</th><th>Channel</th><th>Return</th><th>Why</th></tr
				></thead
			>
			<tbody>
				{#each plan.assignments as entry (entry.device)}
					<tr>
						<td class="plate">{name(entry.device)}</td>
						<td>{socket(entry.out)}</td>
						<td>{entry.via ? socket(entry.via) : ''}</td>
						<td>{channelWords(entry.channels)}</td>
						<td>{socket(entry.in)}</td>
						<td>
							{#if !plan.why[entry.device]}{:else if open === entry.device}<span
									>{plan.why[entry.device]}</span
								>
							{:else}<button class="btn btn-ghost btn-xs" onclick={() => (open = entry.device)}
									>Why is {name(entry.device)} there?</button
								>{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
</section>

<style>
	.todo {
		list-style: decimal;
		margin-left: 1.6rem;
	}
	.todo li {
		padding: 2px 0;
	}
</style>
