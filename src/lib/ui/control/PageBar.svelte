<script lang="ts">
	import {
		asFirst,
		channelsMeant,
		controlName,
		copiesFor,
		differencesOf,
		GESTURE_WORDS,
		mainChannel,
		programsMeant,
		programsText,
		removePage,
		swapPages
	} from '$lib/core/control';
	import KeptField from '../KeptField.svelte';
	import { notices } from '../notices.svelte';
	import { count } from '../words';
	import type { OpenMap } from './open-map.svelte';

	interface Props {
		open: OpenMap;
		page: number;
		turnTo: (page: number) => void;
	}
	/** The pages of a map: which one is shown, and what can be done with it as a whole. */
	let { open, page, turnTo }: Props = $props();
	const map = $derived(open.map);
	const { word, count: most } = $derived(map.surface.pages);
	const Word = $derived(word[0].toUpperCase() + word.slice(1));
	const at = $derived(map.pages.findIndex(({ number }) => number === page));
	const here = $derived(map.pages.at(at));
	const free = $derived(
		Array.from({ length: most }, (_, i) => i + 1).filter((n) => map.pages.every(({ number }) => number !== n))
	);
	const own = $derived(here ? mainChannel(here) : null);
	const unlike = $derived(differencesOf(map, page));
	let more = $state(false);
	let programsFault = $state('');
	let channelsFault = $state('');

	async function addPage() {
		const [number] = free;
		// As it is by then: a second press finds the number taken.
		const kept = await open.edit(`${word} ${number}, begun as ${word} ${page}`, (now) => {
			const { assignments = [], windows = [] } = now.pages.find((each) => each.number === page) ?? {};
			return now.pages.some((each) => each.number === number)
				? []
				: [
						{
							path: ['pages', now.pages.length],
							value: { number, name: '', programs: [], assignments, windows }
						}
					];
		});
		if (kept) turnTo(number);
	}
	const rename = (name: string) =>
		open.edit(`${word} ${page} is called ${name || 'nothing'}`, () => [
			{ path: ['pages', at, 'name'], value: name }
		]);
	function openWith(text: string) {
		const programs = here && programsMeant(here, text);
		programsFault = programs ? '' : `“${text}” names no programs. Write ch 1: 1–8, 12.`;
		if (programs)
			return open.edit(`Programs of ${word} ${page}`, () => [
				{ path: ['pages', at, 'programs'], value: programs }
			]);
	}
	async function copyFor(event: SubmitEvent & { currentTarget: HTMLFormElement }) {
		event.preventDefault();
		const text = String(new FormData(event.currentTarget).get('channels') ?? '');
		const channels = channelsMeant(text);
		const made = channels ? copiesFor(map, page, channels).length : 0;
		channelsFault = !channels
			? `“${text}” names no channels. Write 2–6, 9.`
			: made === 0
				? `There is nothing to make: these channels have their ${word}, or the ${map.surface.model} has none free.`
				: '';
		if (made === 0) return;
		await open.edit(`${count(made, 'copy', 'copies')} of ${word} ${page}`, (now) =>
			copiesFor(now, page, channels ?? [])
		);
		const wanted = channels?.filter((channel) => channel !== own).length ?? 0;
		notices.say(
			`${count(made, 'copy', 'copies')} of ${word} ${page}, each on a channel of its own.${made < wanted ? ` ${wanted - made} more had one, or no ${word} was free.` : ''}`,
			'good'
		);
	}
	async function move(by: number) {
		const to = page + by;
		if (await open.edit(`${word} ${page} is ${word} ${to} now`, (now) => swapPages(now, page, to)))
			turnTo(to);
	}
	async function remove() {
		const next = map.pages[at + 1] ?? map.pages[at - 1];
		if (await open.edit(`${word} ${page} removed`, (now) => removePage(now, page))) turnTo(next.number);
	}
</script>

<div class="flex flex-wrap items-end gap-x-4 gap-y-2">
	<div class="flex flex-wrap gap-1" role="group" aria-label={`The ${word}s of this map`}>
		{#each map.pages as { number, name } (number)}
			<button
				class={['btn btn-sm', number === page && 'is-chosen']}
				aria-pressed={number === page}
				onclick={() => turnTo(number)}>{Word} {number}{name ? ` · ${name}` : ''}</button
			>
		{/each}
		{#if free.length > 0}<button class="btn btn-ghost btn-sm" onclick={addPage}
				>Copy as {word} {free[0]}</button
			>{/if}
	</div>
	<div class="field">
		<label for="page-name">Name of {word} {page}</label>
		{#key page}<KeptField
				id="page-name"
				class="input w-40 input-sm"
				maxlength={60}
				value={here?.name ?? ''}
				save={(text) => rename(text.trim())}
			/>{/key}
	</div>
	<button class="btn btn-ghost btn-sm" aria-expanded={more} onclick={() => (more = !more)}
		>Channels, programs, order</button
	>
</div>
{#if more && here}
	<div class="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
		{#if !here.like && own !== null}
			<form class="flex items-end gap-2" onsubmit={copyFor}>
				<div class="field">
					<label for="copy-channels">A copy for channels, instead of {own}</label>
					<input
						id="copy-channels"
						name="channels"
						class="input w-32 input-sm"
						placeholder="2–6"
						aria-invalid={channelsFault ? 'true' : undefined}
						aria-describedby={channelsFault ? 'copy-fault' : undefined}
					/>
				</div>
				<button class="btn btn-sm">Make the copies</button>
			</form>
		{/if}
		<div class="field">
			<label for="page-programs">Opens with programs, counted from 1</label>
			<KeptField
				id="page-programs"
				class="input w-56 input-sm"
				placeholder="ch 1: 1–8, 12"
				value={programsText(here)}
				aria-invalid={programsFault ? 'true' : undefined}
				aria-describedby={programsFault ? 'programs-fault' : undefined}
				save={openWith}
			/>
		</div>
		<div class="flex gap-1">
			<button class="btn btn-sm" disabled={page <= 1 || open.doing.busy} onclick={() => void move(-1)}
				>Make it {word} {Math.max(1, page - 1)}</button
			>
			<button class="btn btn-sm" disabled={page >= most || open.doing.busy} onclick={() => void move(1)}
				>Make it {word} {Math.min(most, page + 1)}</button
			>
			<button
				class="btn btn-ghost btn-sm"
				disabled={map.pages.length < 2 || open.doing.busy}
				onclick={() => void remove()}>Remove {word} {page}</button
			>
		</div>
	</div>
	{#if channelsFault}<p id="copy-fault" class="mt-1 text-rust" role="alert">{channelsFault}</p>{/if}
	{#if programsFault}<p id="programs-fault" class="mt-1 text-rust" role="alert">{programsFault}</p>{/if}
{/if}
{#if here?.like}
	<p class="mt-2 flex flex-wrap items-center gap-2">
		<span
			>A copy of {word}
			{here.like.page}, on channel {here.like.to} instead of {here.like.from}: it follows.
			{#if unlike.length > 0}It differs in {unlike
					.map(({ control, gesture }) =>
						gesture === 'move' || gesture === 'push'
							? controlName(map.surface, control)
							: `${controlName(map.surface, control)} ${GESTURE_WORDS[gesture]}`
					)
					.join(', ')}.{/if}</span
		>
		{#if unlike.length > 0}<button
				class="btn btn-xs"
				disabled={open.doing.busy}
				onclick={() =>
					void open.edit(`${word} ${page} as ${word} ${here.like?.page} again`, (now) => asFirst(now, page))}
				>As {word} {here.like.page} again</button
			>{/if}
		<button
			class="btn btn-ghost btn-xs"
			disabled={open.doing.busy}
			onclick={() => void open.edit(`${word} ${page} stands alone`, () => [{ path: ['pages', at, 'like'] }])}
			>Let it stand alone</button
		>
	</p>
{/if}
