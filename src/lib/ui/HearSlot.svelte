<script lang="ts">
	import { Doing } from './doing.svelte';
	import type { StoredLine } from '../core/contact';
	import type { SlotFacts } from '../core/drawer';
	import type { Device } from '../core/gear';
	import { fromHex } from '../core/midi';
	import { areaOf, editBufferMessage, recallMessages, type Profile } from '../core/profile';
	import { desk } from '../hardware/desk.svelte';
	import { playOn, type Played } from '../hardware/listen';
	import { pressPanic } from './panic';
	import ProblemNote from './ProblemNote.svelte';
	import When from './When.svelte';

	/** Hears a slot on its device, or tries what is kept in the device's edit buffer; nothing is stored either way. */
	let {
		facts,
		device,
		line,
		profile
	}: { facts: SlotFacts; device: Device; line: StoredLine; profile: Profile } = $props();
	/** C in the middle, and how long it sounds. */
	const NOTE = { key: 60, velocity: 90 };
	const MS = 900;

	let picked = $state(1);
	let did = $state('');
	const doing = new Doing();
	const channel = $derived(device.channel ?? picked);
	const now = $derived(facts.now[desk.world]);
	const program = $derived(
		facts.recall &&
			[
				facts.recall.msb === null ? '' : `bank select ${facts.recall.msb}`,
				facts.recall.lsb === null
					? ''
					: `${facts.recall.msb === null ? 'bank select LSB' : 'and'} ${facts.recall.lsb}`,
				`program change ${facts.recall.program}`
			]
				.filter(Boolean)
				.join(', ')
	);

	async function hear(title: string, first: Uint8Array[], note: typeof NOTE | null) {
		if (doing.busy) return;
		did = '';
		await doing.run(async () => {
			did = said(
				title,
				await playOn(line, { first, notes: note ? [{ channel, ...note }] : [], ms: MS }),
				note !== null
			);
		});
	}
	/** What is known of it afterwards: what a simulated panel showed, or only that it was sent. */
	function said(title: string, played: Played, note: boolean): string {
		if (played.world === 'hardware')
			return `${title}${note ? ' and a note with its end were' : ' was'} sent to ${played.port}. What sounded, you heard.`;
		const { display, sounding } = played.shown;
		return `The simulated panel showed “${display.filter(Boolean).join(' · ')}”${
			!note ? '' : sounding.length > 0 ? `, and note ${sounding.join(', ')} sounded` : ', and no note sounded'
		}.`;
	}
	const select = (note: typeof NOTE | null) =>
		hear('The program change', recallMessages(facts.recall!, channel), note);
	const tryOut = () =>
		hear(
			'The sound',
			[
				editBufferMessage(profile, areaOf(profile, facts.area), fromHex(facts.bytes), {
					deviceId: device.deviceId ?? profile.addressing.deviceId?.default ?? 0,
					channel
				})!
			],
			NOTE
		);
</script>

{#if facts.recall || facts.editBuffer}
	<section class="mt-3 border-t border-line pt-2" aria-label="Hear it">
		<h4 class="plate">Hear it</h4>
		{#if facts.recall}
			<p class="small-print">
				{device.name} selects {facts.label} by {program} (counted from 0) on channel {channel}.
				{#if now.state === 'never'}What it holds there was never read in this world.
				{:else if now.state === 'sent' || now.state === 'unknown'}What it holds there now is not known: it was
					written to and not read since.
				{:else}{now.same
						? `It was last seen to hold this very ${facts.word} there`
						: `It was last seen to hold ${now.name ? `“${now.name}”` : `another ${facts.word}`} there, not this one`},
					<When at={now.at!} />{now.state === 'changed'
						? '; sounds were changed at its panel since'
						: ''}.{/if}
			</p>
		{/if}
		{#if desk.world === 'hardware'}<p>
				Turn the volume down first: how loud it comes is not known. Take headphones off.
			</p>{/if}
		<div class="mt-1 flex flex-wrap items-end gap-2">
			{#if device.channel === null}
				<div class="field">
					<label for="hear-channel">Channel (none is noted)</label>
					<select id="hear-channel" class="select w-20 select-sm" bind:value={picked}>
						{#each { length: 16 } as _, i (i)}<option value={i + 1}>{i + 1}</option>{/each}
					</select>
				</div>
			{/if}
			{#if facts.recall}
				<button class="btn btn-sm" disabled={doing.busy} onclick={() => select(NOTE)}
					>Select it and play a note</button
				>
				<button class="btn btn-ghost btn-sm" disabled={doing.busy} onclick={() => select(null)}
					>Only select it</button
				>
			{/if}
			{#if facts.editBuffer}
				<button class="btn btn-sm" disabled={doing.busy} onclick={tryOut}
					>Try this {facts.word} without storing it</button
				>
			{/if}
			<button class="btn btn-ghost btn-sm" onclick={pressPanic}>Panic <span class="key">.</span></button>
		</div>
		{#if facts.editBuffer}<p class="small-print mt-1">
				Trying it replaces what is being edited on {device.name} and was not stored there; the stored {facts.word}s
				stay as they are.
			</p>{/if}
		<p role="status">{doing.busy ? 'Sending …' : did}</p>
		{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
	</section>
{/if}
