<script lang="ts">
	import { desk } from '../../hardware/desk.svelte';
	import { tray } from '../../hardware/tray.svelte';
	import type { TrayRow } from '../../hardware/tray-row';
	import { pageKeys } from '../keys.svelte';
	import { count, duration } from '../words';

	/** The one next action of the tray: begin what can begin, stop what runs, or nothing. */
	const open = $derived(tray.openRows);
	const able = $derived(open.filter((row) => tray.holdOf(row) === null));
	const held = $derived(open.filter((row) => tray.holdOf(row) !== null));
	const captures = $derived(able.filter(({ direction }) => direction === 'capture'));
	const restores = $derived(able.filter(({ direction }) => direction === 'restore'));
	/** Slots that are written, as far as that is known before the device is read. */
	const writtenBy = (row: TrayRow) => tray.checkOf(row)?.checked?.check?.dry?.overwritten ?? [];
	/** What the button does, also while a tick is missing: one knows what one ticks for. */
	const near = $derived(able.length > 0 ? able : open.filter((row) => tray.holdOf(row)?.kind === 'ticks'));
	const says = $derived.by(() => {
		if (near.length === 0) return 'Begin';
		const [one] = near;
		const sending = near.filter(({ direction }) => direction === 'restore');
		if (sending.length === 0) {
			if (near.length > 1) return `Back up ${count(near.length, 'device')}`;
			const check = tray.checkOf(one)?.checked?.check;
			return !check || check.byHand ? `Listen for the dump of ${one.name}` : `Back up ${one.name}`;
		}
		if (sending.length < near.length) return `Begin all ${near.length}`;
		if (near.length > 1) return `Ask and restore ${count(near.length, 'device')}`;
		const { check } = tray.checkOf(one)!.checked!;
		if (!check) return `Send it to ${one.name}`;
		const slots = writtenBy(one);
		if (slots.length === 0) return `Ask ${one.name}, and write what differs`;
		return `Overwrite ${slots.length === 1 ? slots[0].label : count(slots.length, 'slot')} of ${one.name}`;
	});
	const why = $derived(
		held.length === 0
			? ''
			: held.length === 1
				? `${able.length > 0 ? `${held[0].name} is left: ` : ''}${tray.holdOf(held[0])!.says}`
				: `${held.length} of ${open.length} cannot begin yet: look at their rows.`
	);
	const go = () => void tray.go(able.map(({ key }) => key));
	$effect(() => {
		if (able.length === 0) return;
		return pageKeys.add([{ key: 's', says: says, run: go }]);
	});
	/** What the panels of several show, ticked in one go. */
	const unticked = $derived(
		held.flatMap((row) => {
			const checked = tray.checkOf(row)?.checked;
			return checked && tray.holdOf(row)?.kind === 'ticks'
				? [{ row, ids: tray.ticksOf(checked).map(({ id }) => id) }]
				: [];
		})
	);
</script>

{#if open.length > 0 || tray.going}
	<div class="flex flex-wrap items-center gap-3 border-t border-line bg-ground px-4 py-2">
		{#if captures.length > 1}
			<input
				class="input w-60 input-sm"
				maxlength="80"
				aria-label="Title of the snapshot"
				placeholder="Title of the snapshot (optional)"
				bind:value={tray.snapshotTitle}
			/>
		{/if}
		<p class="min-w-0 flex-1 text-sm" role="status">
			{#if why}{why}{:else if able.length > 0}{able.length > 1
					? `About ${duration(tray.expectedMs(able))} one after another; ports work side by side.`
					: ''}{/if}
		</p>
		{#if unticked.length > 1}
			<button
				class="btn btn-sm"
				onclick={() => unticked.forEach(({ row, ids }) => tray.change(row.key, { ticked: ids }))}
				>All panels show what they must</button
			>
		{/if}
		{#if tray.going}
			<button class="btn" onclick={() => tray.stop()}>{desk.runs.length > 1 ? 'Stop all' : 'Stop'}</button>
		{:else}
			<button
				class={['btn', restores.length > 0 ? 'btn-error' : 'btn-primary']}
				disabled={able.length === 0}
				onclick={go}>{says} <span class="key">S</span></button
			>
		{/if}
	</div>
{/if}
