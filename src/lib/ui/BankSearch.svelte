<script lang="ts">
	import { Doing } from './doing.svelte';
	import { dndzone, SHADOW_ITEM_MARKER_PROPERTY_NAME, TRIGGERS, type DndEvent } from 'svelte-dnd-action';
	import type { BankEntry } from '../core/drawer';
	import { call } from '../hardware/api';
	import type { FoundSound } from '../core/drawer';
	import ProblemNote from './ProblemNote.svelte';
	import { roving } from './roving';
	import { minuteOf } from './words';

	interface Item {
		id: string;
		entry: BankEntry;
		found: FoundSound;
	}
	interface Props {
		profileId: string;
		area: string;
		onPut: (entry: BankEntry) => void;
	}
	/** Sounds of the model from all drawers and years, to be put into a bank. */
	let { profileId, area, onPut }: Props = $props();
	let query = $state('');
	let items = $state.raw<Item[]>([]);
	let dragged = $state.raw<Item[] | null>(null);
	const doing = new Doing();
	/** The words that the list answers; what is typed may be ahead of it. */
	let answered = $state<string | null>(null);
	let turn = 0;
	let list: HTMLElement | undefined = $state();

	async function search(words: string) {
		const mine = ++turn;
		await doing.run(async () => {
			const found = await call<FoundSound[]>(
				'GET',
				`/sounds?profile=${encodeURIComponent(profileId)}&area=${encodeURIComponent(area)}&q=${encodeURIComponent(words)}`
			);
			if (mine !== turn) return;
			answered = words;
			items = found.map((sound) => ({
				id: `found ${sound.hash}`,
				found: sound,
				entry: {
					record: sound.hash,
					name: sound.name,
					from: `${sound.device}, ${sound.label}`.slice(0, 160),
					song: ''
				}
			}));
		});
	}
	let wait: ReturnType<typeof setTimeout>;
	$effect(() => {
		const words = query;
		clearTimeout(wait);
		wait = setTimeout(() => void search(words), 120);
	});

	/** Puts the first sound of what is typed: where the list is behind, it is waited for. */
	async function putFirst() {
		const words = query;
		if (answered !== words) {
			clearTimeout(wait);
			await search(words);
		}
		if (answered === words && query === words && items[0]) onPut(items[0].entry);
	}

	/** A sound that is dragged out leaves its like behind: the list is no drawer that empties. */
	function consider({ detail }: CustomEvent<DndEvent<Item>>) {
		if (detail.info.trigger === TRIGGERS.DRAG_STARTED) {
			const at = items.findIndex(({ id }) => id === detail.info.id);
			const rest = detail.items.filter(
				(item) => !(item as unknown as Record<string, unknown>)[SHADOW_ITEM_MARKER_PROPERTY_NAME]
			);
			dragged = rest.toSpliced(at, 0, { ...items[at], id: `${items[at].id} copy` });
		} else dragged = null;
	}

	/** From the field down into what was found. */
	function press(event: KeyboardEvent) {
		event.stopPropagation();
		if (event.key === 'Enter') void putFirst();
		else if (event.key === 'ArrowDown') {
			event.preventDefault();
			list?.querySelector<HTMLElement>('button')?.focus();
		}
	}
</script>

<section aria-label="Sounds to choose from" class="flex min-h-0 flex-col">
	<label class="field">
		<span>Find a sound of this model</span>
		<input
			type="search"
			class="input w-full input-sm"
			bind:value={query}
			placeholder="Name, or part of it"
			onkeydown={press}
		/>
	</label>
	{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
	<p class="small-print mt-1">
		<span class="key">Enter</span> puts it into the current slot; or drag it to a place.
	</p>
	<ul
		bind:this={list}
		class="mt-1 max-h-[60vh] overflow-y-auto"
		aria-label="Sounds found"
		{@attach roving('button')}
		use:dndzone={{
			items: dragged ?? items,
			type: 'sounds',
			dropFromOthersDisabled: true,
			autoAriaDisabled: true,
			dropTargetStyle: {},
			flipDurationMs: 0,
			zoneItemTabIndex: -1
		}}
		onconsider={consider}
		onfinalize={() => (dragged = null)}
	>
		{#each dragged ?? items as item (item.id)}
			<li class="border-b border-line">
				<button class="w-full py-1 text-left" onclick={() => onPut(item.entry)}>
					<span class="plate">{item.found.name || 'unnamed'}</span>
					<span class="small-print block truncate"
						>{item.found.device}, {item.found.label}, {item.found.current
							? 'there now'
							: `from ${minuteOf(item.found.fromAt)}`}</span
					>
				</button>
			</li>
		{/each}
	</ul>
	{#if items.length === 0 && !doing.problem}<p class="small-print">
			No sound of this model is called that.
		</p>{/if}
</section>
