<script lang="ts">
	import { byteMap, type ByteSpan, type Profile } from '../../core/profile';
	import { fromHex, toHex } from '../../core/midi';
	import StateMark from '../StateMark.svelte';

	/** The bytes of a message, each with the part of the profile that claims it. */
	let { profile, hex }: { profile: Profile | null; hex: string } = $props();
	const bytes = $derived(fromHex(hex));
	const map = $derived(profile ? byteMap(profile, bytes) : null);
	const SHOWN = 600;
	let at = $state<ByteSpan | null>(null);
	const KINDS: Record<ByteSpan['kind'], string> = {
		fixed: 'fixed',
		variable: 'variable',
		checksum: 'checksum',
		name: 'name',
		parameter: 'parameter',
		record: 'record',
		unclaimed: 'unclaimed'
	};
	const spans = $derived((map?.spans ?? []).filter(({ start }) => start < SHOWN));
	const checksum = $derived(map?.spans.find(({ kind }) => kind === 'checksum') ?? null);
</script>

{#if map}
	<p class="flex items-center gap-2" role="status">
		<StateMark state={map.fault ? 'danger' : 'verified'} />
		{map.fault ? `${map.title}: ${map.fault.says}` : `Read as “${map.title}”`}, {map.claimed} of {map.total} bytes
		claimed
	</p>
	{#if checksum}<p class="flex items-center gap-2">
			<StateMark state={checksum.right ? 'verified' : 'danger'} size={11} /> Checksum {checksum.shows}
		</p>{/if}
	{#if map.names.length > 0}
		<p class="small-print mt-1">
			{map.names
				.slice(0, 12)
				.map(({ label, name }) => `${label} ${name ?? ''}`)
				.join(' · ')}{map.names.length > 12 ? ` and ${map.names.length - 12} more` : ''}
		</p>
	{/if}
	<p class="mt-2 min-h-10 text-sm" aria-live="polite">
		{#if at}<strong>{at.label}</strong>
			{at.shows}
			<span class="small-print">bytes {at.start}–{at.start + at.length - 1}, {KINDS[at.kind]}</span>
		{:else}<span class="small-print">Point at bytes, or walk them with Tab, to see what claims them.</span
			>{/if}
	</p>
	<div class="bytes" role="group" aria-label="Bytes of the message">
		{#each spans as span (span.start)}
			<button
				class={['span', `is-${span.kind}`, span.right === false && 'is-wrong', at === span && 'is-at']}
				onmouseenter={() => (at = span)}
				onfocus={() => (at = span)}
				><span class="hex"
					>{toHex(bytes.subarray(span.start, Math.min(SHOWN, span.start + span.length)), ' ')}</span
				><span class="label"
					>{span.label}<span class="sr-only"
						>{span.shows ? `: ${span.shows}` : ''}{span.right === false ? ', wrong' : ''}</span
					></span
				></button
			>
		{/each}
	</div>
	{#if map.total > SHOWN}<p class="small-print">The first {SHOWN} of {map.total} bytes are shown.</p>{/if}
{:else}
	<p class="small-print">The profile has faults: correct them to see what it reads.</p>
	<p class="mt-2 font-mono text-xs break-all">{toHex(bytes.subarray(0, SHOWN), ' ')}</p>
{/if}

<style>
	.bytes {
		display: flex;
		flex-wrap: wrap;
		gap: 5px 4px;
		max-height: 46vh;
		overflow-y: auto;
	}
	.span {
		display: inline-flex;
		flex-direction: column;
		max-width: 100%;
		text-align: left;
		border-bottom: 2px solid var(--color-slate);
	}
	.hex {
		font:
			12px/1.35 'IBM Plex Mono',
			monospace;
		overflow-wrap: anywhere;
	}
	.label {
		font-size: 0.68rem;
		line-height: 1.2;
		color: var(--color-slate);
		max-width: 9rem;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.is-fixed {
		border-bottom-style: double;
		border-bottom-width: 3px;
	}
	.is-variable {
		border-bottom-style: dashed;
	}
	.is-checksum {
		border-bottom: 3px solid var(--color-pine);
	}
	.is-name {
		border-bottom: 3px solid var(--color-chosen);
	}
	.is-record {
		border-bottom-style: dotted;
	}
	.is-unclaimed {
		border-bottom: 0;
		outline: 1px dashed var(--color-rust);
	}
	.is-wrong .label,
	.is-unclaimed .label {
		color: var(--color-rust);
	}
	.is-at {
		background: color-mix(in srgb, var(--color-chosen) 18%, transparent);
	}
</style>
