<script lang="ts">
	import { tick } from 'svelte';
	import { roving } from '../roving';
	import {
		ALL_CHANNELS,
		applyChanges,
		ledgerOf,
		moveTo,
		type Block,
		type LedgerRow,
		type Rig,
		type RigChange
	} from '$lib/core/rig';
	import { notices } from '../notices.svelte';
	import LedgerBlock from './LedgerBlock.svelte';
	import { problemOf } from '../words';

	interface Props {
		rig: Rig;
		selected: string | null;
		onSelect: (device: string) => void;
		onMove: (changes: RigChange[], says: string) => Promise<boolean>;
	}
	let { rig, selected, onSelect, onMove }: Props = $props();

	/** What is picked up, and where it would go. */
	let held = $state.raw<{ device: string; port: string; channel: number } | null>(null);
	let table: HTMLElement | undefined = $state();

	const tried = $derived.by(() => {
		if (!held) return { rig, problem: null, changes: [] as RigChange[] };
		try {
			const changes = moveTo(rig, held.device, held.port, held.channel);
			return { rig: applyChanges(rig, changes), problem: null, changes };
		} catch (error) {
			return { rig, problem: problemOf(error).message, changes: [] as RigChange[] };
		}
	});
	const ledger = $derived(ledgerOf(tried.rig));
	const rows = $derived(ledger.rows);
	const nameOf = (id: string) => rig.devices.find((device) => device.id === id)?.name ?? '';
	const rowName = (port: string) => rows.find((row) => row.port === port)?.name ?? '';

	const share = (row: LedgerRow) => Math.round((row.load?.share ?? 0) * 100);
	const level = (row: LedgerRow) =>
		(row.load?.share ?? 0) > 1 ? 'over the wire' : (row.load?.share ?? 0) > rig.limits.load ? 'busy' : '';

	function pickUp(device: string, block?: Block, row?: LedgerRow) {
		const at = row ?? rows.find(({ usb, blocks }) => !usb && blocks.length === 0) ?? rows[0];
		if (at) held = { device, port: at.port, channel: block?.first || 1 };
	}

	async function drop() {
		if (!held) return;
		const { device, port, channel } = held;
		const { problem, changes } = tried;
		if (problem) {
			notices.say(problem, 'bad');
			return;
		}
		if (changes.length === 0) {
			held = null;
			return;
		}
		await onMove(changes, `${nameOf(device)} is on ${rowName(port)}, channel ${channel}.`);
		held = null;
		focusBlock(device);
	}

	function putBack() {
		const device = held?.device;
		held = null;
		if (device) focusBlock(device);
	}

	/** Focus stays with a block that moved, unless the musician has gone on to something else meanwhile. */
	const focusBlock = (device: string) =>
		// Before the next key comes, however soon that is.
		void tick().then(() => {
			const active = document.activeElement;
			if (active && active !== document.body && !table?.contains(active)) return;
			table?.querySelector<HTMLElement>(`[data-block="${device}"]`)?.focus();
		});

	function step(channels: number, ports: number) {
		if (!held) return;
		const own = rows.filter(({ usb }) => !usb);
		const at = own.findIndex(({ port }) => port === held!.port);
		const port = own[Math.min(own.length - 1, Math.max(0, at + ports))]?.port ?? held.port;
		held = { ...held, port, channel: Math.min(16, Math.max(1, held.channel + channels)) };
		focusBlock(held.device);
	}

	const STEPS: Record<string, [number, number]> = {
		ArrowLeft: [-1, 0],
		ArrowRight: [1, 0],
		ArrowUp: [0, -1],
		ArrowDown: [0, 1]
	};

	function press(event: KeyboardEvent, device: string, block?: Block, row?: LedgerRow) {
		const arrow = STEPS[event.key];
		if (arrow && held) step(...arrow);
		else if (event.key === ' ') {
			if (held) void drop();
			else pickUp(device, block, row);
		} else if (event.key === 'Enter') {
			if (held) void drop();
			else onSelect(device);
		} else if (event.key === 'Escape' && held) putBack();
		else return;
		event.preventDefault();
		event.stopPropagation();
	}

	/** A block under a finger or the mouse; it is dragged once it has moved a little. */
	let grabbed: { device: string; x: number; y: number } | null = null;
	let dragging = $state(false);
	const SLACK_PX = 5;

	function grab(event: PointerEvent, device: string) {
		if (event.button === 0 && event.isPrimary) grabbed = { device, x: event.clientX, y: event.clientY };
	}

	/** Where the rows were when the drag began: what it would do is drawn meanwhile, and may push them about. */
	let places: { port: string; rect: DOMRect }[] = [];
	const findPlaces = () =>
		[...(table?.querySelectorAll<HTMLElement>('[data-port]') ?? [])].map((cells) => ({
			port: cells.dataset.port!,
			rect: cells.getBoundingClientRect()
		}));

	/** The port and channel under a point of the window. */
	function placeAt(x: number, y: number): { port: string; channel: number } | null {
		const place = places.find(
			({ rect }) => x >= rect.left && x <= rect.right && y >= rect.top && y <= rect.bottom
		);
		if (!place) return null;
		const { left, width } = place.rect;
		const channel = Math.min(16, Math.max(1, Math.floor(((x - left) / width) * 16) + 1));
		return { port: place.port, channel };
	}

	function drag(event: PointerEvent) {
		if (!grabbed) return;
		if (!dragging) {
			if (Math.hypot(event.clientX - grabbed.x, event.clientY - grabbed.y) < SLACK_PX) return;
			dragging = true;
			places = findPlaces();
			// The block is drawn anew where it would go: the pointer is held by what stays.
			table?.setPointerCapture(event.pointerId);
		}
		const at = placeAt(event.clientX, event.clientY);
		const { device } = grabbed;
		if (at && (held?.port !== at.port || held.channel !== at.channel)) held = { device, ...at };
	}

	async function release(event: PointerEvent) {
		const moved = dragging;
		grabbed = null;
		dragging = false;
		if (!moved) return;
		// Let go of outside of the ports, it goes back.
		if (!placeAt(event.clientX, event.clientY)) return putBack();
		await drop();
		held = null;
	}

	function abandon() {
		grabbed = null;
		if (dragging) putBack();
		dragging = false;
	}
</script>

<svelte:window
	onpointermove={drag}
	onpointerup={release}
	onpointercancel={abandon}
	onkeydown={(event) => event.key === 'Escape' && dragging && abandon()}
/>

<p class="small-print mb-2" id="ledger-help">
	Drag a block to another port or channel. By keyboard: <span class="key">Space</span> picks it up, arrows
	move it,
	<span class="key">Enter</span> puts it down, <span class="key">Esc</span> puts it back.
</p>
{#if held}
	<p class={['mb-2', tried.problem ? 'text-rust' : '']} role="status">
		{nameOf(held.device)} → {rowName(held.port)}, channel {held.channel}{tried.problem
			? `: ${tried.problem}`
			: ''}
	</p>
{/if}

<div
	bind:this={table}
	class="overflow-x-auto"
	role="group"
	aria-label="Channel ledger"
	aria-describedby="ledger-help"
	{@attach roving('[data-block]')}
>
	<div class="ledger">
		<div class="row head" aria-hidden="true">
			<span class="plate">Port</span>
			<span class="cells"
				>{#each ALL_CHANNELS as channel (channel)}<span class="number">{channel}</span>{/each}</span
			>
			<span class="plate text-right">Load of the wire</span>
		</div>
		{#each rows as row (row.port)}
			<div class={['row', row.troubles.length > 0 && 'has-trouble']}>
				<span class="name"><span class="break-words">{row.name}</span></span>
				<div
					class="cells"
					style={`grid-template-rows: repeat(${row.lanes}, var(--lane))`}
					data-port={row.usb ? undefined : row.port}
				>
					{#each ALL_CHANNELS as channel (channel)}
						<span
							class={['cell', channel % 4 === 0 && 'is-fourth']}
							style={`grid-column: ${channel}; grid-row: 1 / span ${row.lanes}`}
							data-cell={`${row.name} ${channel}`}
						></span>
					{/each}
					{#each row.blocks as entry (entry.device.id)}
						<LedgerBlock
							{entry}
							{row}
							held={held?.device === entry.device.id}
							selected={selected === entry.device.id}
							onclick={() => onSelect(entry.device.id)}
							onpointerdown={(event) => !row.usb && grab(event, entry.device.id)}
							onkeydown={(event) => press(event, entry.device.id, entry, row)}
						/>
					{/each}
				</div>
				<span class="load figures">
					{#if row.load}
						<span class="bar" aria-hidden="true"
							><span style={`width: ${Math.min(100, share(row))}%`} class={[level(row) && 'is-busy']}
							></span></span
						>
						<span
							>{Math.round(row.load.bytesPerSecond)} B/s · {share(row)} %{#if level(row)}<strong
									class="text-rust"
								>
									{level(row)}</strong
								>{/if}</span
						>
					{:else}<span class="small-print">own USB cable</span>{/if}
				</span>
				{#each row.troubles as trouble (trouble.id)}
					<p class="reason">{trouble.says}</p>
				{/each}
			</div>
		{/each}
	</div>
	{#if ledger.unplugged.length > 0}
		<h2 class="mt-4 mb-1">On no port</h2>
		<div class="flex flex-wrap gap-2">
			{#each ledger.unplugged as device (device.id)}
				<button
					class={['bare', selected === device.id && 'is-selected']}
					data-block={device.id}
					onpointerdown={(event) => grab(event, device.id)}
					onclick={() => onSelect(device.id)}
					onkeydown={(event) => press(event, device.id)}
					aria-label={`${device.name}, on no port`}>{device.name}</button
				>
			{/each}
		</div>
	{/if}
</div>

<style>
	.ledger {
		--lane: 1.65rem;
		min-width: 760px;
	}
	.bare {
		touch-action: none;
	}
	@media (pointer: coarse) {
		.ledger {
			--lane: 44px;
		}
		.bare {
			min-height: 44px;
		}
	}
	.row {
		display: grid;
		grid-template-columns: 7.5rem 1fr 9.5rem;
		column-gap: 10px;
		align-items: center;
		padding: 3px 0;
		border-bottom: 1px solid color-mix(in srgb, var(--color-line) 60%, transparent);
	}
	.row.head {
		position: sticky;
		top: 0;
		font-size: 0.85rem;
		color: var(--color-slate);
	}
	.name {
		display: flex;
		min-width: 0;
		font-family: var(--font-slab);
		font-weight: 600;
	}
	.cells {
		display: grid;
		grid-template-columns: repeat(16, minmax(0, 1fr));
		row-gap: 2px;
	}
	.number {
		text-align: center;
		font-variant-numeric: tabular-nums;
	}
	.cell {
		border-left: 1px solid color-mix(in srgb, var(--color-line) 55%, transparent);
	}
	.cell.is-fourth {
		border-right: 1px solid var(--color-line);
	}
	.bare {
		padding: 0 6px;
		height: 1.65rem;
		font-size: 0.8rem;
		background: var(--color-ground);
		border: 1px solid var(--color-slate);
		border-radius: 3px;
		cursor: grab;
	}
	.bare.is-selected {
		border: 2px solid var(--color-chosen);
	}
	.reason {
		grid-column: 2 / span 2;
		margin: 2px 0 3px;
		font-size: 0.85rem;
		color: var(--color-rust);
	}
	.load {
		display: grid;
		font-size: 0.82rem;
		text-align: right;
	}
	.bar {
		height: 5px;
		border: 1px solid var(--color-line);
		border-radius: 2px;
		overflow: hidden;
	}
	.bar span {
		display: block;
		height: 100%;
		background: var(--color-pine);
	}
	.bar span.is-busy {
		background: var(--color-rust);
	}
</style>
