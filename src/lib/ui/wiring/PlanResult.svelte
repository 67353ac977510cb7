<script lang="ts">
	import { GOALS, POLICIES, type Goal } from '$lib/core/plan/policy';
	import { followed } from '$lib/core/plan/follow';
	import type { MadePlan } from '$lib/core/plan/kept-plan';
	import { channelWords, indexRig, inverse, portName, type Rig } from '$lib/core/rig';
	import { changeRig } from './change-rig';
	import StateMark from '../StateMark.svelte';
	import { count, duration } from '../words';

	interface Props {
		made: MadePlan;
		/** The studio's wiring today, in which the list is ticked; without it the plan is still being bettered. */
		follow?: { rig: Rig; revision: number };
	}
	let { made, follow }: Props = $props();
	const uid = $props.id();
	const draft = $derived(!follow);
	const plan = $derived(made.plan);
	const index = $derived(indexRig(made.rig));
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
	/** A step is ticked where the wiring is as it would leave it. */
	const how = $derived(follow ? followed(plan.steps, made.rig, follow.rig) : null);
	const done = $derived(how?.done.filter(Boolean).length ?? 0);
	const left = $derived(plan.steps.filter((_, i) => !how?.done[i]));
	const supposed = $derived(made.supposed.length > 0);
	let open = $state<string | null>(null);
	let busy = $state(false);

	async function act(work: () => Promise<boolean>) {
		busy = true;
		await work();
		busy = false;
	}
	const tick = (i: number) => {
		const { says, change } = plan.steps[i];
		return act(() =>
			how?.done[i]
				? changeRig([inverse(made.rig, change)], `Not done after all: ${says}`)
				: changeRig([change], says)
		);
	};
	const rest = () =>
		act(() =>
			changeRig(
				left.map(({ change }) => change),
				`${count(left.length, 'step')} of the plan done.`,
				follow?.revision
			)
		);
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

<section aria-labelledby={`plan-${uid}`}>
	<div class="flex flex-wrap items-baseline gap-3">
		<h2 id={`plan-${uid}`}>{made.title}</h2>
		<p class="flex items-center gap-2" role="status">
			<StateMark state={plan.unplaced.length > 0 ? 'danger' : allProved ? 'verified' : 'attention'} />
			<span
				><strong>{proof}</strong>{plan.unplaced.length > 0
					? `, ${count(plan.unplaced.length, 'device')} without a place`
					: ''}</span
			>
			<span class="small-print"
				>{POLICIES[plan.policy].title.toLowerCase()}{draft ? '' : `, in ${duration(made.tookMs)}`}{!draft &&
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
							<label class="flex items-baseline gap-2"
								><input
									type="checkbox"
									class="checkbox self-start checkbox-sm"
									disabled={draft || supposed || busy}
									checked={how?.done[i] ?? false}
									onchange={(event) => {
										// It shows what the wiring is noted as, not what was pressed.
										event.currentTarget.checked = how?.done[i] ?? false;
										void tick(i);
									}}
								/>
								<span>{step.says}</span></label
							>
						</li>
					{/each}
				</ol>
				<div class="mt-2 flex flex-wrap items-center gap-2">
					{#if draft}
						<p class="small-print">The list may still get shorter.</p>
					{:else if supposed}
						<p class="small-print">
							This plan supposes {made.supposed.join(', ')}: add it to the catalogue before you follow the
							list.
						</p>
					{:else}
						<p role="status">{done} of {count(plan.steps.length, 'step')} noted as done.</p>
						{#if left.length > 0}
							<button class="btn btn-sm" disabled={busy} onclick={rest}
								>{done === 0
									? `All ${left.length} are done`
									: `The other ${left.length} are done, too`}</button
							>
						{/if}
						{#if how && !how.stands}
							<p class="w-full">
								The wiring was changed besides this plan since it was made: what is left may not fit any more,
								and need not be the best. Plan again to take the changes into account.
							</p>
						{/if}
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
	@media (pointer: coarse) {
		.todo label {
			min-height: 44px;
			align-items: center;
		}
	}
</style>
