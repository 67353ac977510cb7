<script lang="ts">
	import { GESTURE_WORDS, hostRows, noteButton, type HostButton, type HostRow } from '$lib/core/control';
	import KeptField from '../KeptField.svelte';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import AskBar from './AskBar.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** What a host's buttons really do, and a walk through those that nobody has tried. */
	let { open }: { open: OpenMap } = $props();
	const host = $derived(open.map.host);
	const rows = $derived(hostRows(open.map));
	const untried = $derived(rows.filter(({ state }) => state !== 'tried'));
	const keyOf = ({ control, gesture }: HostRow) => `${control.id} ${gesture}`;
	const nameOf = ({ control, gesture }: HostRow) =>
		gesture === 'push' ? control.name : `${control.name}, ${GESTURE_WORDS[gesture]}`;
	/** Rows that this walk has left out. */
	let skipped = $state.raw<string[] | null>(null);
	const due = $derived(skipped && (untried.find((row) => !skipped?.includes(keyOf(row))) ?? null));

	/** Tried counts with the version that the host has by the time that it is noted: one may just have been written. */
	const note = (row: HostRow, says: string, more: Partial<HostButton>, triedAt?: string) =>
		open.edit(`${nameOf(row)}: ${says}`, (map) =>
			noteButton(
				map,
				{ control: row.control.id, gesture: row.gesture },
				triedAt === undefined ? more : { ...more, tried: { at: triedAt, version: map.host.version } }
			)
		);

	async function answer(event: SubmitEvent & { currentTarget: HTMLFormElement }) {
		event.preventDefault();
		const form = event.currentTarget;
		// That it does nothing is found out, too.
		const does = String(new FormData(form).get('does') ?? '').trim() || 'nothing';
		if (!due) return;
		if (await note(due, does, { does }, new Date().toISOString())) form.reset();
	}
</script>

<section class="mt-6" aria-labelledby="buttons">
	<h2 id="buttons">What its buttons really do {host.name ? `in ${host.name}` : 'there'}</h2>
	<div class="mt-2 flex flex-wrap items-center gap-3">
		<button class="btn btn-sm" disabled={untried.length === 0} onclick={() => (skipped = [])}
			>Try the {untried.length} untried</button
		>
		<p class="small-print">{rows.length - untried.length} of {rows.length} tried with this version.</p>
	</div>
	{#if skipped}
		<AskBar label="Trying">
			{#if due}
				<form class="flex flex-wrap items-end gap-2" onsubmit={answer}>
					<div class="field min-w-0 flex-1">
						<label for="try-does">Press {nameOf(due)}. What does {host.name || 'the host'} do?</label>
						{#key keyOf(due)}
							<!-- svelte-ignore a11y_autofocus -->
							<input
								id="try-does"
								name="does"
								class="input w-full input-sm"
								maxlength="200"
								value={due.noted?.does ?? ''}
								placeholder="nothing"
								autofocus
							/>
						{/key}
					</div>
					<button class="btn btn-primary btn-sm">Note it, next</button>
					<button
						type="button"
						class="btn btn-sm"
						onclick={() => due && (skipped = [...(skipped ?? []), keyOf(due)])}>Leave it out</button
					>
					<button type="button" class="btn btn-ghost btn-sm" onclick={() => (skipped = null)}>Stop</button>
				</form>
			{:else}
				<p role="status" class="text-lg">
					{untried.length === 0 ? 'Every button is tried.' : `${untried.length} left untried.`}
				</p>
				<button class="btn mt-2 btn-sm" onclick={() => (skipped = null)}>Done</button>
			{/if}
		</AskBar>
	{/if}
	<div class="mt-3 overflow-x-auto">
		<table class="ledger-table">
			<thead
				><tr
					><th scope="col">Printed</th><th scope="col">What it does there</th><th scope="col">Remark</th><th
						scope="col">Tried</th
					></tr
				></thead
			>
			<tbody>
				{#each rows as row (keyOf(row))}
					<tr>
						<th scope="row">{nameOf(row)}</th>
						<td
							><KeptField
								class="input w-full min-w-40 input-xs"
								maxlength={200}
								aria-label={`What ${nameOf(row)} does`}
								value={row.noted?.does ?? ''}
								save={(does) => note(row, 'what it does', { does: does.trim() })}
							/></td
						>
						<td
							><KeptField
								class="input w-full min-w-32 input-xs"
								maxlength={200}
								aria-label={`Remark on ${nameOf(row)}`}
								value={row.noted?.remark ?? ''}
								save={(remark) => note(row, 'remark', { remark: remark.trim() })}
							/></td
						>
						<td
							><span class="flex items-center gap-1.5"
								><StateMark
									state={row.state === 'tried' ? 'verified' : row.state === 'untried' ? 'quiet' : 'attention'}
									size={11}
								/>{#if row.noted?.tried}<When at={row.noted.tried.at} />{row.noted.tried.version
										? `, version ${row.noted.tried.version}`
										: ''}{:else}untried{/if}</span
							></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
</section>
