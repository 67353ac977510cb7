<script lang="ts">
	import { wornWords, type WornControl } from '$lib/core/care';
	import { wallClock } from '../clock.svelte';
	import StateMark from '../StateMark.svelte';
	import { dayOf } from '../words';
	import type { ServiceOnPage } from './service-on-page.svelte';

	interface Props {
		open: ServiceOnPage;
		devices: readonly { id: string; name: string; firmware: string }[];
		only: string | null;
	}
	/** Faults that one lives with, asked again after an update; and controls that are worn or dead. */
	let { open, devices, only }: Props = $props();
	const today = $derived(dayOf(new Date(wallClock.now).toISOString()));
	const mine = ({ device }: { device: string }) => only === null || device === only;
	const faults = $derived(
		open.document.faults.filter(mine).sort((a, b) => Number(a.mended !== null) - Number(b.mended !== null))
	);
	const worn = $derived(open.document.worn.filter(mine));
	const of = (id: string) => devices.find((each) => each.id === id);
	const nameOf = (id: string) => of(id)?.name ?? 'a device that is gone';
	/** What is asked for by the app has it beside it; playing is nobody's question. */
	const isShown = ({ needed }: WornControl) => needed.some((each) => each !== 'playing');
	const NEEDED = {
		sending: 'to send its dumps',
		receiving: 'to receive',
		update: 'for update mode',
		playing: 'to play'
	};
</script>

{#if faults.length > 0}
	<section aria-labelledby="known-faults">
		<h2 id="known-faults">Known faults</h2>
		<ul class="mt-1">
			{#each faults as fault (fault.id)}
				{@const asked = open.ask.find(({ id }) => id === fault.id)}
				{@const now = asked?.now ?? of(fault.device)?.firmware ?? ''}
				<li class="border-b border-line py-1.5">
					<div class="flex items-start gap-3">
						<StateMark state={fault.mended ? 'verified' : fault.losesSounds ? 'attention' : 'quiet'} />
						<div class="min-w-0 flex-1">
							<p>
								<span class="plate">{nameOf(fault.device)}</span>: {fault.says}
								{#if fault.losesSounds && !fault.mended}<span class="small-print">can cost sounds</span>{/if}
							</p>
							{#if fault.wayRound}<p class="small-print">Way round: {fault.wayRound}</p>{/if}
							<p class="small-print">
								{fault.mended
									? `Gone since ${fault.mended.on}${fault.mended.firmware ? `, with ${fault.mended.firmware}` : ''}`
									: `Since ${fault.since}${fault.firmware ? `, last seen with ${fault.firmware}` : ''}`}
							</p>
							{#if asked}
								<p class="mt-1 border-l-4 border-warn pl-2">
									It tells {asked.now} now. Is the fault still there?
								</p>
							{/if}
							{#if !fault.mended}
								<div class="mt-1 flex flex-wrap gap-2 print:hidden">
									{#if asked}<button
											class="btn btn-sm"
											disabled={open.doing.busy}
											onclick={() =>
												void open.answer(fault.id, `Still there with ${now}: ${fault.says}`, {
													firmware: now
												})}>Still there<span class="sr-only">: {fault.says}</span></button
										>{/if}
									<button
										class="btn btn-sm"
										disabled={open.doing.busy}
										onclick={() =>
											void open.answer(fault.id, `Gone: ${fault.says}`, {
												mended: { on: today, firmware: now }
											})}>It is gone<span class="sr-only">: {fault.says}</span></button
									>
								</div>
							{/if}
						</div>
						<button
							class="btn btn-ghost btn-xs print:hidden"
							disabled={open.doing.busy}
							onclick={() => void open.remove('faults', fault.id, fault.says)}
							>Take out<span class="sr-only"> {fault.says}</span></button
						>
					</div>
				</li>
			{/each}
		</ul>
	</section>
{/if}
{#if worn.length > 0}
	<section aria-labelledby="worn-controls">
		<h2 id="worn-controls">Worn and dead controls</h2>
		<ul class="mt-1">
			{#each worn as control (control.id)}
				<li class="flex items-start gap-3 border-b border-line py-1.5">
					<StateMark state={control.how === 'dead' ? 'danger' : 'attention'} />
					<span class="min-w-0 flex-1"
						><span class="plate">{nameOf(control.device)}</span>: {wornWords(control)}
						{#if control.needed.length > 0}<span class="small-print block"
								>Needed {control.needed.map((each) => NEEDED[each]).join(', ')}{isShown(control)
									? ': shown before it is asked for'
									: ''}.</span
							>{/if}</span
					>
					<button
						class="btn btn-ghost btn-xs print:hidden"
						disabled={open.doing.busy}
						onclick={() => void open.remove('worn', control.id, control.control)}
						>Mended<span class="sr-only">: {control.control}</span></button
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}
