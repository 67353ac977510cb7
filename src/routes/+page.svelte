<script lang="ts">
	import { statusOf } from '$lib/ui/outcome-words';
	import OpenFile from '$lib/ui/OpenFile.svelte';
	import StateMark from '$lib/ui/StateMark.svelte';
	import { putInTray } from '$lib/ui/tray/put';
	import When from '$lib/ui/When.svelte';
	import { count, worldWord } from '$lib/ui/words';

	let { data } = $props();
	const atRisk = $derived(data.rows.filter(({ state }) => state === 'danger' || state === 'attention'));
	/** Those whose risk a backup takes away. */
	const due = $derived(
		atRisk
			.filter(({ risk, readable }) => readable && risk.action === 'capture')
			.map(({ id }) => `device=${id}`)
	);
	const most = $derived(Math.max(100, ...data.rows.map(({ risk }) => risk.points)));

	const ACTIONS = {
		capture: (row: { id: string }) => ({ title: 'Back up', href: `/transfers/new?device=${row.id}` }),
		resume: (row: { unfinishedId: string | null }) => ({
			title: 'Resume',
			href: `/transfers/${row.unfinishedId}`
		}),
		mend: (row: { tornId: string | null }) => ({
			title: 'Finish or undo',
			href: `/transfers/${row.tornId}`
		}),
		answer: (row: { id: string; questionId: string | null }) => ({
			title: 'Look at it',
			href: `/gear/${row.id}/drawer?v=${row.questionId}`
		}),
		import: (row: { id: string }) => ({ title: 'Open drawer', href: `/gear/${row.id}/drawer` }),
		battery: (row: { id: string }) => ({ title: 'See battery', href: `/gear/${row.id}#battery` }),
		run: (row: { runId: string | null }) => ({ title: 'Go on', href: `/care/procedures/${row.runId}` }),
		service: (row: { id: string }) => ({ title: 'See service', href: `/care/service?device=${row.id}` }),
		none: (row: { id: string }) => ({ title: 'Open drawer', href: `/gear/${row.id}/drawer` })
	};
</script>

<svelte:head><title>Today · Silent Drawer</title></svelte:head>

{#if data.empty}
	<h1>The cabinet is empty</h1>
	<p class="mt-2 max-w-prose">
		Switch your instruments on and let Silent Drawer look who is there. It asks on every MIDI port of this
		computer; what answers is in the catalogue with its cables in one step, and can be backed up at once.
	</p>
	<p class="mt-4 flex flex-wrap gap-2">
		<a href="/gear/find?now" class="btn btn-primary">Find what is plugged in</a><a
			href="/gear/new"
			class="btn">Add a device by hand</a
		><OpenFile />
	</p>
	<p class="small-print mt-2">
		Ten years of dumps in a folder, lists of devices, profiles and bundles are told apart by their content.
	</p>
{:else}
	<div class="flex flex-wrap items-baseline gap-2">
		<h1 class="min-w-0 flex-1 basis-60">
			{atRisk.length === 0
				? 'Nothing is at risk today'
				: `${count(atRisk.length, 'instrument')} at risk today`}
		</h1>
		{#if due.length > 1}<button class="btn btn-primary" onclick={() => putInTray(...due)}
				>{due.length === atRisk.length
					? `Back up all ${due.length}`
					: `Back up ${due.length} of the ${atRisk.length}`}</button
			>{/if}
		<OpenFile />
	</div>

	<div class="mt-4 grid grid-cols-1 gap-6 xl:grid-cols-[minmax(0,1fr)_19rem]">
		<section aria-label="What is at risk">
			<ol class="border-t border-line">
				{#each data.rows as row (row.id)}
					{@const action = ACTIONS[row.risk.action](row)}
					<li
						class="grid grid-cols-[minmax(0,1fr)_7rem] items-center gap-x-4 gap-y-1 border-b border-line py-2 sm:grid-cols-[10.5rem_minmax(0,1fr)_7rem]"
					>
						<div class="min-w-0">
							<a href={`/gear/${row.id}/drawer`} class="plate link-quiet block truncate">{row.name}</a>
							<span class="small-print block truncate">{row.model}</span>
						</div>
						<div class="min-w-0 max-sm:order-last max-sm:col-span-2">
							<p class="flex items-center gap-2">
								<StateMark state={row.state} />
								{#if row.risk.parts.length === 0}
									<span
										>{row.lastVerifiedAt ? 'Verified' : 'It cannot be read: what is kept came from files'}
										{#if row.lastVerifiedAt}<When at={row.lastVerifiedAt} />{/if}</span
									>
								{:else}
									<span
										>{#each row.risk.parts as part, i (part.id)}{i > 0 ? ' · ' : ''}{part.says}&nbsp;<span
												class="figures small-print">{part.points}</span
											>{/each}</span
									>
								{/if}
							</p>
							{#if row.risk.points > 0}
								<div class="mt-1 flex items-center gap-2">
									<div
										class="flex h-2 flex-1 gap-px"
										role="img"
										aria-label={`Risk ${row.risk.points}: ${row.risk.parts.map(({ says, points }) => `${says} ${points}`).join(', ')}`}
									>
										{#each row.risk.parts as part (part.id)}
											<span class="block h-2 bg-slate/75" style:width={`${(part.points / most) * 100}%`}
											></span>
										{/each}
									</div>
									<span class="figures small-print w-8 text-right">{row.risk.points}</span>
								</div>
							{/if}
						</div>
						<a
							href={action.href}
							class={['btn btn-sm', row.state === 'danger' && 'btn-primary']}
							aria-label={`${action.title}: ${row.name}`}>{action.title}</a
						>
					</li>
				{/each}
			</ol>
			<details class="mt-4">
				<summary class="cursor-pointer">How the risk is counted</summary>
				<div class="mt-2 max-w-prose space-y-1">
					<p>
						Points are added up; the list begins with the most. An instrument is <em>at risk</em> from 15 points
						in one part.
					</p>
					<ul class="list-disc pl-5">
						<li>
							Never backed up: {data.weights.never}. Slots that were never read with a proof: {data.weights
								.unproved}.
						</li>
						<li>Sounds changed since they were read: {data.weights.changed}.</li>
						<li>
							A restore that broke off, so that nobody knows what some slots hold: {data.weights.torn}. A
							backup that looks wiped or like another device’s: {data.weights.question}. Sounds sent and not
							read back:
							{data.weights.sent}.
						</li>
						<li>A capture that broke off and waits: {data.weights.unfinished}.</li>
						<li>
							Age of the proof of its weakest slot: {data.weights.age} × days ÷ {data.ageFullDays}, at most {data
								.weights.age}.
						</li>
						<li>
							Memory battery: from 70 % of its usual life on, evenly up to {data.weights.battery} at 100 %, at most
							{data.weights.battery * 1.5}.
						</li>
						<li>
							A new system that is being sent, or whose sending broke off: {data.weights.updating}. An update
							planned within a week, or overdue, where what it holds now was not fully backed up in the last {data.freshDays}
							days: {data.weights.update}.
						</li>
						<li>
							A known fault that can cost sounds: {data.weights.fault}. Service that is overdue: {data.weights
								.service}.
						</li>
					</ul>
				</div>
			</details>
		</section>

		<div class="grid content-start gap-6">
			{#if data.due.length > 0}
				<section aria-labelledby="due-soon">
					<h2 id="due-soon" class="mb-2">Due</h2>
					<ul class="space-y-2">
						{#each data.due as item (item.id)}
							<li class="border-l-2 border-line pl-3">
								<a href={`/care/service?device=${item.device}`} class="link-quiet">{item.name}: {item.says}</a
								>
								<p class="small-print flex items-center gap-1.5">
									<StateMark state={item.days < 0 ? 'attention' : 'quiet'} size={10} />{item.on}, {item.days <
									0
										? `${count(-item.days, 'day')} overdue`
										: item.days === 0
											? 'today'
											: `in ${count(item.days, 'day')}`}
								</p>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
			<section aria-label="Lately">
				<h2 class="mb-2">Lately</h2>
				{#if data.recent.length === 0}<p class="small-print">No transfer yet.</p>{/if}
				<ul class="space-y-2">
					{#each data.recent as transfer (transfer.id)}
						<li class="border-l-2 border-line pl-3">
							<a href={`/transfers/${transfer.id}`} class="link-quiet"
								>{transfer.device}: {transfer.title ||
									(transfer.direction === 'capture' ? 'Backup' : 'Restore')}{worldWord(
									transfer.world,
									data.world
								)}</a
							>
							<p class="small-print flex items-center gap-1.5">
								<StateMark state={statusOf(transfer).state} size={10} />{statusOf(transfer).word}, <When
									at={transfer.startedAt}
								/>
							</p>
						</li>
					{/each}
				</ul>
			</section>
		</div>
	</div>
{/if}
