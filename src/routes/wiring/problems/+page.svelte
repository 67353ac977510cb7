<script lang="ts">
	import { checkRig, type Severity } from '$lib/core/rig';
	import PairingNotes from '$lib/ui/pairing/PairingNotes.svelte';
	import { changeRig } from '$lib/ui/wiring/change-rig';
	import TracePanel from '$lib/ui/wiring/TracePanel.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	const troubles = $derived(checkRig(data.rig));
	const GROUPS: { severity: Severity; title: string; state: 'danger' | 'attention' | 'quiet' }[] = [
		{ severity: 'error', title: 'Broken', state: 'danger' },
		{ severity: 'warning', title: 'Doubtful', state: 'attention' },
		{ severity: 'note', title: 'Not known', state: 'quiet' }
	];
	const devices = (about: string[]) => data.rig.devices.filter(({ id }) => about.includes(id));
	let busy = $state('');
</script>

<svelte:head><title>Problems of the wiring · Silent Drawer</title></svelte:head>

<section class="mb-6" aria-labelledby="trace-heading">
	<h2 id="trace-heading" class="mb-2">Why don’t I hear this?</h2>
	<TracePanel rig={data.rig} />
</section>

{#if troubles.length === 0}
	<p class="flex items-center gap-2">
		<StateMark state="verified" /> Nothing is wrong with the wiring as it is noted.
	</p>
{:else}
	<p class="small-print mb-3" role="status">
		{count(troubles.length, 'problem')}. A cure changes what the app notes; pull the cable and set the panel
		yourself.
	</p>
{/if}
{#each GROUPS as group (group.severity)}
	{@const here = troubles.filter(({ severity }) => severity === group.severity)}
	{#if here.length > 0}
		<section class="mb-5" aria-labelledby={`group-${group.severity}`}>
			<h2 id={`group-${group.severity}`} class="mb-1 flex items-center gap-2">
				<StateMark state={group.state} size={14} />
				{group.title} ({here.length})
			</h2>
			<ul>
				{#each here as trouble (trouble.id)}
					<li class="border-t border-line py-3" data-rule={trouble.rule}>
						<h3>{trouble.title}</h3>
						<p>{trouble.says}</p>
						<div class="mt-2 flex flex-wrap items-center gap-2">
							{#each trouble.cures as cure, i (cure.title)}
								<button
									class={['btn btn-sm', i === 0 && 'btn-primary']}
									disabled={busy !== ''}
									onclick={async () => {
										busy = trouble.id;
										await changeRig(cure.changes, `${cure.title}: done.`, data.revision);
										busy = '';
									}}>{cure.title}</button
								>
							{:else}<a class="btn btn-sm" href="/wiring/plan">Let the planner find a way</a>{/each}
							{#each devices(trouble.about) as device (device.id)}
								<a class="link-quiet text-sm" href={`/wiring?device=${device.id}`}>{device.name}</a>
							{/each}
						</div>
					</li>
				{/each}
			</ul>
		</section>
	{/if}
{/each}
<PairingNotes pairings={data.pairings} rig={data.rig} title="What these pairs are known not to do" />
