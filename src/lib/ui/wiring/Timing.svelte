<script lang="ts">
	import { Doing } from '../doing.svelte';
	import { PATTERNS, type Pattern } from '$lib/core/plan/wire/score';
	import type { LatenessReport } from '$lib/core/plan/wire/lateness';
	import { applyChanges, indexRig, portName as nameOfPort, type Rig } from '$lib/core/rig';
	import type { KeptPlan } from '$lib/core/plan/kept-plan';
	import { fromHex, toHex } from '$lib/core/midi';
	import { remembered } from '$lib/ui/remembered.svelte';
	import LatenessChart from '$lib/ui/wiring/LatenessChart.svelte';
	import WireTimeline from '$lib/ui/wiring/WireTimeline.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import { planner } from '$lib/workers/planner.svelte';

	/** How late notes arrive, byte by byte: as it is cabled today, and as a plan would have it. */
	let { rig, against }: { rig: Rig; against: KeptPlan | null } = $props();
	const order = remembered('timing', {
		pattern: 'chords' as Pattern,
		/** A MIDI file, in hexadecimal. */
		file: null as { name: string; bytes: string } | null,
		runningStatus: true,
		usb: true
	});
	const wanted = $derived(order.value);
	const { pattern, file } = $derived(wanted);
	let result = $state.raw<{
		titles: string[];
		reports: LatenessReport[];
		unheard: { channel: number; messages: number }[];
	} | null>(null);
	const doing = new Doing();

	const planned = $derived(
		against &&
			applyChanges(
				against.rig,
				against.plan.steps.map(({ change }) => change)
			)
	);
	const index = $derived(indexRig(planned ?? rig));
	const name = (id: string) => index.devices.get(id)?.name ?? id;
	const portName = (id: string) => {
		const placed = index.ports.get(id);
		return placed ? nameOfPort(placed) : id;
	};
	const ids = $derived([
		...new Set(result?.reports.flatMap(({ devices }) => devices.map(({ device }) => device)) ?? [])
	]);
	const of = (report: LatenessReport, id: string) => report.devices.find(({ device }) => device === id);
	const ms = (value: number | null | undefined) =>
		value === null || value === undefined ? '—' : value.toFixed(2);
	const most = $derived(
		Math.max(0, ...(result?.reports.map(({ histogram }) => histogram.counts.length * histogram.binMs) ?? []))
	);

	async function play() {
		const played = await doing.run(async () => {
			const { reports, unheard } = await planner.play(
				[rig, ...(planned ? [planned] : [])],
				file ? { file: fromHex(file.bytes) } : { pattern, seconds: 8 },
				{ runningStatus: wanted.runningStatus, usb: wanted.usb }
			);
			result = { titles: ['Today', ...(against ? [against.title] : [])], reports, unheard };
		});
		if (!played) result = null;
	}
	async function choose(event: Event & { currentTarget: HTMLInputElement }) {
		const [chosen] = event.currentTarget.files ?? [];
		wanted.file = chosen
			? { name: chosen.name, bytes: toHex(new Uint8Array(await chosen.arrayBuffer())) }
			: null;
	}
</script>

<section id="timing" aria-labelledby="timing-heading" class="mt-8 border-t border-line pt-4">
	<h2 id="timing-heading" class="mb-2">
		How late notes arrive{against ? `, today and by plan ${against.id}` : ''}
	</h2>
	<form
		class="mb-4 flex flex-wrap items-end gap-3"
		onsubmit={(event) => {
			event.preventDefault();
			void play();
		}}
	>
		<div class="field">
			<label for="timing-pattern">What is played</label>
			<select
				id="timing-pattern"
				class="select w-56 select-sm"
				bind:value={wanted.pattern}
				disabled={file !== null}
			>
				{#each Object.entries(PATTERNS) as [id, { title }] (id)}<option value={id}>{title}</option>{/each}
			</select>
		</div>
		{#if file}
			<p class="flex items-center gap-2">
				or <strong>{file.name}</strong>
				<button type="button" class="btn btn-sm" onclick={() => (wanted.file = null)}
					>Clear<span class="sr-only"> {file.name}</span></button
				>
			</p>
		{:else}
			<div class="field">
				<label for="timing-file">or a MIDI file</label>
				<input
					id="timing-file"
					type="file"
					accept=".mid,.midi,audio/midi"
					class="file-input w-60 file-input-sm"
					onchange={choose}
				/>
			</div>
		{/if}
		<label class="flex items-center gap-2"
			><input type="checkbox" class="checkbox checkbox-sm" bind:checked={wanted.runningStatus} /> Running status</label
		>
		<label class="flex items-center gap-2"
			><input type="checkbox" class="checkbox checkbox-sm" bind:checked={wanted.usb} /> With the way over USB</label
		>
		<button class="btn btn-primary btn-sm" disabled={doing.busy}>Play it through</button>
	</form>
	<p class="small-print mb-3">
		{file ? `${file.name}, each channel to the instruments on it.` : PATTERNS[pattern].says} Every port is a line
		of bytes, 320 µs each, first in, first out; real-time bytes go in between.
	</p>
	{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
	{#if result}
		{@const { reports, titles, unheard } = result}
		{#if ids.length === 0}<p class="mb-2">
				Nothing is played: no instrument with a channel hangs on a port yet.
			</p>{/if}
		{#if unheard.length > 0}<p class="mb-2">
				Nobody is on channel {unheard
					.map(({ channel, messages }) => `${channel} (${messages} messages)`)
					.join(', ')}.
			</p>{/if}
		<div class="overflow-x-auto">
			<table class="ledger-table">
				<thead>
					<tr
						><th rowspan="2">Lateness, ms</th>{#each titles as title (title)}<th
								colspan="5"
								class="!text-center">{title}</th
							>{/each}</tr
					>
					<tr
						>{#each titles as title (title)}<th class="number">half within</th><th class="number"
								>95 % within</th
							><th class="number">worst</th><th class="number">chord spread</th><th class="number"
								>clock jitter</th
							>{/each}</tr
					>
				</thead>
				<tbody>
					{#each ids as id (id)}
						<tr>
							<td class="plate">{name(id)}</td>
							{#each reports as report, r (r)}
								{@const late = of(report, id)}
								<td class="number">{ms(late?.p50Ms)}</td><td class="number">{ms(late?.p95Ms)}</td><td
									class="number">{ms(late?.worstMs)}</td
								><td class="number">{ms(late?.chordSpreadMs)}</td><td class="number"
									>{ms(late?.clockJitterMs)}</td
								>
							{/each}
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<div class="mt-4 grid gap-4 lg:grid-cols-2">
			{#each reports as report, r (r)}<LatenessChart
					{report}
					title={titles[r]}
					{most}
					binMs={report.histogram.binMs}
				/>{/each}
		</div>
		{#each reports as report, r (r)}<div class="mt-3">
				<WireTimeline {report} title={titles[r]} {portName} deviceName={name} untilMs={40} />
			</div>{/each}
	{/if}
</section>
