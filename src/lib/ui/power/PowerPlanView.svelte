<script lang="ts">
	import type { PowerGoal, PowerPlan, PowerStep } from '$lib/core/power';
	import { PowerPlanner } from '$lib/workers/power-planner.svelte';
	import { Doing } from '../doing.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import { remembered } from '../remembered.svelte';
	import StateMark from '../StateMark.svelte';
	import type { OpenPower } from './open-power.svelte';

	/** Which output should feed what: proved, with what a hand does, ticked as it is done. */
	let { open }: { open: OpenPower } = $props();
	const doing = new Doing();
	const planner = new PowerPlanner();
	/** The plan, and the labels that it was made of. */
	const kept = remembered<{ plan: PowerPlan; of: string } | null>('power.plan', null);
	const labels = $derived(JSON.stringify({ ...open.power, cables: [] }));
	const plan = $derived(kept.value?.plan ?? null);
	const old = $derived(kept.value !== null && kept.value.of !== labels);
	const nameOf = (id: string) => open.power.loads.find((load) => load.id === id)?.name ?? id;

	const GOALS: Record<PowerGoal, (value: number) => string> = {
		unfed: (value) =>
			value > 0
				? `${value} fed by nothing`
				: plan!.left.length > 0
					? 'everything else is fed'
					: 'everything is fed',
		moved: (value) => `${value} ${value === 1 ? 'plug' : 'plugs'} moved`,
		supplies: (value) => `${value} ${value === 1 ? 'supply' : 'supplies'} used`,
		shared: (value) =>
			value === 0
				? 'every wish for a ground of its own met'
				: `${value} without the ground of their own that they want`,
		tightest: (value) => `the fullest output at ${value} %`
	};
	const make = () =>
		doing.run(async () => {
			const of = labels;
			kept.value = { plan: await planner.run($state.snapshot(open.power), 20), of };
		});
	const isDone = ({ load, to }: PowerStep) => {
		const cable = open.power.cables.find((each) => each.load === load);
		return to === null ? !cable : cable?.supply === to.supply && cable.output === to.output;
	};
	const tick = (step: PowerStep) =>
		isDone(step)
			? open.hang(step.load, step.from, `${nameOf(step.load)}: back where it was`)
			: open.hang(step.load, step.to, step.says.replace(/\.$/, ''));
</script>

<section class="mt-6" aria-labelledby="power-plan">
	<h2 id="power-plan">Plan</h2>
	<div class="mt-1 flex flex-wrap items-center gap-3">
		<button
			class="btn btn-primary btn-sm"
			disabled={planner.running || open.power.loads.length === 0}
			onclick={() => void make()}>{plan ? 'Plan anew' : 'Plan what feeds what'}</button
		>
		{#if planner.running}
			<button class="btn btn-sm" onclick={() => planner.stop()}>Stop</button><span role="status"
				>Planning …</span
			>
		{/if}
		<span class="small-print"
			>Everything fed with {open.power.margin} % to spare, then the fewest plugs moved, the fewest supplies, grounds,
			headroom.</span
		>
	</div>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	{#if plan}
		{#if old}<p class="mt-2 flex items-center gap-1.5" role="status">
				<StateMark state="attention" size={11} /> Labels or supplies changed since: plan anew.
			</p>{/if}
		{#if plan.left.length > 0}<p class="mt-2">
				{plan.left.map(({ load }) => nameOf(load)).join(', ')}
				{plan.left.length === 1 ? 'stays as it hangs, and is' : 'stay as they hang, and are'} no part of the plan:
				what they add to a group’s current or to a ground is not counted in it. Read {plan.left
					.flatMap(({ read }) => read)
					.join(', ')} first.
			</p>{/if}
		<p class="mt-2" role="status">
			{plan.proved
				? 'By these labels nothing better exists, goal by goal:'
				: 'The best that was found; where nothing is said of a proof, better may exist:'}
			{#each plan.goals as { goal, value, proof }, i (goal)}{i > 0 ? '; ' : ' '}{GOALS[goal](value)}{proof
					? ' (proved)'
					: ''}{/each}.
		</p>
		{#if plan.steps.length === 0}<p class="mt-2">Nothing is to be moved.</p>
		{:else}
			<ul class="mt-2 flex flex-col gap-1" aria-label="What is to be done">
				{#each plan.steps as step (step.load)}
					<li>
						<label class="flex items-start gap-2"
							><input
								type="checkbox"
								class="checkbox mt-1 checkbox-sm"
								checked={isDone(step)}
								disabled={open.doing.busy || old}
								onchange={() => void tick(step)}
							/>
							<span class={isDone(step) ? 'text-slate line-through' : ''}>{step.says}</span></label
						>
					</li>
				{/each}
			</ul>
			<p class="small-print mt-1">
				Switch off and pull the supply from the wall first; compare both labels at each plug.
			</p>
		{/if}
		{#each plan.wants as { says, loads } (says)}
			<p class="mt-2">
				<span class="plate">To get:</span>
				{loads.length > 1 ? `${loads.length} × ` : ''}{says}, for {loads.map(nameOf).join(', ')}.
			</p>
		{/each}
		<details class="mt-2">
			<summary>Why</summary>
			<ul class="mt-1 ml-4 list-disc text-sm">
				{#each plan.reasons as { load, says } (load)}<li>{says}</li>{/each}
			</ul>
		</details>
	{/if}
</section>
