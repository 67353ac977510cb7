<script lang="ts">
	import {
		allOff,
		changeInWords,
		changeWarnings,
		desksCompared,
		dropScene,
		freeNumber,
		recallScene,
		sceneNumbered,
		storeScene,
		wiresInWords,
		type Desk,
		type Scene,
		type ShowSet
	} from '$lib/core/scene';
	import { desk } from '../../hardware/desk.svelte';
	import { roving } from '../roving';
	import StateMark from '../StateMark.svelte';
	import ChosenRows from './ChosenRows.svelte';
	import EarlierScenes from './EarlierScenes.svelte';
	import type { OpenSet } from './open-set.svelte';
	import { hearCalls } from './hear-calls';
	import { PanelEar } from './panel-ear.svelte';
	import SceneCalls from './SceneCalls.svelte';
	import SentRows from './SentRows.svelte';
	import { SceneSender } from './scene-sender.svelte';

	/** Scenes by number: sent with one press, stored, compared; and what became of the last one that was sent. */
	let { open }: { open: OpenSet } = $props();
	// svelte-ignore state_referenced_locally
	const sender = new SceneSender(open);
	// svelte-ignore state_referenced_locally
	const ear = new PanelEar(open, sender);
	let number = $state('');
	let name = $state('');
	/** A scene that makes something louder is sent by a second press. */
	let asking = $state<number | 'desk' | null>(null);
	let seen = $state<number | null>(null);
	/** What a call by number came to, where it came to nothing. */
	let missed = $state('');
	let wanted = $state('');

	const set = $derived(open.set);
	const recalled = $derived(sceneNumbered(set, set.recalled));
	const differs = $derived(recalled ? desksCompared(set, recalled, open.desk) : []);
	const deskChange = $derived(open.changeTo(open.desk, desk.world));
	const at = $derived(number.trim() === '' ? freeNumber(set) : Number(number));
	const over = $derived(sceneNumbered(set, at));

	async function store(event: SubmitEvent) {
		event.preventDefault();
		const title = name.trim() || over?.name || `Scene ${at}`;
		const to = at;
		if (!Number.isInteger(to) || to < 0 || to > 999) return;
		const says = over ? `Scene ${to}: ${title} over ${over.name}` : `Scene ${to}: ${title} stored`;
		if (await open.edit(says, (now: ShowSet) => storeScene(now, to, title))) [number, name] = ['', ''];
	}
	async function recall(scene: Scene) {
		const loud = changeWarnings(set, open.changeTo(scene, desk.world)).some((each) => each.loud);
		if (loud && asking !== scene.number) return void (asking = scene.number);
		asking = null;
		// The scene goes out at once; the desk follows as a step that undo takes back.
		const sent = send(`${scene.number} ${scene.name}`, scene);
		await open.edit(`Scene ${scene.number}: ${scene.name} recalled`, (now) => recallScene(now, scene));
		await sent;
	}
	/** Sends a scene by its number: typed, or called by a program change. */
	function callScene(called: number) {
		const scene = sceneNumbered(set, called);
		missed = !scene
			? `There is no scene ${called}.`
			: sender.doing.busy
				? `Scene ${called} was called while another was being sent: call it again.`
				: '';
		if (scene && !missed) void recall(scene);
	}
	function byNumber(event: SubmitEvent) {
		event.preventDefault();
		if (wanted.trim() === '') return;
		callScene(Number(wanted));
		// A louder one is sent by the same number once more.
		if (asking === null) wanted = '';
	}
	$effect(() => {
		const { calls } = set;
		return calls ? hearCalls(calls, callScene) : undefined;
	});
	const send = (title: string, to: Desk) => {
		ear.forget();
		return sender.send(title, to, open.changeTo(to, desk.world));
	};
	$effect(() => ear.listen());
	function sendDesk() {
		if (changeWarnings(set, deskChange).some(({ loud }) => loud) && asking !== 'desk')
			return void (asking = 'desk');
		asking = null;
		void send('What is on the desk', open.desk);
	}
</script>

<section aria-labelledby="scenes-title">
	<h2 id="scenes-title">Scenes</h2>
	<p class="mt-1">
		On the desk: <span class="plate"
			>{recalled
				? `${recalled.number} ${recalled.name}${differs.length > 0 ? ', changed' : ''}`
				: 'no stored scene'}</span
		>
	</p>
	{#if differs.length > 0}
		<details>
			<summary class="small-print cursor-pointer">What differs from it ({differs.length})</summary>
			<ul class="ml-4 list-disc text-sm">
				{#each differs as says (says)}<li>{says}</li>{/each}
			</ul>
		</details>
	{/if}
	<div class="mt-2 flex flex-wrap items-center gap-2">
		<button
			class="btn btn-sm"
			disabled={sender.doing.busy || deskChange.messages.length === 0}
			onclick={sendDesk}>{asking === 'desk' ? 'It gets louder: send the desk' : 'Send the desk'}</button
		>
		<span class="small-print figures">{changeInWords(deskChange)}</span>
	</div>
	{@render warnings(deskChange)}
	<form class="mt-2 flex flex-wrap items-center gap-2" aria-label="Send a scene" onsubmit={byNumber}>
		<label class="flex items-center gap-2"
			>Scene <input
				class="input w-18 input-sm"
				type="number"
				min="0"
				max="999"
				bind:value={() => wanted, (text) => (wanted = String(text ?? ''))}
			/></label
		>
		<button class="btn btn-sm" disabled={sender.doing.busy}>Send it</button>
		<button
			type="button"
			class="btn ml-auto btn-sm"
			disabled={sender.doing.busy || set.setup.instruments.length === 0}
			onclick={() => void send('All off', allOff(set, 0))}>All off</button
		>
	</form>
	{#if missed}<p role="alert" class="text-sm text-rust">{missed}</p>{/if}

	<ol class="mt-3 flex flex-col border-t border-line" {@attach roving('.scene-send')}>
		{#each set.scenes as scene (scene.number)}
			{@const change = open.changeTo(scene, desk.world)}
			<li class={['border-b border-line py-1', scene.number === set.recalled && 'is-now']}>
				<div class="flex items-center gap-2">
					<button
						class="scene-send btn h-auto flex-1 justify-start py-1 text-left btn-sm"
						disabled={sender.doing.busy}
						onclick={() => void recall(scene)}
						><span class="figures w-7 text-right">{scene.number}</span>
						<span class="min-w-0 flex-1"
							>{asking === scene.number ? `It gets louder: send ${scene.name}` : scene.name}</span
						>
					</button>
					<button
						class="btn btn-ghost btn-xs"
						aria-expanded={seen === scene.number}
						onclick={() => (seen = seen === scene.number ? null : scene.number)}
						>More<span class="sr-only">{` on scene ${scene.number}`}</span></button
					>
				</div>
				<p class="small-print figures pl-9">
					{changeInWords(change)}{set.start === scene.number ? ' · the studio starts with it' : ''}
				</p>
				{#if asking === scene.number || seen === scene.number}{@render warnings(change)}{/if}
				{#if seen === scene.number}
					{@const differences = desksCompared(set, open.desk, scene)}
					<div class="pl-9 text-sm">
						<p class="figures">{wiresInWords(change)}</p>
						{#if differences.length === 0}<p>It is what is on the desk.</p>{:else}
							<p>Against the desk:</p>
							<ul class="ml-4 list-disc">
								{#each differences as says (says)}<li>{says}</li>{/each}
							</ul>
						{/if}
						<p class="mt-1">
							<a class="link-quiet" download href={`/api/v1/set/scenes/${scene.number}?as=mid`}
								>Its messages as a MIDI file</a
							>,
							<a class="link-quiet" download href={`/api/v1/set/scenes/${scene.number}?as=syx`}>as bytes</a>
						</p>
						<EarlierScenes {open} {scene} />
						<div class="mt-1 flex flex-wrap gap-2">
							<button
								class="btn btn-xs"
								onclick={() =>
									void open.edit(`The studio starts with scene ${scene.number}`, () => [
										{ path: ['start'], value: set.start === scene.number ? null : scene.number }
									])}
								>{set.start === scene.number ? 'No longer start with it' : 'Start the studio with it'}</button
							>
							<button
								class="btn btn-xs"
								onclick={() =>
									void open.edit(`Scene ${scene.number}: ${scene.name} removed`, (now) =>
										dropScene(now, scene.number)
									)}>Remove {scene.number} {scene.name}</button
							>
						</div>
					</div>
				{/if}
			</li>
		{:else}
			<li class="py-2">None is stored yet. Set the desk as it shall be, and store it below.</li>
		{/each}
	</ol>
	<form class="mt-3 flex flex-wrap items-end gap-2" aria-label="Store the desk" onsubmit={store}>
		<div class="field">
			<label for="scene-number">Number</label>
			<input
				id="scene-number"
				class="input w-18 input-sm"
				type="number"
				min="0"
				max="999"
				placeholder={String(freeNumber(set))}
				bind:value={() => number, (text) => (number = String(text ?? ''))}
			/>
		</div>
		<div class="field">
			<label for="scene-name">Name</label>
			<input
				id="scene-name"
				class="input w-36 input-sm"
				maxlength="60"
				placeholder={over?.name ?? ''}
				bind:value={name}
			/>
		</div>
		<button class="btn btn-sm">{over ? `Store over ${over.name}` : 'Store'}</button>
	</form>
	{#if over}
		<p class="small-print mt-1">
			{`Scene ${at} holds ${over.name}: ${
				over.zones
					.filter(({ on }) => on)
					.map((zone) => zone.name)
					.join(', ') || 'no zone that is on'
			}. Undo brings it back.`}
		</p>
	{/if}

	<div role="status" class="mt-3">
		{#if sender.doing.busy}Sending …{:else if sender.outcome}
			{@const { title, world, rows, unsent } = sender.outcome}
			<p class="plate">
				{title}{rows.length > 0
					? world === 'bench'
						? ', on the bench:'
						: ', over real ports:'
					: unsent.length > 0
						? ': nothing was sent.'
						: ': nothing was to be sent.'}
			</p>
			<SentRows {open} outcome={sender.outcome} />
		{/if}
		<ChosenRows {open} {ear} />
	</div>
	{#if sender.unnoted}<p>
			Sent, and not noted yet: {sender.unnoted.message} It is noted with the next scene.
		</p>{/if}
	{#if sender.doing.problem}<p class="text-rust">
			{sender.doing.problem.message}
			{sender.doing.problem.remedy}
		</p>{/if}
	<SceneCalls {open} />
	<p class="small-print mt-2">
		Only what differs from what was sent before goes out; what a hand did at a panel since is heard only where
		the instrument tells it, and while this page is open.
		<button class="link" onclick={() => void sender.forget()}>Send everything next time</button>
	</p>
</section>

{#snippet warnings(change: ReturnType<typeof open.changeTo>)}
	{@const all = [
		...changeWarnings(set, change),
		...change.hands.map((says) => ({ loud: false, says: `By hand: ${says}` }))
	]}
	{#if all.length > 0}
		<ul class="pl-9 text-sm">
			{#each all as { loud, says } (says)}
				<li class="flex items-start gap-2">
					<span class="mt-0.5"><StateMark state={loud ? 'attention' : 'quiet'} size={11} /></span>{says}
				</li>
			{/each}
		</ul>
	{/if}
{/snippet}

<style>
	.is-now {
		border-left: 3px solid var(--color-primary);
	}
</style>
