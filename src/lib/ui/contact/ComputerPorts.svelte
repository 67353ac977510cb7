<script lang="ts">
	import {
		groupPorts,
		interfaceOf,
		knownSockets,
		portCount,
		portKey,
		type PortGroup,
		type Surroundings
	} from '../../core/contact';
	import StateMark from '../StateMark.svelte';
	import { take } from './take-found';

	/** What the computer shows, in the things that its port names speak of; an interface is added from here. */
	let { around }: { around: Surroundings } = $props();
	const known = $derived(knownSockets(around.remembered, around.present));
	const groups = $derived(groupPorts(around.present));
	const isOf = (group: PortGroup) => interfaceOf(group, around.devices, known, around.remembered);
	const open = (group: PortGroup) =>
		[...group.ins, ...group.outs].filter(({ port }) => !known.has(portKey(port))).length;
</script>

<section class="mt-6" aria-label="Ports of this computer">
	<h2>Ports of this computer</h2>
	{#if groups.length === 0}
		<p>None is shown. Plug the interface in: it appears here by itself.</p>
	{:else}
		<ul class="mt-1">
			{#each groups as group (group.name + group.maker)}
				{@const device = isOf(group)}
				{@const left = open(group)}
				<li class="flex flex-wrap items-center gap-3 border-b border-line py-1.5">
					<StateMark state={left === 0 ? 'verified' : 'quiet'} size={11} />
					<span class="min-w-0 flex-1"
						><span class="plate">{group.name}</span>
						<span class="small-print"
							>{portCount(group)}{device ? ` · ${device.name}` : ''}{left > 0 && device
								? ` · ${left} not noted yet`
								: ''}</span
						></span
					>
					{#if left > 0}
						<button class="btn btn-sm" onclick={() => take([], [group.name])}
							>{device ? `Note the ports of ${device.name}` : `Add ${group.name} as an interface`}</button
						>
					{/if}
				</li>
			{/each}
		</ul>
	{/if}
</section>
