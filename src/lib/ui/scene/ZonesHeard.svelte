<script lang="ts">
	import { keyName, keysName } from '$lib/core/scene';
	import { desk } from '../../hardware/desk.svelte';
	import { midiDesk } from '../../hardware/midi-desk.svelte';
	import FilePlayed from './FilePlayed.svelte';
	import type { KeysPlayed } from './keys-played.svelte';
	import type { OpenSet } from './open-set.svelte';
	import { WHY_SILENT } from './zone-words';

	/** Which instruments a key sounds by the desk, at which note and velocity, how late, and why others do not. */
	let { open, played }: { open: OpenSet; played: KeysPlayed } = $props();

	const struck = $derived(played.struck);
	const notes = $derived(played.notes);
	const player = $derived(open.set.setup.players.find(({ id }) => id === struck?.player));
	/** How late the notes come at a place, by the zones of the player that lead there. */
	function late(instrument: string, channel: number): string {
		const known = open.set.setup.zones
			.filter((zone) => zone.player === struck?.player)
			.flatMap(({ id, to }) =>
				to.flatMap((place, i) =>
					place.instrument === instrument && place.channel === channel
						? [open.told.lateMs[id]?.[i] ?? null]
						: []
				)
			)
			.find((ms) => ms !== null);
		return known === undefined ? '' : `, ${known.toFixed(1)} ms late at least`;
	}
	$effect(() => (played.listening ? played.listen() : undefined));
</script>

<section aria-labelledby="heard-title" class="mt-3">
	<div class="flex flex-wrap items-center gap-3">
		<h2 id="heard-title">Who plays</h2>
		<label class="flex items-center gap-2"
			>Struck with <input
				type="range"
				class="range w-28 range-xs"
				min="1"
				max="127"
				bind:value={played.velocity}
			/><span class="figures w-7">{played.velocity}</span></label
		>
		<button
			class="btn btn-sm"
			disabled={played.doing.busy || !notes.some(({ channel }) => channel > 0)}
			onclick={() => void played.sound()}>Sound it</button
		>
		<button
			class={['btn btn-sm', played.listening && 'is-chosen']}
			aria-pressed={played.listening}
			onclick={() => (played.listening = !played.listening)}>Listen to the keys</button
		>
	</div>
	{#if played.listening}
		<p class="small-print">
			{desk.world === 'bench'
				? 'On the bench, keys of the rulers are those of simulated keyboards, with their pedals.'
				: 'Keys that are played on the ports of this tab are followed; a port that a transfer uses is not.'}
			{played.sounding === 0
				? 'No note is held.'
				: `${played.sounding} ${played.sounding === 1 ? 'note sounds' : 'notes sound'} by what was heard.`}
			{midiDesk.problem && desk.world === 'hardware'
				? `${midiDesk.problem.message} ${midiDesk.problem.remedy}`
				: ''}
			{played.nobodys > 0 ? `${played.nobodys} messages came on channels that no player sends on.` : ''}
		</p>
	{/if}
	<div role="status">
		{#if played.picker}<p class="plate">
				The next key picks a sound by its number, lowest key of all first. It is sent, and heard.
			</p>{/if}
		{#if !struck}<p class="small-print">
				Strike a key on a ruler: by what is on the desk, this says who plays it.
			</p>
		{:else}
			<p>
				<span class="plate">{keyName(struck.key)}</span>
				{#if struck.live}<span class="small-print"
						>played on {player?.name ?? 'a player who is gone'} with {struck.velocity}</span
					>{/if}
			</p>
			{#if notes.length + played.heard.dropped.length === 0}<p>
					Nobody: no zone that is on has this key.
				</p>{/if}
			<ul>
				{#each notes as { instrument, channel, message }, i (i)}
					<li class="figures">
						{open.nameOf(instrument)}{channel === 0 ? ', by its own keys' : `, channel ${channel}`}: {keyName(
							message[1]
						)}, velocity {message[2]}{late(instrument, channel)}
					</li>
				{/each}
				{#each played.heard.dropped as dropped, i (i)}
					<li class="small-print">
						{open.zoneName(dropped.zone)}{dropped.instrument ? ` on ${open.nameOf(dropped.instrument)}` : ''} does
						not: {WHY_SILENT[dropped.why]}{dropped.why === 'out of its range'
							? ` (${keysName(open.instrument(dropped.instrument!)?.keys ?? [0, 127])})`
							: ''}.
					</li>
				{/each}
			</ul>
		{/if}
		{#each played.said as { instrument, says } (instrument)}
			<p>{open.nameOf(instrument)} {says}</p>
		{/each}
		{#if played.doing.problem}<p class="text-rust">{played.doing.problem.message}</p>{/if}
	</div>
	<FilePlayed {open} />
</section>
