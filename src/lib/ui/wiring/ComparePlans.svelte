<script lang="ts">
	import { GOALS, type Goal } from '$lib/core/plan/policy';
	import { applyChanges, indexRig, portName } from '$lib/core/rig';
	import type { KeptPlan, PlanName } from '$lib/core/plan/kept-plan';
	import { planner } from '$lib/workers/planner.svelte';
	import { problemOf } from '../words';
	import { showPlans } from './kept-plan';

	/** Two plans side by side: what each asks for, how busy its ports get, how late a chord arrives. */
	let { plans }: { plans: PlanName[] } = $props();
	let left = $state(0);
	let right = $state(0);
	const first = $derived((plans.find(({ id }) => id === left) ?? plans[plans.length - 2]).id);
	const second = $derived((plans.find(({ id }) => id === right) ?? plans[plans.length - 1]).id);
	let pair = $state.raw<[KeptPlan, KeptPlan] | null>(null);
	const [a, b] = $derived(pair ?? [null, null]);
	$effect(() => {
		problem = '';
		return showPlans(
			[first, second],
			([one, other]) => (pair = [one, other]),
			(error) => (problem = problemOf(error).message)
		);
	});
	let late = $state.raw<[number, number] | null>(null);
	let problem = $state('');
	const goals = (Object.keys(GOALS) as Goal[]).filter((goal) => goal !== 'broken');
	const socket = (kept: KeptPlan, id: string | null) => {
		const placed = id === null ? undefined : indexRig(kept.rig).ports.get(id);
		return placed ? portName(placed) : '—';
	};
	const outsOf = (kept: KeptPlan | null) =>
		kept ? new Set(kept.plan.assignments.map(({ out }) => out)).size : '…';
	const differ = $derived(
		(a?.plan.assignments ?? []).flatMap((mine) => {
			const other = b!.plan.assignments.find(({ device }) => device === mine.device);
			return other && (other.out !== mine.out || other.channels.join() !== mine.channels.join())
				? [{ name: indexRig(a!.rig).devices.get(mine.device)!.name, mine, other }]
				: [];
		})
	);

	$effect(() => {
		if (!pair) return;
		const rigs = pair.map(({ rig, plan }) =>
			applyChanges(
				rig,
				plan.steps.map(({ change }) => change)
			)
		);
		late = null;
		planner
			.play(rigs, { pattern: 'chords', seconds: 2 }, { runningStatus: true, usb: true })
			.then(({ reports }) => {
				const worst = reports.map(({ devices }) => Math.max(0, ...devices.map(({ worstMs }) => worstMs)));
				late = [worst[0], worst[1]];
			})
			.catch((error: unknown) => (problem = problemOf(error).message));
	});
</script>

<section class="sheet mt-6 p-4" aria-labelledby="compare-plans">
	<h2 id="compare-plans" class="mb-2">Two plans side by side</h2>
	<table class="ledger-table">
		<thead>
			<tr>
				<th><span class="sr-only">What is compared</span></th>
				<th class="number"
					><select
						class="select w-56 select-sm"
						aria-label="First plan"
						value={first}
						onchange={(event) => (left = Number(event.currentTarget.value))}
						>{#each plans as kept (kept.id)}<option value={kept.id}>{kept.title}</option>{/each}</select
					></th
				>
				<th class="number"
					><select
						class="select w-56 select-sm"
						aria-label="Second plan"
						value={second}
						onchange={(event) => (right = Number(event.currentTarget.value))}
						>{#each plans as kept (kept.id)}<option value={kept.id}>{kept.title}</option>{/each}</select
					></th
				>
			</tr>
		</thead>
		<tbody>
			{#each goals as goal (goal)}
				<tr
					><td>{GOALS[goal]}</td><td class="number">{a?.plan.goals[goal] ?? '…'}</td><td class="number"
						>{b?.plan.goals[goal] ?? '…'}</td
					></tr
				>
			{/each}
			<tr
				><td>steps in the change list</td><td class="number">{a?.plan.steps.length ?? '…'}</td><td
					class="number">{b?.plan.steps.length ?? '…'}</td
				></tr
			>
			<tr><td>outs in use</td><td class="number">{outsOf(a)}</td><td class="number">{outsOf(b)}</td></tr>
			<tr>
				<td>latest note of ten-note chords for everybody, ms</td>
				<td class="number">{late ? late[0].toFixed(2) : '…'}</td><td class="number"
					>{late ? late[1].toFixed(2) : '…'}</td
				>
			</tr>
		</tbody>
	</table>
	{#if problem}<p class="text-rust">{problem}</p>{/if}
	{#if differ.length > 0}
		<h3 class="mt-3">Placed otherwise</h3>
		<ul>
			{#each differ as { name, mine, other } (name)}<li>
					{name}: {socket(a!, mine.out)} ch {mine.channels.join(', ')} → {socket(b!, other.out)} ch {other.channels.join(
						', '
					)}
				</li>{/each}
		</ul>
	{/if}
</section>
