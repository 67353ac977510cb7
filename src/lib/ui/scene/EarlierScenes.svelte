<script lang="ts">
	import { desksCompared, putScene, type EarlierScene, type Scene } from '$lib/core/scene';
	import { call } from '../../hardware/api';
	import { Doing } from '../doing.svelte';
	import When from '../When.svelte';
	import { minuteOf } from '../words';
	import type { OpenSet } from './open-set.svelte';

	/** What a scene held before, each to be brought back. */
	let { open, scene }: { open: OpenSet; scene: Scene } = $props();
	const asking = new Doing();
	let earlier = $state.raw<EarlierScene[] | null>(null);

	const ask = () =>
		asking.run(async () => {
			earlier = await call<EarlierScene[]>('GET', `/set/scenes/${scene.number}/earlier`);
		});
	async function bringBack({ scene: was }: EarlierScene) {
		if (await open.edit(`Scene ${was.number}: ${was.name} as it was`, (set) => putScene(set, was)))
			await ask();
	}
	const differences = (was: Scene) => [
		...(was.name === scene.name ? [] : [`It was called ${was.name}.`]),
		...desksCompared(open.set, scene, was)
	];
</script>

<details class="mt-1" ontoggle={(event) => event.currentTarget.open && void ask()}>
	<summary class="small-print cursor-pointer">What scene {scene.number} held before</summary>
	{#if asking.problem}<p role="alert" class="text-rust">
			{asking.problem.message}
			{asking.problem.remedy}
		</p>{/if}
	{#if earlier?.length === 0}<p>Nothing else, as far as the history of the set goes.</p>{/if}
	<ol class="flex flex-col gap-1">
		{#each earlier ?? [] as was, i (i)}
			<li>
				Until <When at={was.until} />. Against what it holds now: {differences(was.scene).join(' ') ||
					'the same by another order.'}
				<button class="btn btn-xs" disabled={open.doing.busy} onclick={() => void bringBack(was)}
					>Bring it back<span class="sr-only">{`, as it was until ${minuteOf(was.until)}`}</span></button
				>
			</li>
		{/each}
	</ol>
</details>
