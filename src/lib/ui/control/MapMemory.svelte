<script lang="ts">
	import type { KnownState, Proof } from '$lib/core/drawer';
	import { loudOf } from '$lib/core/control';
	import { call } from '$lib/hardware/api';
	import { desk } from '$lib/hardware/desk.svelte';
	import { tray } from '$lib/hardware/tray.svelte';
	import { Doing } from '../doing.svelte';
	import { notices } from '../notices.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import { refresh } from '../refresh';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import { count } from '../words';
	import type { MemoryView } from './memory-view.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** What of the page that is shown is in the controller, and how it gets there and back. */
	let { open, page, view }: { open: OpenMap; page: number; view: MemoryView } = $props();
	const doing = new Doing();
	const PROOFS: Record<Proof, string> = {
		none: 'the line could have damaged it',
		checksum: 'its checksum was right',
		'twice alike': 'it came twice alike',
		'read back': 'read back after it was sent'
	};
	const UNKNOWN: Partial<Record<KnownState, string>> = {
		never: 'was never read',
		sent: 'was sent to and not read since',
		unknown: 'was written by a transfer that broke off'
	};
	const { surface } = $derived(open.map);
	const told = $derived(view.told);
	/** What goes into a slot: this page, or all of them. */
	const whole = $derived(told?.whole ?? false);
	const what = $derived(whole ? 'map' : surface.pages.word);
	const loud = $derived([
		...new Set(
			(whole ? open.map.pages.map(({ number }) => number) : [page]).flatMap((number) =>
				loudOf(open.troubles, open.map, number)
			)
		)
	]);
	const held = $derived(view.held);
	const label = $derived(held?.label ?? '');
	const exact = $derived(told !== null && told.slot !== null && told.exact.includes(told.slot));
	const others = $derived(
		told?.slots
			.filter(({ slot }) => slot !== told.slot && told.exact.includes(slot))
			.map((each) => each.label) ?? []
	);
	const order = $derived(
		told && { page, device: told.device ?? '', slot: told.slot ?? 0, world: desk.world }
	);

	const add = () =>
		doing.run(async () => {
			const { name } = await call<{ name: string }>('POST', `/maps/${open.id}/controller`);
			notices.say(`“${name}” is in Gear.`, 'good');
			await refresh();
		});
	const send = () =>
		doing.run(async () => {
			const { ask } = await call<{ ask: string }>('POST', `/maps/${open.id}/memory`, order);
			await tray.add([ask]);
		});
	const takeOver = () => open.order('memory/taken', (revision) => ({ ...order, revision }));
	const callUp = () =>
		doing.run(async () => {
			const unit = view.controller?.benchUnit;
			if (!unit || !told || told.slot === null) return;
			const { program } = await desk.panel(unit);
			await desk.act(unit, { act: 'step', by: told.slot - program.index });
			notices.say(`The bench’s ${surface.model} shows ${label}.`, 'good');
		});
	const restart = () =>
		doing.run(async () => {
			const unit = view.controller?.benchUnit;
			if (!unit) return;
			await desk.act(unit, { act: 'power' });
			notices.say(`The bench’s ${surface.model} was switched off and on.`, 'good');
		});
</script>

{#if view.problem}<div class="mt-6"><ProblemNote problem={view.problem} /></div>{/if}
{#if told?.model}
	<section aria-labelledby="in-the-controller" class="mt-6">
		<h2 id="in-the-controller">In the {surface.model}</h2>
		{#if !held}
			<p class="mt-1 max-w-prose">
				No {surface.model} is in Gear. Once it is, its {told.slotWord}s are kept in a drawer like sounds, and
				this {what} can be sent to it.
			</p>
			<button class="btn mt-2 btn-primary btn-sm" disabled={doing.busy} onclick={add}
				>Add the {surface.model} to Gear</button
			>
		{:else}
			<div class="mt-2 flex flex-wrap items-end gap-3">
				{#if told.controllers.length > 1}
					<div class="field">
						<label for="memory-device">Controller</label>
						<select
							id="memory-device"
							class="select w-48 select-sm"
							value={told.device}
							onchange={(event) => (view.device = event.currentTarget.value)}
						>
							{#each told.controllers as { id, name } (id)}<option value={id}>{name}</option>{/each}
						</select>
					</div>
				{/if}
				<div class="field">
					<label for="memory-slot">Its {told.slotWord}</label>
					<select
						id="memory-slot"
						class="select w-56 select-sm"
						value={told.slot}
						onchange={(event) => (view.slot = Number(event.currentTarget.value))}
					>
						{#each told.slots as each (each.slot)}<option value={each.slot}
								>{each.label}{each.name === null
									? ' · not known'
									: each.name
										? ` · ${each.name}`
										: ''}</option
							>{/each}
					</select>
				</div>
				<button
					class={['btn btn-sm', held.at !== null && !(exact && held.state === 'proved') && 'btn-primary']}
					disabled={doing.busy}
					onclick={send}>Send to {label}</button
				>
				{#if held.at !== null && !exact}<button
						class="btn btn-sm"
						disabled={open.doing.busy}
						onclick={takeOver}>Take over what {label} holds</button
					>{/if}
				{#if held.at === null}<button
						class="btn btn-primary btn-sm"
						onclick={() => tray.add([`device=${told.device}`])}>Back it up</button
					>{/if}
				{#if desk.world === 'bench' && view.controller?.benchUnit}<button
						class="btn btn-ghost btn-sm"
						disabled={doing.busy}
						onclick={restart}>Switch the bench’s panel off and on</button
					>
					{#if whole}<button class="btn btn-ghost btn-sm" disabled={doing.busy} onclick={callUp}
							>Call up {label} on the bench’s panel</button
						>{/if}{/if}
			</div>
			{#if loud.length > 0}
				<div class="mt-2">
					<p class="flex items-baseline gap-1.5">
						<StateMark state="attention" size={11} /> Turn down before you play what is sent:
					</p>
					<ul class="small-print list-inside list-disc">
						{#each loud as says (says)}<li>{says}</li>{/each}
					</ul>
				</div>
			{/if}
			<p class="mt-2 flex items-baseline gap-1.5" role="status">
				<StateMark
					state={exact && held.state === 'proved' ? 'verified' : held.at === null ? 'quiet' : 'attention'}
					size={11}
				/>
				<span>
					{#if held.at === null || held.proof === null}What {label} holds is not known: it {UNKNOWN[
							held.state
						] ?? 'was never read'}.
					{:else}
						{label} held {exact
							? told.lost.length > 0 || whole
								? `all of this ${what} that it can`
								: `exactly this ${what}`
							: held.name
								? `“${held.name}”, not this ${what},`
								: `something else than this ${what}`} when it was read{desk.world === 'bench'
							? ' on the bench'
							: ''}
						<When at={held.at} />: {PROOFS[held.proof]}{held.state === 'changed'
							? '. The controller was changed by hand since'
							: ''}.
					{/if}
					{#if others.length > 0}This {what} was in {others.join(', ')}.{/if}
				</span>
			</p>
			{#if held.at === null}<p class="small-print mt-1">
					What a map says nothing of{whole
						? `, such as ${surface.pages.word}s that it has not`
						: ', such as lamps'}, would be nought in {label}. Back the {surface.model} up first, and it stays as
					it is.
				</p>{/if}
			{#if exact && surface.template.restart}<p class="small-print mt-1">
					It plays what it was sent only after it was switched off and on. Then learn, and walk back: only
					that shows that it does.
				</p>{/if}
			{#if told.unlike.length > 0}
				<details class="mt-2" open={told.unlike.length <= 8}>
					<summary
						>{count(told.unlike.length, 'control')} of {label}
						{told.unlike.length === 1 ? 'says' : 'say'} something else</summary
					>
					<div class="overflow-x-auto">
						<table class="ledger-table">
							<thead
								><tr
									><th scope="col">Control</th><th scope="col">This {what}</th><th scope="col">{label}</th
									></tr
								></thead
							>
							<tbody>
								{#each told.unlike as { control, here, there, line } (`${line.page} ${line.control} ${line.gesture}`)}<tr
										><th scope="row">{control}</th><td>{here}</td><td>{there}</td></tr
									>{/each}
							</tbody>
						</table>
					</div>
				</details>
			{/if}
			{#if told.lost.length > 0}
				<h3 class="mt-3">What does not go along</h3>
				<ul class="mt-1 list-inside list-disc">
					{#each told.lost as { says }, i (i)}<li>{says}</li>{/each}
				</ul>
			{/if}
		{/if}
		{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	</section>
{/if}
