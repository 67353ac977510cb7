<script lang="ts">
	import {
		deputyChoices,
		deputyTroubles,
		deputyWays,
		findChoices,
		findSetting,
		pressSpare,
		type Box
	} from '$lib/core/pedal';
	import { openFloor } from '$lib/ui/feet/open-floor.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import { count } from '$lib/ui/words';

	const open = openFloor();
	const boxes = $derived(open.floor.boxes.filter(({ pages, spares }) => pages.length + spares.length > 0));
	let words = $state('');
	let setting = $state('');
	let shown = $state<Record<string, string>>({});
	/** The spare switch that was pressed last: what it does is what it does now. */
	let pressed = $state.raw<{ box: string; spare: string; how: 'short' | 'long' } | null>(null);
	const places = $derived(setting.trim() ? findSetting(open.floor, setting) : []);

	const appoint = (box: Box, spare: string, key: string) =>
		open.edit(`${box.spares.find(({ id }) => id === spare)?.name}: deputy`, (now) => {
			const b = now.boxes.findIndex(({ id }) => id === box.id);
			const rest = now.boxes[b].deputies.filter((each) => each.spare !== spare);
			const choice = deputyChoices(now.boxes[b])[Number(key)];
			return [
				{
					path: ['boxes', b, 'deputies'],
					value: choice ? [...rest, { spare, page: choice.page, button: choice.button }] : rest
				}
			];
		});
	const chosenOf = (box: Box, spare: string): string => {
		const deputy = box.deputies.find((each) => each.spare === spare);
		const at = deputyChoices(box).findIndex(
			({ page, button }) => page === deputy?.page && button === deputy?.button
		);
		return at < 0 ? '' : String(at);
	};
	const press = (box: Box, spare: string, how: 'short' | 'long') => (pressed = { box: box.id, spare, how });
</script>

<svelte:head><title>Deputies · Silent Drawer</title></svelte:head>

{#if boxes.length === 0}
	<p class="max-w-prose">
		No box here has pages of buttons, or spare switches, noted. Write them down under its jacks, on
		<a class="link" href="/control/feet/shelf">what there is</a>: a spare switch can stand in for any button
		of any page, whatever page is showing.
	</p>
{/if}
{#each boxes as box (box.id)}
	{@const choices = deputyChoices(box)}
	{@const troubles = deputyTroubles(box)}
	<section class="mb-6" aria-label={box.name}>
		<h2>{box.name}</h2>
		<p class="small-print">
			{count(box.spares.length, 'spare switch', 'spare switches')}, {count(choices.length, 'button')} that do something:
			{deputyWays(box).toLocaleString('en')} ways to appoint deputies.
		</p>
		{#if troubles.length > 0}
			<ul class="mt-2 flex flex-col gap-1">
				{#each troubles as { spare, says } (`${spare} ${says}`)}
					<li class="flex items-start gap-2">
						<span class="mt-1"><StateMark state="attention" /></span>{says}
					</li>
				{/each}
			</ul>
		{/if}
		<div class="mt-2 flex flex-wrap items-end gap-4">
			<div class="field">
				<label for={`find-${box.id}`}>Find a function</label>
				<input id={`find-${box.id}`} class="input w-44 input-sm" bind:value={words} />
			</div>
			<div class="field">
				<label for={`page-${box.id}`}>Page that is showing</label>
				<select
					id={`page-${box.id}`}
					class="select w-44 select-sm"
					value={shown[box.id] ?? box.pages[0]?.id ?? ''}
					onchange={(event) => (shown[box.id] = event.currentTarget.value)}
				>
					{#each box.pages as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			</div>
		</div>
		<ul class="mt-3 flex flex-col gap-3">
			{#each box.spares as spare (spare.id)}
				{@const found = findChoices(box, words)}
				{@const chosen = chosenOf(box, spare.id)}
				{@const now = chosen ? choices[Number(chosen)] : null}
				<li class="flex flex-wrap items-center gap-3">
					<label class="plate w-48" for={`spare-${box.id}-${spare.id}`}>{spare.name}</label>
					<select
						id={`spare-${box.id}-${spare.id}`}
						class="select w-80 select-sm"
						value={chosen}
						disabled={open.doing.busy}
						onchange={(event) => void appoint(box, spare.id, event.currentTarget.value)}
					>
						<option value="">stands in for nothing</option>
						{#each choices as choice, i (i)}
							{#if String(i) === chosen || found.some(({ page, button }) => page === choice.page && button === choice.button)}
								<option value={String(i)}
									>{choice.pageName}
									{choice.buttonName}: {choice.short || 'nothing'}{choice.long
										? ` / ${choice.long}`
										: ''}</option
								>
							{/if}
						{/each}
					</select>
					{#if now}<span class="small-print"
							>short: {now.short || 'nothing'} · long: {now.long || 'nothing'}</span
						>{/if}
					<button class="btn btn-xs" onclick={() => press(box, spare.id, 'short')}
						>Press<span class="sr-only"> {spare.name}</span></button
					>
					<button class="btn btn-xs" onclick={() => press(box, spare.id, 'long')}
						>Hold<span class="sr-only"> {spare.name}</span></button
					>
					{#if pressed?.box === box.id && pressed.spare === spare.id}
						{@const { does, of, why } = pressSpare(box, spare.id, pressed.how)}
						<span role="status"
							>{does
								? `${does}, as ${of} does, with ${box.pages.find(({ id }) => id === (shown[box.id] ?? box.pages[0]?.id))?.name} showing.`
								: `Nothing: ${why}`}</span
						>
					{/if}
				</li>
			{/each}
		</ul>
		{#if box.pages.length > 0}
			<details class="mt-3">
				<summary>Pages and their buttons</summary>
				<div class="mt-2 flex flex-wrap gap-6">
					{#each box.pages as page (page.id)}
						<div>
							<h3>{page.name}</h3>
							{#if page.follows}<p class="small-print">
									shows {box.pages.find(({ id }) => id === page.follows)?.name ?? 'a page that is gone'}
								</p>
							{:else}
								<ul class="text-sm">
									{#each page.buttons as { id, name, short, long } (id)}
										<li>{name}: {short || 'nothing'}{long ? ` · long: ${long}` : ''}</li>
									{/each}
								</ul>
							{/if}
						</div>
					{/each}
				</div>
			</details>
		{/if}
	</section>
{/each}

<h2 class="mt-6">Where is it set?</h2>
<p class="small-print max-w-prose">
	The same setting lies elsewhere on another box, and each box names a pedal’s place in its own way.
</p>
<div class="field mt-2">
	<label for="find-setting">A word of the setting</label>
	<input id="find-setting" class="input w-56 input-sm" bind:value={setting} />
</div>
{#if setting.trim()}
	<ul class="mt-2" role="status">
		{#each places as { box, setting: what, path } (`${box} ${what} ${path}`)}
			<li><span class="plate">{box}</span> · {what}: {path}</li>
		{:else}<li>No box says where that is.</li>{/each}
	</ul>
{/if}
