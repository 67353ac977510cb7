<script lang="ts">
	import { isDescribed, layoutsOf, madeOf, partWords, titlesOf, slotLabel } from '$lib/core/profile';
	import { planCapture, slotsInScope, captureCost } from '$lib/core/transfer';
	import { Doing } from '$lib/ui/doing.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import DeviceTrials from '$lib/ui/workshop/DeviceTrials.svelte';
	import { refresh } from '$lib/ui/refresh';
	import { count, duration } from '$lib/ui/words';

	let { data } = $props();
	const profile = $derived(data.profile);
	const cost = $derived(
		profile ? captureCost(planCapture(profile, slotsInScope(profile, { kind: 'all' })).asks) : null
	);
	const doing = new Doing();
	const described = $derived(profile?.areas.filter(isDescribed) ?? []);
	const others = $derived({
		capture: profile?.capture.filter(({ area }) => !described.some(({ id }) => id === area)) ?? [],
		restore: profile?.restore.filter(({ area }) => !described.some(({ id }) => id === area)) ?? []
	});

	const askAgain = () =>
		doing.run(async () => {
			const { learnAgain } = await import('$lib/hardware/learn-model');
			const fresh = await learnAgain(data.line, profile!);
			notices.say(
				fresh
					? `It says something else than before: kept as revision ${fresh.revision}. Versions stay as they were read.`
					: 'It says the same of itself as before.',
				'good'
			);
			await refresh();
		});
	/** Of several areas, which one a way is for. */
	const of = (id: string) =>
		profile && profile.areas.length > 1 ? `${profile.areas.find((area) => area.id === id)?.name}: ` : '';
</script>

<svelte:head><title>Profile of {data.device.name} · Silent Drawer</title></svelte:head>

{#if !profile}
	<p>
		It has no profile, so the app keeps its dumps raw. <a
			class="link-quiet"
			href={`/gear/${data.device.id}/edit`}>Choose one</a
		>, or <a class="link-quiet" href={`/gear/workshop?profile=new&device=${data.device.id}`}>write one</a> beside
		what it sent.
	</p>
{:else}
	<div class="flex items-start gap-4">
		<p class="max-w-prose flex-1">{profile.remarks}</p>
		{#if described.length > 0}<button class="btn btn-sm" disabled={doing.busy} onclick={askAgain}
				>Ask it what it is now</button
			>{/if}
		<a class="btn btn-sm" href={`/gear/workshop?profile=${profile.id}`}>Change it in the workshop</a>
	</div>
	{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
	<p class="small-print mt-1">
		Profile <span class="font-mono">{profile.id}</span>, revision {profile.revision} · identity
		<span class="font-mono"
			>{profile.identity.manufacturer} {profile.identity.family} {profile.identity.member}</span
		>
		{profile.identity.answers ? '' : '(does not answer when asked)'} ·
		<a class="link-quiet" href={`/api/v1/profiles/${profile.id}`} download={`${profile.id}.json`}
			>Profile as JSON</a
		>
	</p>
	<div class="mt-5 grid gap-8 xl:grid-cols-2">
		<section>
			<h2 class="mb-2">Memory</h2>
			<table class="ledger-table">
				<thead
					><tr
						><th>Area</th><th>Slots on its panel</th><th class="number">Bytes each</th><th class="number"
							>Parameters</th
						></tr
					></thead
				>
				<tbody>
					{#each profile.areas as area (area.id)}
						<tr>
							<td
								>{area.name}{#if area.addresses || profile.records[area.record].sections}<span
										class="small-print block">{madeOf(profile, area)}</span
									>{/if}</td
							>
							<td
								>{area.slots === 1
									? slotLabel(area.labels, 0)
									: `${slotLabel(area.labels, 0)} to ${slotLabel(area.labels, area.slots - 1)} (${area.slots})`}</td
							>
							<td class="number">{profile.records[area.record].size}</td>
							<td class="number">{profile.records[area.record].parameters.length}</td>
						</tr>
					{/each}
				</tbody>
			</table>
			{#if cost && cost.bytes > 0}<p class="small-print mt-2">
					A full capture is {count(cost.bytes, 'byte')}, {duration(cost.ms)} at the wire's 3,125 bytes/s.
				</p>{/if}
		</section>
		<section>
			<h2 class="mb-2">How it is backed up and restored</h2>
			<ul class="list-disc space-y-1 pl-5">
				{#each described as area (area.id)}<li>
						{of(area.id)}Each {area.slotWord} is a property of the instrument: asked for and given by its name there
						(MIDI-CI), and believed when it came twice alike.{area.described.takes === false
							? ' It says that it takes none: it cannot be restored.'
							: ''}
					</li>{/each}
				{#each others.capture as way, i (i)}<li>
						{of(way.area)}{way.start.by === 'panel'
							? way.start.instruction
							: `Asked with “${profile.messages[way.start.send].title}”, answers with ${titlesOf(profile, way.expect)}${way.total ? `; “${profile.messages[way.says!.end!].title}” has the checksum over all of it` : ''}.`}
					</li>{/each}
				{#each profile.areas.filter(({ panel }) => panel) as area (area.id)}<li>
						Its dumps name no {area.slotWord}: it is asked which one its panel shows, and {area.panel?.select
							? 'told to call up another'
							: 'somebody calls up another'}.
					</li>{/each}
				{#each profile.areas.filter(({ called }) => called) as area (area.id)}<li>
						It gives and takes what plays: each {area.slotWord} is called up, read twice, and stored by a command.
					</li>{/each}
				{#each profile.areas.filter(({ told }) => told) as area (area.id)}<li>
						{of(area.id)}No dump holds it: each value is told as a channel message, on its channel, and
						believed when it came twice alike.{area.told?.untold ? ` Never told: ${area.told.untold}` : ''}
					</li>{/each}
				{#if profile.capture.length === 0}<li>
						It cannot send its memory: what was sent to it is checked by eye.
					</li>{/if}
				{#each others.restore as way, i (i)}<li>
						{of(way.area)}Takes {titlesOf(profile, way.send)}{way.replies
							? ', and acknowledges each'
							: ''}{way.gapMs ? `, then needs ${way.gapMs} ms` : ''}{way.chunk
							? `; in pieces of ${way.chunk.bytes} bytes`
							: ''}.
					</li>{/each}
			</ul>
			{#each [{ title: 'Before a capture', checks: profile.preflight.capture }, { title: 'Before a restore', checks: profile.preflight.restore }] as group (group.title)}
				{#if group.checks.length > 0}
					<h3 class="mt-3">{group.title}</h3>
					<ul class="list-disc pl-5">
						{#each group.checks as check (check.id)}<li>
								{check.says}{check.forgets ? ' It forgets this at power-off.' : ''}
							</li>{/each}
					</ul>
				{/if}
			{/each}
		</section>
	</div>
	<DeviceTrials device={data.device} {profile} trials={data.trials} />
	<h2 class="mt-6 mb-2">{described.length > 0 ? 'How a version keeps it' : 'Messages'}</h2>
	<table class="ledger-table">
		<thead><tr><th>Message</th><th>Layout</th><th class="number">Bytes</th></tr></thead>
		<tbody>
			{#each layoutsOf(profile).filter(({ carrier }) => described.length === 0 || carrier) as layout (layout.id)}
				<tr>
					<td>{layout.title}</td>
					<td class="font-mono text-sm">
						{layout.parts.map(({ part }) => partWords(part)).join(' ')}
					</td>
					<td class="number">{layout.varies ? 'varies' : layout.length.toLocaleString('en')}</td>
				</tr>
			{/each}
		</tbody>
	</table>
{/if}
