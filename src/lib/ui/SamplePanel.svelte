<script lang="ts">
	import type { Sample } from '../core/sysex';
	import { receiveSample, sendSample, type Link, type SampleOutcome } from '../core/transfer';
	import { carryOut } from '../hardware/carry-out';
	import { desk } from '../hardware/desk.svelte';
	import { overPorts } from '../hardware/over-ports';
	import { realClock } from '../hardware/real-clock';
	import { PacketRun } from './packet-run.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import { saveFile } from './save-file';
	import { count } from './words';

	interface Props {
		deviceId: number;
		/** Browser ports, for real hardware. */
		out: string;
		back: string;
	}
	/** Samples by the sample dump standard, to and from .wav files. */
	let { deviceId, out, back }: Props = $props();
	let number = $state(1);
	const run = new PacketRun<SampleOutcome>();
	const own = $derived(desk.world === 'bench' && deviceId === 127 ? 0 : deviceId);
	const over = <T,>(bench: () => Promise<T>, ports: (link: Link) => Promise<T>): Promise<T> =>
		desk.world === 'bench' ? bench() : overPorts({ out, back, says: 'a sample' }, ports);

	const receive = () =>
		run.carryOut(() =>
			over(
				() => desk.receiveSampleOnBench(own, number, run.tell),
				(link) => carryOut(receiveSample(own, number, run.tell), link, realClock)
			)
		);

	async function send(event: Event & { currentTarget: HTMLInputElement }) {
		const input = event.currentTarget;
		const file = input.files?.[0];
		if (!file) return;
		await run.carryOut(async () => {
			const { readWave } = await import('./wave');
			const sample = readWave(new Uint8Array(await file.arrayBuffer()), number);
			return over(
				() => desk.sendSampleOnBench(own, sample, run.tell),
				(link) => carryOut(sendSample(own, sample, run.tell), link, realClock)
			);
		});
		input.value = '';
	}

	async function save(sample: Sample) {
		const { writeWave } = await import('./wave');
		saveFile(`sample-${sample.number}.wav`, [writeWave(sample)], 'audio/wav');
	}
</script>

<section aria-label="Samples">
	<h3>Samples</h3>
	<div class="mt-2 flex flex-wrap items-end gap-2">
		<div class="field">
			<label for="s-number">Sample number</label>
			<input id="s-number" class="input w-24" type="number" min="0" max="16383" bind:value={number} />
		</div>
		<button class="btn btn-sm" disabled={run.progress !== null} onclick={receive}>Receive it</button>
		<label class="field"
			><span>Send a .wav file</span>
			<input
				type="file"
				class="file-input file-input-sm"
				accept=".wav,audio/wav"
				disabled={run.progress !== null}
				onchange={send}
			/></label
		>
	</div>
	<p role="status" class="mt-1">
		{run.progress
			? `${run.progress.packets} of ${run.progress.of || '?'} packets …`
			: run.outcome && run.outcome.status === 'complete'
				? `${count(run.outcome.packets, 'packet')} ${run.outcome.sample ? 'received' : 'sent'}, ${run.outcome.resent} sent again.`
				: ''}
	</p>
	{#if run.outcome?.sample}
		{@const { sample } = run.outcome}
		<button class="btn btn-sm" onclick={() => save(sample)}
			>Save as .wav ({sample.words.length.toLocaleString('en')} words of {sample.bits} bits)</button
		>
	{/if}
	{#if run.doing.problem}<div class="mt-2"><ProblemNote problem={run.doing.problem} /></div>{/if}
</section>
