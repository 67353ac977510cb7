<script lang="ts">
	import { putInTray } from '$lib/ui/tray/put';
	import {
		bankRemarks,
		fillRest,
		insertSound,
		moveSound,
		orderBySong,
		placeSound,
		renameSound,
		type BankEntry
	} from '$lib/core/drawer';
	import { areaOf, slotLabel } from '$lib/core/profile';
	import { call } from '$lib/hardware/api';
	import { BankEditor } from '$lib/ui/bank-editor.svelte';
	import BankSearch from '$lib/ui/BankSearch.svelte';
	import BankSheet from '$lib/ui/BankSheet.svelte';
	import { pageKeys } from '$lib/ui/keys.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { count, minuteOf, problemOf } from '$lib/ui/words';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const editor = new BankEditor(data.bank);
	$effect(() => {
		BankEditor.open = editor;
		return () => (BankEditor.open = null);
	});
	let current = $state(0);
	// svelte-ignore state_referenced_locally
	let title = $state(data.bank.document.title);
	let fillFrom = $state('');
	// svelte-ignore state_referenced_locally
	let target = $state(data.bank.deviceId);

	const area = $derived(areaOf(data.profile, editor.document.area));
	const blank = $derived(new Uint8Array(data.profile.records[area.record].size));
	/** What the current slot holds. */
	const at = $derived(editor.document.entries[current]);
	const remarks = $derived(bankRemarks(data.profile, editor.document));
	const used = $derived(editor.document.entries.filter((entry) => entry !== null).length);

	function put(entry: BankEntry) {
		const slot = current;
		const before = editor.document.entries[slot];
		editor.change((bank) => placeSound(bank, current, entry));
		if (before && before.record !== entry.record)
			notices.say(
				`“${entry.name || 'A sound'}” takes the place of “${before.name || 'a sound'}” in ${slotLabel(area.labels, current)}.`,
				'plain',
				{
					title: 'Undo',
					way: { by: 'bank slot', bank: data.bank.id, index: slot, was: before, now: entry.record }
				}
			);
		current = Math.min(editor.document.entries.length - 1, current + 1);
	}

	async function fill() {
		const version = data.versions.find(({ id }) => id === fillFrom);
		if (!version) return;
		try {
			const slots = await call<
				{ area: string; index: number; label: string; name: string | null; record: string }[]
			>('GET', `/versions/${version.id}/slots`);
			const entries: (BankEntry | null)[] = editor.document.entries.map(() => null);
			for (const slot of slots)
				if (slot.area === area.id)
					entries[slot.index] = {
						record: slot.record,
						name: slot.name ?? '',
						from: `${data.device.name}, ${slot.label}, ${minuteOf(version.takenAt)}`.slice(0, 160),
						song: ''
					};
			editor.change((bank) => fillRest(bank, entries));
		} catch (error) {
			editor.problem = problemOf(error);
		}
	}

	async function send() {
		await editor.store();
		if (editor.saved === 'saved') await putInTray(`bank=${data.bank.id}&device=${target}`);
	}

	const rename = (at: number, name: string) =>
		editor.change((bank) => renameSound(data.profile, bank, at, name, blank));

	function press(event: KeyboardEvent) {
		if (!(event.ctrlKey || event.metaKey) || event.target instanceof HTMLInputElement) return;
		const key = event.key.toLowerCase();
		if (key === 'z' && !event.shiftKey) editor.undo();
		else if (key === 'y' || (key === 'z' && event.shiftKey)) editor.redo();
		else return;
		event.preventDefault();
	}

	$effect(() =>
		pageKeys.add([
			{ key: 'r', says: 'Send this bank to the device', run: () => void send() },
			{ key: 'o', says: 'Put the sounds in song order', run: () => void editor.change(orderBySong) }
		])
	);
</script>

<svelte:head><title>{editor.document.title} · Silent Drawer</title></svelte:head>
<svelte:window onkeydown={press} onpagehide={() => editor.leave()} />

<div class="flex flex-wrap items-end gap-3">
	<div class="field min-w-0 flex-1">
		<label for="title">Bank of {area.name.toLowerCase()} for {data.profile.model}</label>
		<input
			id="title"
			class="input w-full max-w-md"
			maxlength="80"
			bind:value={title}
			onchange={() => title.trim() && editor.change((bank) => ({ ...bank, title: title.trim() }))}
		/>
	</div>
	{#if data.newer}<a class="btn" href={`/sounds/banks/${data.bank.id}/merge`}>Merge with the device</a>{/if}
	<div class="field">
		<label for="target">Send to</label>
		<select id="target" class="select" bind:value={target}>
			{#each data.alike as { id, name } (id)}<option value={id}>{name}</option>{/each}
		</select>
	</div>
	<button class="btn btn-primary" disabled={used === 0} onclick={send}>Send <span class="key">R</span></button
	>
</div>
<div class="mt-3 flex flex-wrap items-center gap-2">
	<button class="btn btn-sm" disabled={!editor.canUndo} onclick={() => editor.undo()}
		>Undo <span class="key">Ctrl Z</span></button
	>
	<button class="btn btn-sm" disabled={!editor.canRedo} onclick={() => editor.redo()}
		>Redo <span class="key">Ctrl Y</span></button
	>
	<button class="btn btn-sm" onclick={() => editor.change(orderBySong)}
		>Song order <span class="key">O</span></button
	>
	<label class="flex items-center gap-1"
		><span class="small-print whitespace-nowrap">Fill the rest from</span>
		<select class="select select-sm" bind:value={fillFrom} onchange={() => void fill()}>
			<option value="">a version …</option>
			{#each data.versions as version (version.id)}<option value={version.id}
					>{version.title || 'version'}, {minuteOf(version.takenAt)}</option
				>{/each}
		</select></label
	>
	<span class="flex-1"></span>
	{#each ['syx', 'mid', 'midnam', 'csv'] as format (format)}
		<a class="btn btn-xs" href={`/api/v1/banks/${data.bank.id}/export?as=${format}`} download>.{format}</a>
	{/each}
</div>
<p class="small-print mt-2" role="status">
	{count(used, 'slot')} of {editor.document.entries.length} used; free ones keep what the device has.
	{remarks.length > 0
		? `${count(new Set(remarks.map(({ index }) => index)).size, 'slot')} used twice or with a name clash.`
		: ''}
	{editor.saved === 'saved' ? 'Saved.' : editor.saved === 'saving' ? 'Saving …' : 'Not saved.'}
</p>
{#if editor.problem}<div class="mt-2"><ProblemNote problem={editor.problem} /></div>{/if}

<div class="mt-3 grid gap-5 min-[1000px]:grid-cols-[17rem_minmax(0,1fr)]">
	<BankSearch profileId={data.profile.id} area={area.id} onPut={put} />
	<div>
		<p class="small-print mb-2">
			Arrows walk, <span class="key">Alt</span> with arrows moves the sound, <span class="key">F2</span>
			renames,
			<span class="key">N</span> notes its song, <span class="key">Del</span> frees the slot.
		</p>
		<BankSheet
			{area}
			entries={editor.document.entries}
			{remarks}
			bind:current
			onMove={(from, to) => editor.change((bank) => moveSound(bank, from, to))}
			onInsert={(at, entry) => editor.change((bank) => insertSound(bank, at, entry))}
			onClear={(at) => editor.change((bank) => placeSound(bank, at, null))}
			onRename={rename}
			onSong={(at, song) =>
				editor.change((bank) => placeSound(bank, at, { ...bank.entries[at]!, song: song.slice(0, 40) }))}
		/>
		{#if at}
			<p class="small-print mt-2">
				{slotLabel(area.labels, current)}: {at.name || 'unnamed'}, from {at.from ||
					'nobody noted where'}{at.song ? `; for ${at.song}` : ''}.
				{remarks
					.filter(({ index }) => index === current)
					.map(({ says }) => says)
					.join(' ')}
			</p>
		{/if}
	</div>
</div>
