<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import type { FileInspection } from '$lib/core/drawer';
	import { call } from '$lib/hardware/api';
	import { intake } from './intake.svelte';
	import { notices } from './notices.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import Sheet from './Sheet.svelte';
	import { count, problemOf } from './words';

	let over = $state(false);
	let open = $state(false);
	let file = $state.raw<File | null>(null);
	let found = $state.raw<FileInspection | null>(null);
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	let deviceId = $state('');
	let note = $state('');
	let busy = $state(false);

	const fitting = $derived(found?.devices.filter(({ fits }) => fits) ?? []);
	const others = $derived(found?.devices.filter(({ fits }) => !fits) ?? []);
	const cut = $derived(found?.messages.filter(({ complete }) => !complete) ?? []);

	async function take(chosen: File) {
		file = chosen;
		found = null;
		problem = null;
		note = '';
		deviceId = '';
		open = true;
		busy = true;
		try {
			const form = new FormData();
			form.set('file', chosen);
			found = await call<FileInspection>('POST', '/files/inspect', form);
			const here = found.devices.find(({ id, fits }) => fits && id === page.params.device);
			deviceId = (here ?? found.devices.find(({ fits }) => fits))?.id ?? '';
		} catch (error) {
			problem = problemOf(error);
		} finally {
			busy = false;
		}
	}

	$effect(() => {
		if (!intake.file) return;
		const chosen = intake.file;
		intake.file = null;
		void take(chosen);
	});

	function drop(event: DragEvent) {
		over = false;
		const dropped = event.dataTransfer?.files[0];
		if (!dropped) return;
		event.preventDefault();
		void take(dropped);
	}

	async function store() {
		if (!file || busy) return;
		busy = true;
		problem = null;
		try {
			const form = new FormData();
			form.set('file', file);
			form.set('deviceId', deviceId);
			form.set('note', note);
			form.set('takenAt', new Date(file.lastModified).toISOString());
			const version = await call<{ id: string; deviceId: string }>('POST', '/files/store', form);
			open = false;
			notices.say(`“${file.name}” is kept.`, 'good');
			await goto(`/gear/${version.deviceId}/drawer?v=${version.id}`, { invalidateAll: true });
		} catch (error) {
			problem = problemOf(error);
		} finally {
			busy = false;
		}
	}
</script>

<svelte:window
	ondragover={(event) => {
		if (!event.dataTransfer?.types.includes('Files')) return;
		event.preventDefault();
		over = true;
	}}
	ondragleave={(event) => {
		if (event.relatedTarget === null) over = false;
	}}
	ondrop={drop}
/>

{#if over}
	<div
		class="pointer-events-none fixed inset-3 z-50 grid place-items-center border-2 border-dashed border-brass bg-ground/90"
		aria-hidden="true"
	>
		<p class="plate text-2xl">Let go to look into this dump</p>
	</div>
{/if}

<Sheet bind:open title={file ? `Dump file “${file.name}”` : 'Dump file'} wide>
	{#if problem}<div class="mb-3"><ProblemNote {problem} /></div>{/if}
	{#if busy && !found}<p>Reading …</p>{/if}
	{#if found}
		<p>
			{count(found.messages.length, 'system exclusive message')}, {count(
				found.messages.reduce((sum, { length }) => sum + length, 0),
				'byte'
			)}.
			{#if found.recognised}
				It is a dump of a <strong>{found.recognised.title}</strong>{found.recognised.deviceIds.length > 0
					? ` with device ID ${found.recognised.deviceIds.join(', ')} on the wire`
					: ''}.
			{:else}
				No profile knows it; a device without a profile can keep it raw.
			{/if}
		</p>
		{#each cut as message (message.offset)}
			<p class="mt-1 text-rust">
				The message at byte {message.offset} is truncated: it has {message.length} bytes and no end.
			</p>
		{/each}
		{#each found.recognised?.damaged ?? [] as { index, says } (index)}
			<p class="mt-1 text-rust">Message {index + 1} is damaged: {says}.</p>
		{/each}
		{#if found.recognised && found.recognised.foreign > 0}<p class="mt-1 text-rust">
				{count(found.recognised.foreign, 'message')} of another model.
			</p>{/if}
		{#each found.remarks.slice(0, 5) as remark (remark.offset)}
			<p class="small-print">
				At byte {remark.offset}: {remark.says}{remark.times > 1 ? ` (${remark.times} times)` : ''}.
			</p>
		{/each}
		{#if found.slots.length > 0}
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div
				class="my-3 max-h-52 overflow-y-auto border border-line"
				tabindex="0"
				role="region"
				aria-label="Slots in the file"
			>
				<ul class="grid grid-cols-2 gap-x-4 p-2 sm:grid-cols-4">
					{#each found.slots as slot (slot.area + slot.label)}
						<li class="truncate">
							<span class="font-mono text-xs text-slate">{slot.label}</span>
							{slot.name ?? '—'}
						</li>
					{/each}
				</ul>
			</div>
		{/if}
		<div class="mt-3 grid gap-3 sm:grid-cols-2">
			<div class="field">
				<label for="intake-device">Keep it in the drawer of</label>
				<select id="intake-device" class="select w-full" bind:value={deviceId}>
					<option value="">Choose a device</option>
					{#if fitting.length > 0}<optgroup label="It fits"
							>{#each fitting as device (device.id)}<option value={device.id}
									>{device.name} ({device.why})</option
								>{/each}</optgroup
						>{/if}
					{#if others.length > 0}<optgroup label="It does not fit"
							>{#each others as device (device.id)}<option value={device.id}
									>{device.name} ({device.why})</option
								>{/each}</optgroup
						>{/if}
				</select>
			</div>
			<div class="field">
				<label for="intake-note">Note</label>
				<input
					id="intake-note"
					class="input w-full"
					bind:value={note}
					maxlength="2000"
					placeholder="Where it comes from"
				/>
			</div>
		</div>
		<p class="small-print mt-2">
			It is dated by the file: {file
				? new Date(file.lastModified).toLocaleDateString('en', { dateStyle: 'long' })
				: ''}. It does not count as a backup until a capture shows the same.
		</p>
		<button class="btn mt-3 btn-primary" disabled={busy || !deviceId} onclick={store}>Keep it</button>
	{/if}
</Sheet>
