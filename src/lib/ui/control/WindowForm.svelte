<script lang="ts">
	import { beginWindow, movesWindow, pushOf, windowWords, type WindowFault } from '$lib/core/control';
	import { notices } from '../notices.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** Windows of the page: a few controls over a longer list, moved by a button. */
	let { open, page }: { open: OpenMap; page: number } = $props();
	const map = $derived(open.map);
	const { word } = $derived(map.surface.pages);
	const at = $derived(map.pages.findIndex(({ number }) => number === page));
	const here = $derived(map.pages.at(at));
	/** What can be pressed, and moves no window yet. */
	const buttons = $derived(
		map.surface.controls.filter(
			({ id, kind, gestures }) =>
				kind !== 'keys' &&
				kind !== 'socket' &&
				gestures.some((each) => !each.endsWith('move')) &&
				!(here && movesWindow(here, id, pushOf(gestures)))
		)
	);
	let [name, controls, over, next, back] = $state(['', '', '', '', '']);
	let step = $state<number | null>(null);
	let fault = $state.raw<WindowFault | null>(null);
	const wrong = (field: WindowFault['field']) =>
		fault?.field === field
			? ({ 'aria-invalid': 'true', 'aria-describedby': 'window-fault' } as const)
			: ({} as const);

	async function begin(event: SubmitEvent) {
		event.preventDefault();
		const asked = { name, controls, over, step, next, back };
		const made = beginWindow(map, page, asked);
		fault = 'fault' in made ? made.fault : null;
		if ('fault' in made) return;
		const kept = await open.edit(`A window on ${word} ${page}`, (now) => {
			const again = beginWindow(now, page, asked);
			return 'edits' in again ? again.edits : [];
		});
		if (!kept) return;
		notices.say(`The window is on ${word} ${page}; its controls tell the first of the list.`, 'good');
		[name, controls, over, next, back, step] = ['', '', '', '', '', null];
	}
</script>

<details class="mt-6" open={(here?.windows.length ?? 0) > 0}>
	<summary class="plate">A window over a longer list</summary>
	{#if here && here.windows.length > 0}
		<ul class="mt-2 grid gap-1">
			{#each here.windows as window, w (w)}
				<li>
					<span class="font-semibold">{window.name}</span>: {windowWords(map, window)}
					<button
						class="btn btn-ghost btn-xs"
						disabled={open.doing.busy}
						onclick={() =>
							void open.edit(`Without the window ${window.name}`, () => [
								{ path: ['pages', at, 'windows', w] }
							])}>Take it away<span class="sr-only"> {window.name}</span></button
					>
				</li>
			{/each}
		</ul>
	{/if}
	<form class="mt-2 flex flex-wrap items-end gap-3" onsubmit={begin}>
		<div class="field">
			<label for="window-name">Its name</label>
			<input id="window-name" class="input w-36 input-sm" maxlength="60" bind:value={name} />
		</div>
		<div class="field">
			<label for="window-controls">Controls</label>
			<input
				id="window-controls"
				class="input w-44 input-sm"
				required
				placeholder={`${map.surface.controls[0].name}, …`}
				bind:value={controls}
				{...wrong('controls')}
			/>
		</div>
		<div class="field grow basis-64">
			<label for="window-over">tell, one after another</label>
			<input
				id="window-over"
				class="input w-full input-sm"
				required
				placeholder="Level ch 1–16; CC 20"
				bind:value={over}
				{...wrong('over')}
			/>
		</div>
		<div class="field">
			<label for="window-step">Further at a press</label>
			<input
				id="window-step"
				class="input w-24 input-sm"
				type="number"
				min="1"
				max="200"
				placeholder="all"
				bind:value={step}
			/>
		</div>
		<div class="field">
			<label for="window-next">Moved on by</label>
			<select id="window-next" class="select w-36 select-sm" required bind:value={next} {...wrong('buttons')}>
				<option value="">choose</option>
				{#each buttons as { id, name: title } (id)}<option value={id}>{title}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="window-back">Back by</label>
			<select id="window-back" class="select w-36 select-sm" bind:value={back} {...wrong('buttons')}>
				<option value="">nothing</option>
				{#each buttons as { id, name: title } (id)}<option value={id}>{title}</option>{/each}
			</select>
		</div>
		<button class="btn btn-sm">Begin the window</button>
	</form>
	{#if fault}<p id="window-fault" role="alert" class="mt-1 text-rust">{fault.says}</p>{/if}
	<p class="small-print mt-1 max-w-prose">
		The host or the device moves it: note there what the buttons do. A template holds the first of the list.
	</p>
</details>
