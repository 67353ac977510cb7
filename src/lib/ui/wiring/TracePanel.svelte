<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import {
		ALL_CHANNELS,
		indexRig,
		listeners,
		portName,
		sourceName,
		sources,
		trace,
		whySilent,
		type Source,
		type Rig
	} from '$lib/core/rig';
	import SignalPath from './SignalPath.svelte';
	import StateMark from '../StateMark.svelte';

	/** Follows a message from where it begins, and says what stops it. What is followed stands in the page's address. */
	let { rig }: { rig: Rig } = $props();
	const index = $derived(indexRig(rig));
	const begins = $derived([
		{
			group: 'Keys and tracks',
			entries: sources(rig).map(({ source, name }) => ({
				value:
					'device' in source ? `device ${source.device}` : `track ${(source as { track: string }).track}`,
				name
			}))
		},
		{
			group: 'Ports',
			entries: [
				...[...index.hostPorts.values()].map((port) => ({
					value: `port ${port.id}`,
					name: `host port “${port.name}”${rig.hosts.length > 1 ? ` of ${index.hostOf.get(port.id)!.name}` : ''}`
				})),
				...[...index.ports.values()]
					.filter(({ role, port }) => role === 'interface' && port.direction === 'out')
					.map((placed) => ({ value: `port ${placed.port.id}`, name: portName(placed) }))
			]
		}
	]);
	const ends = $derived(listeners(rig));
	const to = $derived(page.url.searchParams.get('to') ?? '');
	const from = $derived(page.url.searchParams.get('from') ?? begins[0].entries[0]?.value ?? '');
	const source = $derived.by((): Source | null => {
		const at = from.indexOf(' ');
		const [kind, id] = [from.slice(0, at), from.slice(at + 1)];
		return kind === 'device'
			? { device: id }
			: kind === 'track'
				? { track: id }
				: kind === 'port'
					? { port: id }
					: null;
	});
	const usual = $derived(
		sources(rig).find((entry) => JSON.stringify(entry.source) === JSON.stringify(source))?.channels[0] ?? 1
	);
	const asked = $derived(page.url.searchParams.has('from') || to !== '');
	const channel = $derived(Number(page.url.searchParams.get('channel') ?? usual));
	const traced = $derived(source ? trace(rig, source, channel) : null);
	const answers = $derived(to ? whySilent(rig, to) : []);
	const toName = $derived(ends.find(({ id }) => id === to)?.name ?? '');

	const show = (values: Record<string, string>) => {
		const now = { ...Object.fromEntries(page.url.searchParams), ...values };
		const query = Object.entries(now).filter(([, value]) => value !== '');
		void goto(`/wiring/problems?${new URLSearchParams(query)}`, {
			keepFocus: true,
			noScroll: true,
			replaceState: true
		});
	};
</script>

<div class="mb-4 flex flex-wrap items-end gap-3">
	<div class="field">
		<label for="trace-from">From</label>
		<select
			id="trace-from"
			class="select w-64 select-sm"
			value={asked ? from : ''}
			onchange={(event) => show({ from: event.currentTarget.value, channel: '' })}
		>
			{#if !asked}<option value="">Choose …</option>{/if}
			{#each begins as { group, entries } (group)}
				<optgroup label={group}
					>{#each entries as entry (entry.value)}<option value={entry.value}>{entry.name}</option
						>{/each}</optgroup
				>
			{/each}
		</select>
	</div>
	<div class="field">
		<label for="trace-channel">On channel</label>
		<select
			id="trace-channel"
			class="select w-20 select-sm"
			value={channel}
			onchange={(event) => show({ channel: event.currentTarget.value })}
		>
			{#each ALL_CHANNELS as entry (entry)}<option value={entry}>{entry}</option>{/each}
		</select>
	</div>
	<div class="field">
		<label for="trace-to">Why don’t I hear</label>
		<select
			id="trace-to"
			class="select w-56 select-sm"
			value={to}
			onchange={(event) => show({ to: event.currentTarget.value })}
		>
			<option value="">—</option>
			{#each ends as listener (listener.id)}<option value={listener.id}
					>{listener.name}{listener.soft ? ' (software)' : ''}</option
				>{/each}
		</select>
	</div>
</div>

{#if to}
	<section class="sheet mb-5 p-4" aria-labelledby="why-heading">
		<h3 id="why-heading">Why don’t I hear {toName}?</h3>
		<ul>
			{#each answers.slice(0, 6) as answer, i (i)}
				<li class="border-t border-line py-2">
					{#if answer.changes.length === 0}
						<p class="flex items-center gap-2">
							<StateMark state="verified" />
							{answer.name} on channel {answer.channel} does sound it. If it stays silent, look at its volume, its
							audio cable and its power.
						</p>
					{:else}
						<p>
							<strong>{answer.name}</strong> on channel {answer.channel}: {answer.changes.length === 1
								? 'one thing'
								: `${answer.changes.length} things`} would have to change.
						</p>
						<ol class="ml-5 list-decimal">
							{#each answer.changes as change, n (n)}<li>{change.says}</li>{/each}
						</ol>
					{/if}
					{#if answer.path && i === 0}<SignalPath
							hops={answer.path.hops}
							from={answer.name}
							to={toName}
							label={`From ${answer.name} to ${toName}`}
						/>{/if}
				</li>
			{:else}<li>
					Nothing in this studio sends anything. Note on which channels its controllers send.
				</li>{/each}
		</ul>
	</section>
{/if}

{#if asked && traced && source}
	<section aria-labelledby="sounds-heading">
		<h3 id="sounds-heading">Who sounds</h3>
		{#each traced.reached as reached (reached.id)}
			<div class="border-t border-line py-2" data-reached={reached.name}>
				<SignalPath
					hops={reached.hops}
					from={sourceName(index, source)}
					to={reached.name}
					label={`From ${sourceName(index, source)} to ${reached.name}`}
				/>
			</div>
		{:else}<p class="small-print">Nobody.</p>{/each}
		<h3 class="mt-4">Who stays silent</h3>
		<div class="overflow-x-auto">
			<table class="ledger-table">
				<thead
					><tr
						><th>Instrument</th><th>The first thing that stops it</th><th class="number">To change</th><th
							><span class="sr-only">More</span></th
						></tr
					></thead
				>
				<tbody>
					{#each traced.silent as silent (silent.id)}
						<tr data-silent={silent.name}>
							<td class="plate">{silent.name}{silent.soft ? ' (software)' : ''}</td>
							<td>{silent.stop.says}</td>
							<td class="number">{silent.changes.length}</td>
							<td
								><button class="btn btn-xs" onclick={() => show({ to: silent.id })}
									>Why not {silent.name}?</button
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	</section>
{:else if begins[0].entries.length === 0}
	<p>
		Nothing here sends anything yet. Note on which channels a controller sends, or add a track under Ins and
		outs.
	</p>
{/if}
