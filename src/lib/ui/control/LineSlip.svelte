<script lang="ts">
	import {
		heardWords,
		linked,
		REACHES,
		resolutionWords,
		spread,
		standing,
		written,
		type Assignment,
		type Line,
		type Link
	} from '$lib/core/control';
	import type { Edit } from '$lib/core/edit';
	import type { OpenMap } from './open-map.svelte';

	/** What stands behind one line of a strip, a field for each thing that can be said of it. */
	let { open, line, name }: { open: OpenMap; line: Line; name: string } = $props();
	const found = $derived(standing(open.map, line));
	/** Where it is written: what is the same on every page is changed there. */
	const own = $derived<Line>(found?.everywhere ? { ...line, page: null } : line);
	/** Which of its targets is looked at. */
	let wanted = $state(0);
	const links = $derived(found?.assignment.links ?? []);
	const at = $derived(Math.min(wanted, Math.max(0, links.length - 1)));
	const link = $derived(links.at(at) ?? null);
	const named = $derived(link && linked(open.map, link));
	const target = $derived(named?.target ?? null);
	const control = $derived(open.map.surface.controls.find(({ id }) => id === line.control));
	const display = $derived(open.map.surface.display);
	const unit = $derived(target?.unit ? ` ${target.unit}` : '');
	const turned = $derived(line.gesture.endsWith('move'));
	const WAYS: Record<Assignment['way'], string> = {
		absolute: 'its position',
		relative: 'steps',
		momentary: 'on while held',
		toggle: 'on and off in turn',
		value: 'one value',
		rest: 'nothing, and silences all'
	};
	const ways = $derived<Assignment['way'][]>(
		turned ? ['absolute', 'relative'] : ['momentary', 'toggle', 'value']
	);

	/** Sets a field of the assignment. */
	const set = (says: string, key: keyof Assignment, value: unknown) =>
		open.edit(`${name}: ${says}`, (map) => {
			const at = written(map, own);
			return at ? [{ path: [...at.path, key], value }] : [];
		});
	/** Sets a field of the link that is looked at; a blank takes it away. */
	const setLink = (says: string, key: keyof Link, value: unknown) =>
		open.edit(`${name}: ${says}`, (map): Edit[] => {
			const line = written(map, own);
			return line && line.assignment.links.length > at
				? [{ path: [...line.path, 'links', at, key], value }]
				: [];
		});
	const numberOf = (text: string) => (text.trim() === '' ? undefined : Number(text));
	const heard = $derived(line.page === null ? '' : heardWords(open.map, line.page, line.control));
	const fits = $derived(
		target && link && control && found
			? resolutionWords(target, link, control, found.assignment.acceleration)
			: ''
	);
</script>

<section aria-label={`Line of ${name}`} class="slip">
	<h2 class="plate text-base">{name}</h2>
	{#if heard}<p class="small-print">{heard}</p>{/if}
	{#if found?.assignment.way === 'rest'}
		<p>
			While it is held the {open.map.surface.model} sends nothing: a control is moved to where its value is, and
			nothing jumps.
		</p>
	{:else if !found || (found.assignment.links.length === 0 && !found.assignment.empty)}
		<p class="small-print">
			Write on the strip what it is for: a name, or a number (CC 74, note 36, NRPN 300), with “ch 3” behind it
			for a channel; several with semicolons between. A dash is nothing, on purpose.{open.map.surface.rests
				? ' “rest” on a push silences it while that is held.'
				: ''}
		</p>
	{:else if found.assignment.empty}
		<p>Nothing, on purpose.</p>
	{:else if target && link}
		{#if links.length > 1}
			<div class="mt-1 flex flex-wrap gap-1" role="group" aria-label={`Targets of ${name}`}>
				{#each links as each, i (i)}<button
						class={['btn btn-xs', i === at && 'is-chosen']}
						aria-pressed={i === at}
						onclick={() => (wanted = i)}>{linked(open.map, each).target?.name ?? each.target}</button
					>{/each}
			</div>
		{/if}
		<p class="small-print">
			{target.name} of {named?.list?.name}{found.everywhere ? ', the same on every page' : ''}. {fits}
		</p>
		<div class="mt-1 flex flex-wrap items-end gap-3">
			<div class="field">
				<label for="slip-channel">Channel</label><input
					id="slip-channel"
					class="input w-16 input-sm"
					type="number"
					min="1"
					max="16"
					value={link.channel}
					onchange={(event) =>
						setLink(`channel ${event.currentTarget.value}`, 'channel', numberOf(event.currentTarget.value))}
				/>
			</div>
			<div class="field">
				<label for="slip-from">From{unit}</label><input
					id="slip-from"
					class="input w-24 input-sm"
					type="number"
					step="any"
					placeholder="all"
					value={link.from ?? ''}
					onchange={(event) => setLink('range', 'from', numberOf(event.currentTarget.value))}
				/>
			</div>
			<div class="field">
				<label for="slip-to">To{unit}</label><input
					id="slip-to"
					class="input w-24 input-sm"
					type="number"
					step="any"
					placeholder="all"
					value={link.to ?? ''}
					onchange={(event) => setLink('range', 'to', numberOf(event.currentTarget.value))}
				/>
			</div>
			<div class="field">
				<label for="slip-way">It sends</label>
				<select
					id="slip-way"
					class="select w-44 select-sm"
					value={found.assignment.way}
					onchange={(event) => set(`sends ${event.currentTarget.value}`, 'way', event.currentTarget.value)}
				>
					{#each ways.includes(found.assignment.way) ? ways : [...ways, found.assignment.way] as way (way)}
						<option value={way}>{WAYS[way]}</option>{/each}
				</select>
			</div>
			{#if found.assignment.way === 'value'}
				<div class="field">
					<label for="slip-value">Value{unit}</label><input
						id="slip-value"
						class="input w-24 input-sm"
						type="number"
						step="any"
						value={found.assignment.value ?? ''}
						onchange={(event) => set('value', 'value', numberOf(event.currentTarget.value))}
					/>
				</div>
			{/if}
			<div class="field">
				<label for="slip-name"
					>Name{display && display.names === 'each' ? ` (${display.characters} characters)` : ''}</label
				><input
					id="slip-name"
					class="input w-40 input-sm"
					maxlength="60"
					placeholder={target.name}
					value={found.assignment.name}
					onchange={(event) => set('name', 'name', event.currentTarget.value.trim())}
				/>
			</div>
			<div class="field">
				<label for="slip-reach">Kept</label>
				<select
					id="slip-reach"
					class="select w-52 select-sm"
					value={link.reach}
					onchange={(event) => setLink('where it is kept', 'reach', event.currentTarget.value)}
				>
					{#each Object.entries(REACHES) as [reach, says] (reach)}<option value={reach}>{says}</option>{/each}
				</select>
			</div>
			<label class="flex items-center gap-2 text-sm"
				><input
					type="checkbox"
					class="checkbox checkbox-sm"
					checked={link.inverted}
					onchange={(event) => setLink('direction', 'inverted', event.currentTarget.checked)}
				/>The other way round</label
			>
			<label class="flex items-center gap-2 text-sm"
				><input
					type="checkbox"
					class="checkbox checkbox-sm"
					checked={found.everywhere}
					onchange={(event) => {
						const on = event.currentTarget.checked;
						void open.edit(`${name}: ${on ? 'on every page' : 'on this page'}`, (map) =>
							spread(map, line, on)
						);
					}}
				/>On every page</label
			>
		</div>
	{/if}
</section>

<style>
	.slip {
		width: 100%;
		padding: 0.5rem 0.8rem 0.7rem;
		border-left: 3px solid var(--color-chosen);
		background: var(--color-ground);
	}
</style>
