<script lang="ts">
	import { CABLE_KINDS, floorSchema, modeOf, modeWords, type CableKind } from '$lib/core/pedal';
	import { uniqueId } from '$lib/core/unique-id';
	import BoxForm from '$lib/ui/feet/BoxForm.svelte';
	import BoxWordsForm from '$lib/ui/feet/BoxWordsForm.svelte';
	import JackForm from '$lib/ui/feet/JackForm.svelte';
	import { openFloor } from '$lib/ui/feet/open-floor.svelte';
	import PedalForm from '$lib/ui/feet/PedalForm.svelte';
	import FilePick from '$lib/ui/FilePick.svelte';

	let { data } = $props();
	const open = openFloor();
	const floor = $derived(open.floor);
	const ids = (list: readonly { id: string }[]) => new Set(list.map(({ id }) => id));

	let cableName = $state('');
	let cableKind = $state<CableKind>('trs');
	async function addCable(event: SubmitEvent) {
		event.preventDefault();
		const name = cableName.trim();
		const kind = cableKind;
		if (!name) return;
		cableName = '';
		const kept = await open.edit(`${name} is on the shelf`, (now) => [
			{
				path: ['cables', now.cables.length],
				value: { id: uniqueId(name, ids(now.cables), 'cable'), name, kind }
			}
		]);
		if (!kept) cableName ||= name;
	}
	const remove = (list: 'boxes' | 'pedals' | 'cables', id: string, name: string) =>
		open.edit(`${name} is taken off the floor`, (now) => [
			{ path: [list, (now[list] as { id: string }[]).findIndex((each) => each.id === id)] }
		]);
	/** Whether something is plugged in with it: then it stays until that is pulled out. */
	const inUse = (list: 'boxes' | 'pedals' | 'cables', id: string) =>
		floor.lines.some(({ jacks, pedals, cable }) =>
			list === 'boxes'
				? jacks.some(({ box }) => box === id)
				: list === 'pedals'
					? pedals.includes(id)
					: cable === id
		);
	const removeJack = (boxId: string, jack: string, name: string) =>
		open.edit(`${name} is no jack any more`, (now) => {
			const b = now.boxes.findIndex(({ id }) => id === boxId);
			return [{ path: ['boxes', b, 'jacks', now.boxes[b].jacks.findIndex(({ id }) => id === jack)] }];
		});
	const takeOver = (file: File) => open.takeOver(file, floorSchema, 'floor');
</script>

<svelte:head><title>What is on the floor · Silent Drawer</title></svelte:head>

{#snippet off(list: 'boxes' | 'pedals' | 'cables', id: string, name: string)}
	{#if inUse(list, id)}<span class="small-print">plugged in</span>
	{:else}<button
			class="btn btn-ghost btn-xs"
			disabled={open.doing.busy}
			onclick={() => void remove(list, id, name)}>Take off<span class="sr-only"> {name}</span></button
		>{/if}
{/snippet}

<section aria-labelledby="shelf-boxes">
	<h2 id="shelf-boxes">Boxes and their jacks</h2>
	<ul class="mt-2 flex flex-col gap-3">
		{#each floor.boxes as box (box.id)}
			<li>
				<p class="flex flex-wrap items-center gap-2">
					<span class="plate">{box.name}</span>
					{#if box.device && data.devices.some(({ id }) => id === box.device)}<a
							class="small-print link"
							href={`/gear/${box.device}`}>in Gear</a
						>{/if}
					{#if box.slots > 0}<span class="small-print">{box.slots} slots</span>{/if}
					{@render off('boxes', box.id, box.name)}
				</p>
				<ul class="ml-4 text-sm">
					{#each box.jacks as jack (jack.id)}
						{@const mode = modeOf(jack)}
						<li class="flex flex-wrap items-center gap-2">
							{jack.name}: {modeWords(mode.takes, mode.wiper)}{jack.modes.length > 1
								? `, or ${jack.modes
										.filter(({ id }) => id !== mode.id)
										.map((other) => modeWords(other.takes, other.wiper))
										.join(', or ')}`
								: ''}{mode.settingMenu ? ` (${mode.settingMenu})` : ''}
							{#if !floor.lines.some( ({ jacks }) => jacks.some((at) => at.box === box.id && at.jack === jack.id) )}
								<button
									class="btn btn-ghost btn-xs"
									disabled={open.doing.busy}
									onclick={() => void removeJack(box.id, jack.id, jack.name)}
									>Take off<span class="sr-only"> {box.name} {jack.name}</span></button
								>
							{/if}
						</li>
					{/each}
				</ul>
				<BoxWordsForm {open} {box} />
				<JackForm {open} boxId={box.id} boxName={box.name} />
			</li>
		{:else}<li>None yet.</li>{/each}
	</ul>
	<BoxForm {open} devices={data.devices} />
</section>

<section class="mt-6" aria-labelledby="shelf-pedals">
	<h2 id="shelf-pedals">Pedals and switches</h2>
	<ul class="mt-2 flex flex-col gap-1">
		{#each floor.pedals as pedal (pedal.id)}
			<li class="flex flex-wrap items-center gap-2">
				<span class="plate">{pedal.name}</span>
				<span class="small-print"
					>{pedal.parts
						.map((part) =>
							part.is === 'pot'
								? `${pedal.knob ? 'knob' : 'pot'}, wiper on the ${part.wiper}${part.kohm ? `, ${part.kohm} kΩ` : ''}`
								: `${part.name ? `${part.name}: ` : ''}normally ${part.rest}, ${part.acts}`
						)
						.join('; ')}; {pedal.plug.startsWith('own') ? 'its own cable' : 'socket'},
					{pedal.plug.endsWith('trs') ? 'TRS' : 'TS'}</span
				>
				{#if pedal.note}<span class="small-print">{pedal.note}</span>{/if}
				{@render off('pedals', pedal.id, pedal.name)}
			</li>
		{:else}<li>None yet.</li>{/each}
	</ul>
	<PedalForm {open} />
</section>

<section class="mt-6" aria-labelledby="shelf-cables">
	<h2 id="shelf-cables">Cables</h2>
	<ul class="mt-2 flex flex-col gap-1">
		{#each floor.cables as { id, name, kind } (id)}
			<li class="flex flex-wrap items-center gap-2">
				<span class="plate">{name}</span> <span class="small-print">{CABLE_KINDS[kind]}</span>
				{@render off('cables', id, name)}
			</li>
		{:else}<li>None yet.</li>{/each}
	</ul>
	<form class="mt-3 flex flex-wrap items-end gap-3" aria-label="Add a cable" onsubmit={addCable}>
		<div class="field">
			<label for="cable-name">Name</label>
			<input id="cable-name" class="input w-52 input-sm" maxlength="60" bind:value={cableName} />
		</div>
		<div class="field">
			<label for="cable-kind">Kind</label>
			<select id="cable-kind" class="select w-72 select-sm" bind:value={cableKind}>
				{#each Object.entries(CABLE_KINDS) as [kind, title] (kind)}<option value={kind}>{title}</option
					>{/each}
			</select>
		</div>
		<button class="btn btn-sm" disabled={!cableName.trim()}>Add the cable</button>
	</form>
</section>

<section class="mt-6 flex flex-wrap items-center gap-3" aria-label="The floor as a file">
	<a class="btn btn-sm" href="/api/v1/floor/document" download>Floor file</a>
	<FilePick title="Take over a floor file" accept=".json,application/json" picked={takeOver} />
	<span class="small-print">It takes the place of what is here, as one step that can be undone.</span>
</section>
