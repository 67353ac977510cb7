<script lang="ts">
	import { mapMark, stepState } from '$lib/core/control';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** What has to be set in the host for this map: ticked, dated, and asked again when the map moves. */
	let { open }: { open: OpenMap } = $props();
	const host = $derived(open.map.host);
	const WORDS = {
		done: 'done',
		'map changed': 'the map changed since: look at it again',
		'other version': 'done with another version: look at it again',
		open: 'not done'
	} as const;

	function add(event: SubmitEvent & { currentTarget: HTMLFormElement }) {
		event.preventDefault();
		const form = event.currentTarget;
		const says = String(new FormData(form).get('step') ?? '').trim();
		if (!says) return;
		form.reset();
		void open.edit(`Recipe: ${says}`, (map) => [
			{ path: ['host', 'recipe', map.host.recipe.length], value: { says, ticked: null } }
		]);
	}
	const tick = (i: number, on: boolean) =>
		open.edit(`${host.recipe[i].says}: ${on ? 'done' : 'not done'}`, (map) => [
			{
				path: ['host', 'recipe', i, 'ticked'],
				value: on ? { at: new Date().toISOString(), version: map.host.version, of: mapMark(map) } : null
			}
		]);
</script>

<section class="mt-6" aria-labelledby="recipe">
	<h2 id="recipe">What else must be set there for this map</h2>
	{#if host.recipe.length > 0}
		<ul class="mt-2 grid gap-1">
			{#each host.recipe as step, i (i)}
				{@const state = stepState(open.map, step)}
				<li class="flex flex-wrap items-center gap-2">
					<label class="flex items-center gap-2"
						><input
							type="checkbox"
							class="checkbox checkbox-sm"
							checked={state === 'done'}
							disabled={open.doing.busy}
							onchange={(event) => void tick(i, event.currentTarget.checked)}
						/>{step.says}</label
					>
					<span class="small-print flex items-center gap-1.5"
						><StateMark
							state={state === 'done' ? 'verified' : state === 'open' ? 'quiet' : 'attention'}
							size={11}
						/>
						{WORDS[state]}{#if step.ticked}, <When at={step.ticked.at} />{step.ticked.version
								? `, version ${step.ticked.version}`
								: ''}{/if}</span
					>
					<button
						class="btn btn-ghost btn-xs"
						disabled={open.doing.busy}
						onclick={() =>
							void open.edit(`Recipe without: ${step.says}`, () => [{ path: ['host', 'recipe', i] }])}
						>Remove<span class="sr-only"> {step.says}</span></button
					>
				</li>
			{/each}
		</ul>
	{/if}
	<form class="mt-2 flex flex-wrap items-end gap-2" onsubmit={add}>
		<div class="field max-w-xl min-w-0 flex-1">
			<label for="recipe-step"
				>A step: a switch, a mode, which {open.map.surface.pages.word} is expected where, what to load</label
			>
			<input id="recipe-step" name="step" class="input w-full input-sm" maxlength="200" />
		</div>
		<button class="btn btn-sm">Add the step</button>
	</form>
</section>
