<script lang="ts">
	import FilePick from '../FilePick.svelte';
	import { bringLists, listsOf, readTargets, retargetPage } from '$lib/core/control';
	import type { TargetList } from '$lib/core/profile';
	import { call } from '$lib/hardware/api';
	import { notices } from '../notices.svelte';
	import { count } from '../words';
	import type { OpenMap } from './open-map.svelte';

	/** What this map can tell: its lists, bringing another, and leading a page from one to another. */
	interface Props {
		open: OpenMap;
		page: number;
		pageName: string;
		/** Devices of which a profile says what they can be told. */
		told: readonly { id: string; name: string }[];
	}
	let { open, page, pageName, told }: Props = $props();
	let device = $state('');
	const lists = $derived(open.map.lists);
	const used = $derived(listsOf(open.map, page).filter((id) => lists.some((list) => list.id === id)));
	let from = $state('');
	let to = $state('');
	let channel = $state<number | null>(null);
	const source = $derived(used.includes(from) ? from : (used[0] ?? ''));
	const goal = $derived(
		lists.some(({ id }) => id === to && id !== source)
			? to
			: (lists.find(({ id }) => id !== source)?.id ?? '')
	);
	const nameOf = (id: string) => lists.find((list) => list.id === id)?.name ?? id;
	/** What the page that is led lacks, in words. */
	let lacks = $state.raw<string[]>([]);

	async function bring(file: File) {
		const text = await file.text();
		await open.doing.run(async () => {
			const { lists: found, left } = readTargets(text, file.name);
			const says = `Targets of ${found.map(({ name }) => name).join(', ')}`;
			if (!(await open.edit(says, (map) => bringLists(map, found)))) return;
			const targets = found.reduce((sum, list) => sum + list.targets.length, 0);
			notices.say(
				`${count(targets, 'target')} can be written now.${left.length > 0 ? ` Left out: ${left.slice(0, 3).join(' ')}` : ''}`,
				left.length > 0 ? 'plain' : 'good'
			);
		});
	}
	const fromGear = () =>
		open.doing.run(async () => {
			const list = await call<TargetList>('GET', `/devices/${device || told[0].id}/targets`);
			if (await open.edit(`Targets of ${list.name}`, (map) => bringLists(map, [list])))
				notices.say(`${count(list.targets.length, 'target')} of ${list.name} can be written now.`, 'good');
		});
	async function lead() {
		const led = retargetPage(open.map, page, source, goal, channel ?? undefined);
		const says = `${pageName} led from ${nameOf(source)} to ${nameOf(goal)}`;
		const done = await open.edit(
			says,
			(map) => retargetPage(map, page, source, goal, channel ?? undefined).edits
		);
		if (!done) return;
		lacks = led.lacks;
		notices.say(`${says}: ${count(led.kept.length, 'link')} kept.`, led.lacks.length > 0 ? 'plain' : 'good');
	}
</script>

<h2 class="mt-6">Targets</h2>
{#if lists.length === 0}
	<p class="mt-1">
		The names of MIDI 1.0, and numbers. Bring a list of what your device can be told: a .midnam, a CSV (name,
		kind, number …), or a targets file.
	</p>
{:else}
	<ul class="mt-1 list-inside list-disc">
		{#each lists as { id, name, targets, channels, dinOnly } (id)}<li>
				<span class="plate">{name}</span>: {count(targets.length, 'target')}{channels.length > 0
					? `, on channel ${channels.join(', ')}`
					: ''}{dinOnly ? ', by DIN alone' : ''}
			</li>{/each}
	</ul>
{/if}
<div class="mt-2 flex flex-wrap items-end gap-3">
	<FilePick
		title="Bring a list of targets"
		accept=".midnam,.csv,.json,text/csv,application/json"
		picked={bring}
	/>
	{#if told.length > 0}
		<div class="field">
			<label for="told-device">From Gear</label>
			<select
				id="told-device"
				class="select w-44 select-sm"
				value={device || told[0].id}
				onchange={(event) => (device = event.currentTarget.value)}
			>
				{#each told as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
		<button class="btn btn-sm" disabled={open.doing.busy} onclick={fromGear}>Bring its targets</button>
	{/if}
	{#if used.length > 0 && lists.length > 1}
		<div class="field">
			<label for="lead-from">Lead this page from</label>
			<select
				id="lead-from"
				class="select w-44 select-sm"
				value={source}
				onchange={(event) => (from = event.currentTarget.value)}
			>
				{#each used as id (id)}<option value={id}>{nameOf(id)}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="lead-to">to</label>
			<select
				id="lead-to"
				class="select w-44 select-sm"
				value={goal}
				onchange={(event) => (to = event.currentTarget.value)}
			>
				{#each lists.filter(({ id }) => id !== source) as { id, name } (id)}<option value={id}>{name}</option
					>{/each}
			</select>
		</div>
		<div class="field">
			<label for="lead-channel">on channel</label>
			<input
				id="lead-channel"
				class="input w-20 input-sm"
				type="number"
				min="1"
				max="16"
				placeholder="same"
				bind:value={channel}
			/>
		</div>
		<button class="btn btn-sm" disabled={open.doing.busy || !goal} onclick={lead}>Lead it there</button>
	{/if}
</div>
{#if lacks.length > 0}
	<div role="status" class="mt-2">
		<p>What it lacks there was left out; <em>Undo</em> brings it back:</p>
		<ul class="list-inside list-disc">
			{#each lacks as says (says)}<li>{says}</li>{/each}
		</ul>
	</div>
{/if}
