<script lang="ts">
	import Sheet from '../Sheet.svelte';
	import StateMark from '../StateMark.svelte';
	import { count, minuteOf } from '../words';
	import { manyFiles, newDeviceFor, type BroughtFile } from './many-files.svelte';

	/** What each of many files is, where it would go, what is there already; corrected in the table, taken over in one step. */
	let { open = $bindable(false) }: { open?: boolean } = $props();
	const looking = $derived(manyFiles.files.filter(({ state }) => state === 'looking').length);
	const chosen = $derived(manyFiles.chosen);
	const parted = $derived(chosen.some(({ share }) => share !== null));
	const shareOf = ({ share }: BroughtFile) => (share ? `part ${share.part} of ${share.of}` : '');
	const done = $derived(
		manyFiles.files.filter(({ state }) => state === 'taken' || state === 'failed').length
	);
	const markOf = (file: BroughtFile) =>
		file.state === 'taken'
			? 'verified'
			: file.state === 'failed'
				? 'danger'
				: file.fault
					? 'attention'
					: ('quiet' as const);
	const nameOf = (file: BroughtFile, id: string) =>
		file.part?.devices.find((device) => device.id === id)?.name ?? 'a drawer';

	function leave() {
		open = false;
		if (!manyFiles.busy) manyFiles.clear();
	}
</script>

<Sheet bind:open={() => open, (value) => (value ? (open = true) : leave())} title="Files to take over" wide>
	<p role="status">
		{count(manyFiles.count, 'file')}{looking > 0 ? `, ${looking} being looked at` : ''}{done > 0
			? `; ${done} done`
			: ''}. What they are is told by their content. A file does not count as a backup: it was never seen in
		the device itself.
	</p>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class="mt-2 max-h-[55dvh] overflow-auto" tabindex="0" role="region" aria-label="Files">
		<table class="ledger-table">
			<thead><tr><th>File</th><th>What it is</th><th>Where it goes</th></tr></thead>
			<tbody>
				{#each manyFiles.files as file (file.key)}
					<tr>
						<td class="max-w-64"
							><span class="plate block truncate">{file.name}</span>{#if file.share}<span
									class="small-print block">{shareOf(file)}</span
								>{/if}{#if file.from}<span class="small-print block truncate">in {file.from}</span>{/if}</td
						>
						<td>
							<span class="flex items-baseline gap-1.5"
								><StateMark state={markOf(file)} size={11} /><span
									>{file.says}{#if file.fault}<span class="block text-rust">{file.fault}</span
										>{/if}{#each file.part?.already ?? [] as version (version.id)}<span
											class="small-print block"
											>Kept already in {nameOf(file, version.deviceId)}, {minuteOf(version.takenAt)}.</span
										>{/each}</span
								></span
							>
						</td>
						<td>
							{#if file.state === 'taken' || file.state === 'failed'}
								<span class={file.state === 'failed' ? 'text-rust' : ''}>{file.result}</span>
							{:else if file.fault}
								<span class="small-print">left out</span>
							{:else if file.kind === 'dump' && file.part}
								<select
									class="select w-52 select-sm"
									aria-label={`Where ${[file.name, shareOf(file)].filter(Boolean).join(', ')} goes`}
									value={file.target}
									onchange={(event) => manyFiles.change(file.key, { target: event.currentTarget.value })}
								>
									<option value="">Leave it out</option>
									{#each file.part.devices.filter(({ fits }) => fits) as device (device.id)}
										<option value={device.id}>{device.name} ({device.why})</option>
									{/each}
									{#if file.part.profileId}<option value={newDeviceFor(file.part)}
											>A new {file.part.title}</option
										>{/if}
								</select>
							{:else}
								<label class="flex items-center gap-2"
									><input
										type="checkbox"
										class="checkbox checkbox-sm"
										checked={file.target !== ''}
										aria-label={`Take ${file.name} over`}
										onchange={(event) =>
											manyFiles.change(file.key, { target: event.currentTarget.checked ? 'yes' : '' })}
									/> take it over</label
								>
							{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="mt-3 flex flex-wrap items-center gap-3">
		{#if manyFiles.busy}<progress
				class="progress w-48 progress-info"
				value={done}
				max={done + chosen.length + 1}
				aria-label="Share that is taken over"
			></progress>{/if}
		<span class="flex-1"></span>
		{#if chosen.length > 0 || manyFiles.busy}
			<button
				class="btn btn-primary"
				disabled={looking > 0 || manyFiles.busy}
				onclick={() => manyFiles.take()}
				>{manyFiles.busy
					? 'Taking over …'
					: `Take ${count(chosen.length, parted ? 'file or part' : 'file', parted ? 'files and parts' : 'files')} over`}</button
			>
		{:else}
			<button class="btn btn-primary" onclick={leave}>Done</button>
		{/if}
	</div>
</Sheet>
