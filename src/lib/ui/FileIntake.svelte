<script lang="ts">
	import { Doing } from './doing.svelte';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { format, parseISO } from 'date-fns';
	import {
		fileKind,
		likeliestDevices,
		type FileInspection,
		type FittingDevice,
		type LooseInFile
	} from '$lib/core/drawer';
	import { call } from '$lib/hardware/api';
	import { intake } from './intake.svelte';
	import { manyFiles } from './intake/many-files.svelte';
	import ManyFiles from './intake/ManyFiles.svelte';
	import { notices } from './notices.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import Sheet from './Sheet.svelte';
	import { count } from './words';

	interface Kept {
		id: string;
		deviceId: string;
	}
	let open = $state(false);
	/** Several files, one of several devices, or one that is no dump, are shown in a table. */
	let many = $state(false);
	let file = $state.raw<File | null>(null);
	let found = $state.raw<FileInspection | null>(null);
	const doing = new Doing();
	let deviceId = $state('');
	/** As the file says, or as the musician knows better. */
	let day = $state('');
	let note = $state('');
	/** Which slots dumps are of that do not say so, by their message; what was chosen here goes before what was found. */
	let chosen = $state<Record<number, number>>({});
	const placeOf = ({ message, found: seen }: LooseInFile): number | undefined =>
		chosen[message] ?? (seen[deviceId]?.length === 1 ? seen[deviceId][0] : undefined);
	const unplaced = $derived(found?.loose.filter((loose) => placeOf(loose) === undefined) ?? []);

	const fitting = $derived(found?.devices.filter(({ fits }) => fits) ?? []);
	/** Those that nothing in the file tells apart. */
	const twins = $derived(likeliestDevices(found?.devices ?? [], page.params.device));
	const others = $derived(found?.devices.filter(({ fits }) => !fits) ?? []);
	const truncated = $derived(found?.firstTruncated ?? []);
	const damaged = $derived(found?.recognised?.firstDamaged ?? []);
	/** More is wrong than is told one by one. */
	const more = $derived(
		(found?.truncated ?? 0) > truncated.length || (found?.recognised?.damaged ?? 0) > damaged.length
	);

	async function take(given: File) {
		file = given;
		found = null;
		note = '';
		deviceId = '';
		chosen = {};
		open = true;
		await doing.run(async () => {
			const form = new FormData();
			form.set('file', given);
			const inspection = await call<FileInspection>('POST', '/files/inspect', form);
			// Each device's part goes to a drawer of its own: in the table.
			if (inspection.parts.length > 1) {
				open = false;
				return toTable([{ file: given, from: '' }]);
			}
			found = inspection;
			day = format(given.lastModified, 'yyyy-MM-dd');
			deviceId = likeliest(found.devices);
		});
	}

	/** The one device that it most likely came from; empty where several are equally likely. */
	function likeliest(devices: FittingDevice[]): string {
		const likely = likeliestDevices(devices, page.params.device);
		return likely.length === 1 ? likely[0].id : '';
	}

	/** One dump is looked into by itself; anything else goes into the table. */
	async function bring(files: { file: File; from: string }[]) {
		if (files.length === 0) return;
		const [{ file: first }] = files;
		const alone = files.length === 1 && !many;
		const kind = alone ? fileKind(new Uint8Array(await first.slice(0, 4096).arrayBuffer())) : null;
		if (kind === 'dump' || kind === 'other' || kind === 'empty') return take(first);
		await toTable(files);
	}

	function toTable(files: { file: File; from: string }[]): Promise<void> {
		many = true;
		return manyFiles.bring(files, page.params.device);
	}

	$effect(() => {
		if (intake.files.length === 0) return;
		const given = intake.files;
		intake.files = [];
		void bring(given);
	});

	async function store() {
		const kept = file;
		if (!kept || doing.busy) return;
		await doing.run(async () => {
			const form = new FormData();
			form.set('file', kept);
			form.set('deviceId', deviceId);
			form.set('note', note);
			if (found && found.loose.length > 0)
				form.set(
					'places',
					JSON.stringify(found.loose.map((loose) => ({ message: loose.message, slot: placeOf(loose) })))
				);
			// The file's own time of day, where the day is still the file's.
			const own = day === format(kept.lastModified, 'yyyy-MM-dd');
			form.set('takenAt', (own ? new Date(kept.lastModified) : parseISO(`${day}T12:00`)).toISOString());
			const version = await call<Kept>('POST', '/files/store', form);
			open = false;
			notices.say(`“${kept.name}” is kept.`, 'good');
			await goto(`/gear/${version.deviceId}/drawer?v=${version.id}`, { invalidateAll: true });
		});
	}
</script>

<ManyFiles bind:open={many} />
<Sheet bind:open title={file ? `Dump file “${file.name}”` : 'Dump file'} wide>
	{#if doing.problem}<div class="mb-3"><ProblemNote problem={doing.problem} /></div>{/if}
	{#if doing.busy && !found}<p>Reading …</p>{/if}
	{#if found}
		<p>
			{count(found.messages, 'system exclusive message')}, {count(found.bytes, 'byte')}.
			{#if found.recognised}
				It is a dump of a <strong>{found.recognised.title}</strong>{found.recognised.deviceIds.length > 0
					? ` with device ID ${found.recognised.deviceIds.join(', ')} on the wire`
					: ''}.
			{:else}
				No profile knows it; a device without a profile can keep it raw.
			{/if}
		</p>
		{#each truncated as message (message.offset)}
			<p class="mt-1 text-rust">
				The message at byte {message.offset} is truncated: it has {message.length} bytes and no end.
			</p>
		{/each}
		{#each damaged as { index, says } (index)}
			<p class="mt-1 text-rust">Message {index + 1} is damaged: {says}.</p>
		{/each}
		{#if more}<p class="mt-1 text-rust">More of its messages are truncated or damaged.</p>{/if}
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
		{#each found.loose as loose (loose.message)}
			<div class="field my-3">
				<label for="intake-place-{loose.message}"
					>Which {loose.slotWord} is {loose.name ? `“${loose.name}”` : `message ${loose.message + 1}`}? The
					file does not say.</label
				>
				<select
					id="intake-place-{loose.message}"
					class="select w-full max-w-80"
					value={placeOf(loose) ?? ''}
					onchange={(event) => (chosen[loose.message] = Number(event.currentTarget.value))}
				>
					<option value="" disabled>Choose the {loose.slotWord}</option>
					{#each loose.labels as label, slot (slot)}<option value={slot}
							>{label}{loose.found[deviceId]?.includes(slot)
								? ' · was last seen to hold exactly this'
								: ''}</option
						>{/each}
				</select>
			</div>
		{/each}
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
				{#if twins.length > 1 && deviceId === ''}<p class="small-print mt-1">
						{twins.length > 3 ? count(twins.length, 'device') : twins.map(({ name }) => name).join(', ')} fit equally:
						choose the one that it came from.
					</p>{/if}
			</div>
			<div class="field">
				<label for="intake-day">The device held it on</label>
				<input id="intake-day" class="input w-full" type="date" bind:value={day} />
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
			It is dated by the file, {file
				? new Date(file.lastModified).toLocaleDateString('en', { dateStyle: 'long' })
				: ''}; change the day if you know better. A file does not count as a backup: it was never seen in the
			device itself.
		</p>
		<button
			class="btn mt-3 btn-primary"
			disabled={doing.busy || !day || !deviceId || unplaced.length > 0}
			onclick={store}>Keep it</button
		>
	{/if}
</Sheet>
