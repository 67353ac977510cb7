<script lang="ts">
	import { goto } from '$app/navigation';
	import { Command } from 'bits-ui';
	import type { DrawerFront } from './Cabinet.svelte';
	import { pageKeys } from './keys.svelte';
	import Sheet from './Sheet.svelte';
	import { tray } from '../hardware/tray.svelte';
	import { STAGES } from './stages';

	let { open = $bindable(false), fronts }: { open?: boolean; fronts: DrawerFront[] } = $props();

	function run(action: () => unknown) {
		open = false;
		action();
	}
</script>

<Sheet bind:open title="Go to or do">
	<Command.Root label="Commands" class="flex flex-col gap-2">
		<Command.Input class="input w-full" placeholder="A device, a stage, something to do" autofocus />
		<Command.List class="max-h-80 overflow-y-auto" tabindex={0}>
			<Command.Viewport>
				<Command.Empty class="small-print p-2">Nothing is called that.</Command.Empty>
				<Command.Group>
					<Command.GroupHeading class="px-2 pt-2 text-sm text-slate">On this page</Command.GroupHeading>
					<Command.GroupItems>
						{#each pageKeys.all as { key, says, run: action } (key)}
							<Command.Item class="command" value={says} onSelect={() => run(action)}
								>{says}<span class="key">{key.toUpperCase()}</span></Command.Item
							>
						{/each}
						<Command.Item
							class="command"
							value="Open or close the tray"
							onSelect={() => run(() => (tray.open = !tray.open))}
							>{tray.open ? 'Close the tray' : 'Open the tray'}<span class="key">T</span></Command.Item
						>
					</Command.GroupItems>
				</Command.Group>
				<Command.Group>
					<Command.GroupHeading class="px-2 pt-2 text-sm text-slate">Stages</Command.GroupHeading>
					<Command.GroupItems>
						<Command.Item class="command" value="Today" onSelect={() => run(() => goto('/'))}
							>Today</Command.Item
						>
						{#each STAGES as stage (stage.id)}
							<Command.Item class="command" value={stage.title} onSelect={() => run(() => goto(stage.href))}
								>{stage.title}<span class="small-print">{stage.says}</span></Command.Item
							>
							{#each stage.pages.filter(({ href }) => href !== stage.href) as { title, href, says } (href)}
								<Command.Item
									class="command"
									value={`${title} ${says}`}
									onSelect={() => run(() => goto(href))}
									>{title}<span class="small-print">{says}</span></Command.Item
								>
							{/each}
						{/each}
					</Command.GroupItems>
				</Command.Group>
				<Command.Group>
					<Command.GroupHeading class="px-2 pt-2 text-sm text-slate">Drawers</Command.GroupHeading>
					<Command.GroupItems>
						{#each fronts as front (front.id)}
							<Command.Item
								class="command"
								value={`${front.name} ${front.id}`}
								onSelect={() => run(() => goto(`/gear/${front.id}${front.hasMemory ? '/drawer' : ''}`))}
							>
								{front.name}<span class="small-print">{front.line}</span>
							</Command.Item>
						{/each}
					</Command.GroupItems>
				</Command.Group>
			</Command.Viewport>
		</Command.List>
	</Command.Root>
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
		border-left-color: var(--color-brass);
	}
</style>
