<script lang="ts">
	import type { Device } from '$lib/core/gear';
	import { areaOf, type Profile } from '$lib/core/profile';
	import {
		affectedSlots,
		captureCost,
		countSlots,
		planCapture,
		planRestore,
		slotsInScope,
		writeMs,
		type Scope
	} from '$lib/core/transfer';
	import Check from '@lucide/svelte/icons/check';
	import { desk } from '$lib/hardware/desk.svelte';
	import { count, duration } from './words';

	interface Props {
		profile: Profile;
		device: Device;
		scope: Scope;
		restoring: boolean;
		slots: { area: string; index: number; label: string; name: string | null }[];
		pace: number;
		starting: boolean;
		start: () => void;
	}
	let { profile, device, scope, restoring, slots, pace, starting, start }: Props = $props();
	let ticked = $state<Record<string, boolean>>({});

	const wanted = $derived(slotsInScope(profile, scope));
	const checks = $derived(restoring ? profile.preflight.restore : profile.preflight.capture);
	const ready = $derived(
		checks.every(({ id }) => ticked[id]) && (desk.world === 'hardware' || device.benchUnit !== null)
	);
	const canRead = $derived(profile.capture.length > 0);
	const restorePlan = $derived(
		planRestore(
			profile,
			wanted,
			(area) =>
				canRead ||
				slots.filter((slot) => slot.area === area).length === areaOf(profile, area).slots ||
				profile.restore.some((way) => way.area === area)
		)
	);
	const affected = $derived(affectedSlots(restorePlan.writes));
	const neighbours = $derived(countSlots(affected) - countSlots(wanted));
	const reading = $derived(captureCost(planCapture(profile, restoring ? affected : wanted).asks));
	const writing = $derived(restorePlan.writes.reduce((sum, write) => sum + writeMs(write, pace), 0));
	const ms = $derived(restoring ? writing + (canRead ? 2 * reading.ms : 0) : reading.ms);
	const panelId = $derived(
		device.deviceId === null ? null : device.deviceId + (profile.addressing.deviceId?.panelAdd ?? 0)
	);
	const named = $derived(slots.filter((slot) => wanted.get(slot.area)?.includes(slot.index)));
	const byHand = $derived(profile.capture.find((way) => way.start.by === 'panel'));
</script>

<section class="card-preflight" aria-label="Before it starts">
	<h2>Before it starts</h2>
	<div class="mt-2 grid gap-5 md:grid-cols-2">
		<div>
			<h3 class="small-print">The panel must show</h3>
			{#if checks.length === 0}<p>Nothing special.</p>{/if}
			<ul class="mt-1 space-y-1.5">
				{#each checks as check (check.id)}
					<li>
						<label class="flex items-start gap-2">
							<input type="checkbox" class="checkbox mt-0.5 checkbox-sm" bind:checked={ticked[check.id]} />
							<span
								>{check.says}{#if check.forgets}
									<span class="small-print">It forgets this at power-off.</span>{/if}</span
							>
						</label>
					</li>
				{/each}
			</ul>
			{#if byHand && byHand.start.by === 'panel'}<p class="mt-2">
					The dump is started on the device: the app listens, and says when.
				</p>{/if}
		</div>
		<div>
			<h3 class="small-print">The app sees to</h3>
			<ul class="mt-1 space-y-1">
				{#if desk.world === 'hardware'}<li class="flex gap-2">
						<Check size={17} class="mt-0.5 shrink-0 text-pine" /> The line goes to the computer’s ports; who is
						there is asked.
					</li>
				{:else if device.benchUnit}<li class="flex gap-2">
						<Check size={17} class="mt-0.5 shrink-0 text-pine" /> It is plugged in to the bench.
					</li>
				{:else}<li class="text-rust">
						It is plugged in to nothing. <a class="link-quiet" href={`/gear/${device.id}/ports`}
							>Choose a bench unit</a
						>.
					</li>{/if}
				{#if profile.identity.answers}<li class="flex gap-2">
						<Check size={17} class="mt-0.5 shrink-0 text-pine" /> First it asks who is there: the {profile.model}{panelId !==
						null
							? ` with device ID ${panelId}`
							: ''}, or nothing happens.
					</li>
				{:else}<li class="flex gap-2">
						<span class="w-[17px] shrink-0 text-center font-bold text-brass">!</span> This model does not say who
						it is: check that the right one is plugged in.
					</li>{/if}
				{#if restoring && canRead}
					<li class="flex gap-2">
						<Check size={17} class="mt-0.5 shrink-0 text-pine" /> What is overwritten is captured and kept first.
					</li>
					<li class="flex gap-2">
						<Check size={17} class="mt-0.5 shrink-0 text-pine" /> Only slots that differ are written; then these
						are read back and compared.
					</li>
				{/if}
			</ul>
		</div>
	</div>
	<div class="mt-4 flex flex-wrap items-center gap-4 border-t border-line pt-3">
		<p class="flex-1">
			{#if restoring}
				{count(countSlots(wanted), 'slot')} of “{device.name}” {countSlots(wanted) === 1 ? 'is' : 'are'} overwritten{neighbours >
				0
					? `; ${count(neighbours, 'neighbour')} travel along unchanged, because it takes whole banks`
					: ''}.
			{:else}
				{count(countSlots(wanted), 'slot')}, {count(reading.bytes, 'byte')}.
			{/if}
			About {duration(ms)} at the wire’s speed.
		</p>
		<button
			class={['btn', restoring ? 'btn-error' : 'btn-primary']}
			disabled={!ready || starting}
			onclick={start}
		>
			{restoring
				? `Overwrite ${count(countSlots(wanted), 'slot')}`
				: byHand && !restoring
					? 'Listen for the dump'
					: 'Start the capture'}
		</button>
	</div>
	{#if restoring && named.length > 0}
		<details class="mt-2">
			<summary class="cursor-pointer text-sm">Which ones</summary>
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<ul
				class="mt-1 grid max-h-44 grid-cols-3 gap-x-4 overflow-y-auto text-sm"
				tabindex="0"
				aria-label="Slots that are overwritten"
			>
				{#each named as slot (slot.area + slot.index)}<li class="truncate">
						<span class="font-mono text-xs text-slate">{slot.label}</span>
						{slot.name ?? slot.area}
					</li>{/each}
			</ul>
		</details>
	{/if}
</section>

<style>
	.card-preflight {
		padding: 1rem 1.2rem;
		border: 1px solid var(--color-line);
		border-top: 4px solid var(--color-brass);
		border-radius: var(--radius-box);
		background: var(--color-ground);
	}
</style>
