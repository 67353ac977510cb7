<script lang="ts">
	import type { StoredLine } from '../core/contact';
	import type { LinkedSlot, SlotFacts } from '../core/drawer';
	import type { Device } from '../core/gear';
	import type { Profile } from '../core/profile';
	import { call } from '../hardware/api';
	import AddToBank from './AddToBank.svelte';
	import LookAlikes from './LookAlikes.svelte';
	import HearSlot from './HearSlot.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import SoundMarks from './SoundMarks.svelte';
	import { putInTray } from './tray/put';
	import { count, problemOf } from './words';

	interface Props {
		versionId: string;
		/** `area:index` */
		slot: string;
		/** The device whose drawer it is. */
		device: Device;
		line: StoredLine;
		profile: Profile | null;
		close: () => void;
		/** Shows another slot of the version, `area:index`. */
		show: (slot: string) => void;
	}
	/** A slot of a version: what it is, where else it is, and where it can be sent. */
	let { versionId, slot, device, line, profile, close, show }: Props = $props();
	const deviceId = $derived(device.id);
	let facts = $state.raw<SlotFacts | null>(null);
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	let target = $state('');
	let place = $state(-1);

	$effect(() => {
		const asked = `${versionId} ${slot}`;
		facts = null;
		problem = null;
		void call<SlotFacts>('GET', `/versions/${versionId}/slots/${encodeURIComponent(slot)}`).then(
			(found) => {
				// A slot that was opened meanwhile is another one.
				if (asked !== `${versionId} ${slot}`) return;
				facts = found;
				target = found.devices.some(({ id }) => id === deviceId) ? deviceId : (found.devices[0]?.id ?? '');
				place = found.index;
			},
			(error: unknown) => {
				if (asked === `${versionId} ${slot}`) problem = problemOf(error);
			}
		);
	});
	const receiver = $derived(facts?.devices.find(({ id }) => id === target));
	const elsewhere = $derived(
		facts?.places.filter((one) => one.deviceId !== deviceId || one.label !== facts!.label) ?? []
	);
	const life = $derived(
		Object.entries(facts?.life ?? {})
			.map(
				([kind, times]) => `${kind === 'created' ? 'first seen' : kind}${times > 1 ? ` ${times} times` : ''}`
			)
			.join(', ')
	);
	// What it plays is meant as it was in this version.
	const send = () =>
		putInTray(`device=${target}&sounds=${facts!.area}:${place}:${facts!.record}:${versionId}`);
	/** Who plays it, each once. */
	const users = $derived.by(() => {
		const all: { link: LinkedSlot; names: string[] }[] = [];
		for (const link of facts?.playedBy ?? []) {
			const known = all.find((one) => one.link.area === link.area && one.link.index === link.index);
			if (known) known.names.push(link.name);
			else all.push({ link, names: [link.name] });
		}
		return all;
	});
</script>

{#snippet slotLink(link: LinkedSlot)}
	{#if link.held}<button class="link-quiet text-left" onclick={() => show(`${link.area}:${link.index}`)}
			><span class="font-mono text-xs">{link.label}</span> {link.sound ?? ''}</button
		>{:else}<span class="font-mono text-xs">{link.label}</span>
		<span class="small-print">not in this version</span>{/if}
{/snippet}

<section class="sheet mt-2 bg-ground p-3" aria-label={`Slot ${facts?.label ?? ''}`}>
	{#if problem}<ProblemNote {problem} />
	{:else if !facts}<p role="status">Looking …</p>
	{:else}
		<div class="flex items-start gap-3">
			<div class="min-w-0 flex-1">
				<h3 class="text-lg">
					<span class="font-mono text-base text-slate">{facts.label}</span>
					{facts.name ?? (facts.name === '' ? 'without a name' : facts.area)}
				</h3>
				<p class="small-print">
					{facts.word}
					{facts.index + 1} of {facts.of}{life ? ` · ${life}` : ''} ·
					<a class="link-quiet" href={`/sounds/${facts.record}`}>its life</a>
				</p>
			</div>
			<button class="btn btn-ghost btn-xs" onclick={close}>Close</button>
		</div>
		<div class="mt-1 flex flex-wrap items-center gap-3">
			<SoundMarks
				record={facts.record}
				name={facts.name ?? facts.label}
				mark={facts.mark}
				own={facts.category}
				whole
			/>
			<AddToBank
				record={facts.record}
				name={facts.name ?? facts.label}
				profileId={facts.profileId}
				area={facts.area}
				from={`${device.name} ${facts.label}`}
			/>
			{#key facts.record}<LookAlikes record={facts.record} />{/key}
		</div>
		{#if elsewhere.length > 0}
			<p class="mt-1">
				The very same {facts.word} is in {elsewhere
					.filter(({ current }) => current)
					.map(({ device, label }) => `${device} ${label}`)
					.join(', ') || 'no other slot now'}{elsewhere.some(({ current }) => !current)
					? `; it was in ${count(elsewhere.filter(({ current }) => !current).length, 'other slot')} before`
					: ''}.
			</p>
		{/if}
		{#if facts.plays.length > 0}
			<h4 class="plate mt-3">What it plays</h4>
			<ul class="links" aria-label="What it plays">
				{#each facts.plays as link (link.name)}<li>
						<span class="text-slate">{link.name}</span>
						{@render slotLink(link)}
					</li>{/each}
			</ul>
		{/if}
		{#if users.length > 0}
			<h4 class="plate mt-3">What plays it, in this version</h4>
			<ul class="links" aria-label="What plays it">
				{#each users as { link, names } (link.area + link.index)}<li>
						{@render slotLink(link)} <span class="text-slate">{names.join(', ')}</span>
					</li>{/each}
			</ul>
		{/if}
		{#if facts.banks.length > 0}
			<p class="mt-1">
				In the {facts.banks.length === 1 ? 'bank' : 'banks'}
				{#each facts.banks as bank, i (bank.id)}{i > 0 ? ', ' : ''}<a
						class="link-quiet"
						href={`/sounds/banks/${bank.id}`}>{bank.title}</a
					>
					({bank.labels.join(', ')}){/each}.
			</p>
		{/if}
		<form
			class="mt-2 flex flex-wrap items-end gap-2"
			onsubmit={(event) => {
				event.preventDefault();
				void send();
			}}
		>
			<div class="field">
				<label for="slot-device">Send it to</label>
				<select id="slot-device" class="select w-44 select-sm" bind:value={target}>
					{#each facts.devices as each (each.id)}<option value={each.id}>{each.name}</option>{/each}
				</select>
			</div>
			<div class="field">
				<label for="slot-place">Slot</label>
				<select id="slot-place" class="select w-28 select-sm" bind:value={place}>
					{#each receiver?.labels as label, index (index)}<option value={index}>{label}</option>{/each}
				</select>
			</div>
			<button class="btn btn-sm" disabled={!target}>Check it in the tray</button>
		</form>
		{#if profile}{#key facts.record + facts.label}<HearSlot {facts} {device} {line} {profile} />{/key}{/if}
		{#if facts.parameters.length > 0}
			<h4 class="plate mt-3">Parameters</h4>
			<dl class="mt-1 grid gap-x-6 text-sm sm:grid-cols-2 xl:grid-cols-3">
				{#each facts.parameters as parameter (parameter.id)}
					<div class="flex justify-between gap-2 border-b border-line/60 py-0.5">
						<dt class="truncate text-slate">{parameter.name}</dt>
						<dd class="figures text-right">{parameter.shown}</dd>
					</div>
				{/each}
			</dl>
		{/if}
	{/if}
</section>

<style>
	.links {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr));
		column-gap: 1.5rem;
		margin-top: 0.25rem;
		font-size: 0.875rem;
	}
</style>
