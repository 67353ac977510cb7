<script lang="ts">
	import { untrack } from 'svelte';
	import { goto } from '$app/navigation';
	import { Command } from 'bits-ui';
	import { tray } from '../hardware/tray.svelte';
	import type { DrawerFront } from './Cabinet.svelte';
	import { matching, type CommandEntry } from './commands';
	import { pressPanic } from './panic';
	import { pageKeys } from './keys.svelte';
	import Sheet from './Sheet.svelte';
	import { STAGES } from './stages';

	let { open = $bindable(false), fronts }: { open?: boolean; fronts: DrawerFront[] } = $props();
	let query = $state('');
	let picked = $state('');
	const page = (title: string, href: string, says: string): CommandEntry => ({
		id: href,
		group: 'Stages',
		title,
		says,
		run: () => goto(href)
	});
	const entries = $derived<CommandEntry[]>([
		...pageKeys.all.map(({ key, says, run }): CommandEntry => ({
			id: `key ${key}`,
			group: 'On this page',
			title: says,
			says: '',
			key: key.toUpperCase(),
			run
		})),
		{
			id: 'tray',
			group: 'On this page',
			title: tray.open ? 'Close the tray' : 'Open the tray',
			says: '',
			key: 'T',
			run: () => (tray.open = !tray.open)
		},
		{
			id: 'panic',
			group: 'On this page',
			title: 'Panic',
			says: 'Silence everything: all notes off, all sound off',
			key: '.',
			run: () => void pressPanic()
		},
		page('Today', '/', 'What is at risk'),
		...STAGES.flatMap((stage) => [
			page(stage.title, stage.href, stage.says),
			...stage.pages
				.filter(({ href }) => href !== stage.href)
				.map(({ title, href, says }) => page(title, href, says))
		]),
		...fronts.map(({ id, name, line, hasMemory }): CommandEntry => ({
			id,
			group: 'Drawers',
			title: name,
			says: line,
			run: () => goto(`/gear/${id}${hasMemory ? '/drawer' : ''}`)
		}))
	]);
	const shown = $derived(matching(entries, query));
	const groups = $derived(
		(['Drawers', 'On this page', 'Stages'] as const)
			.map((title) => ({ title, list: shown.filter(({ group }) => group === title) }))
			.filter(({ list }) => list.length > 0)
			// The group of the best answer comes first.
			.sort((a, b) => (query ? shown.indexOf(a.list[0]) - shown.indexOf(b.list[0]) : 0))
	);

	function run(entry: CommandEntry | undefined) {
		if (!entry) return;
		open = false;
		entry.run();
	}
	/** What is typed chooses its best answer at once: Enter never takes an older one. */
	function typed(value: string) {
		query = value;
		picked = matching(entries, value)[0]?.id ?? '';
	}
	function enter(event: KeyboardEvent) {
		if (event.key !== 'Enter' || event.isComposing) return;
		event.preventDefault();
		event.stopPropagation();
		run(shown.find(({ id }) => id === picked) ?? shown[0]);
	}
	// It begins empty when it is called; what there is may change while somebody types.
	$effect(() => {
		if (open) untrack(() => typed(''));
	});
</script>

<Sheet bind:open title="Go to or do">
	<div onkeydowncapture={enter}>
		<Command.Root label="Commands" class="flex flex-col gap-2" shouldFilter={false} bind:value={picked}>
			<Command.Input
				class="input w-full"
				placeholder="A device, a stage, something to do"
				autofocus
				value={query}
				oninput={(event) => typed(event.currentTarget.value)}
			/>
			<Command.List class="max-h-80 overflow-y-auto" tabindex={0}>
				<Command.Viewport>
					{#if shown.length === 0}<p class="small-print p-2" role="status">Nothing is called that.</p>{/if}
					{#each groups as { title, list } (title)}
						<Command.Group>
							<Command.GroupHeading class="px-2 pt-2 text-sm text-slate">{title}</Command.GroupHeading>
							<Command.GroupItems>
								{#each list as entry (entry.id)}
									<Command.Item class="command" value={entry.id} onSelect={() => run(entry)}
										>{entry.title}{#if entry.key}<span class="key">{entry.key}</span>{:else}<span
												class="small-print">{entry.says}</span
											>{/if}</Command.Item
									>
								{/each}
							</Command.GroupItems>
						</Command.Group>
					{/each}
				</Command.Viewport>
			</Command.List>
		</Command.Root>
	</div>
</Sheet>

<style>
	:global(.command) {
		display: flex;
		justify-content: space-between;
		gap: 1rem;
		padding: 0.35rem 0.5rem;
		border-left: 3px solid transparent;
		cursor: pointer;
	}
	:global(.command[data-selected]) {
		background: var(--color-ground);
		border-left-color: var(--color-chosen);
	}
</style>
