<script lang="ts">
	import { Doing } from './doing.svelte';
	import type { Sample } from '../core/sysex';
	import { receiveSample, sendSample, type Link, type SampleOutcome } from '../core/transfer';
	import { carryOut } from '../hardware/carry-out';
	import { desk } from '../hardware/desk.svelte';
	import { overPorts } from '../hardware/over-ports';
	import { realClock } from '../hardware/real-clock';
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
	/** Word of progress may come after the end, since it travels by another way. */
	let running = false;
	let progress = $state<{ packets: number; of: number } | null>(null);
	let outcome = $state.raw<SampleOutcome | null>(null);
	const doing = new Doing();
	const own = $derived(desk.world === 'bench' && deviceId === 127 ? 0 : deviceId);
	// It is called from another thread: what it gave back would have to travel there.
	const tell = (packets: number, of: number): void => {
		if (running) progress = { packets, of };
	};

	const over = <T,>(bench: () => Promise<T>, ports: (link: Link) => Promise<T>): Promise<T> =>
		desk.world === 'bench' ? bench() : overPorts({ out, back, says: 'a sample' }, ports);

	async function act(work: () => Promise<SampleOutcome>) {
		outcome = null;
		progress = { packets: 0, of: 0 };
		running = true;
		await doing.run(async () => {
			outcome = await work();
			if (outcome.reason) doing.problem = { message: outcome.reason.says, remedy: outcome.reason.remedy };
		});
		running = false;
		progress = null;
	}

	const receive = () =>
		act(() =>
			over(
				() => desk.receiveSampleOnBench(own, number, tell),
				(link) => carryOut(receiveSample(own, number, tell), link, realClock)
			)
		);

	async function send(event: Event & { currentTarget: HTMLInputElement }) {
		const input = event.currentTarget;
		const file = input.files?.[0];
		if (!file) return;
		await act(async () => {
			const { readWave } = await import('./wave');
			const sample = readWave(new Uint8Array(await file.arrayBuffer()), number);
			return over(
				() => desk.sendSampleOnBench(own, sample, tell),
				(link) => carryOut(sendSample(own, sample, tell), link, realClock)
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
		<button class="btn btn-sm" disabled={progress !== null} onclick={receive}>Receive it</button>
		<label class="field"
			><span>Send a .wav file</span>
			<input
				type="file"
				class="file-input file-input-sm"
				accept=".wav,audio/wav"
				disabled={progress !== null}
				onchange={send}
			/></label
		>
	</div>
	<p role="status" class="mt-1">
		{progress
			? `${progress.packets} of ${progress.of || '?'} packets …`
			: outcome && outcome.status === 'complete'
				? `${count(outcome.packets, 'packet')} ${outcome.sample ? 'received' : 'sent'}, ${outcome.resent} sent again.`
				: ''}
	</p>
	{#if outcome?.sample}
		{@const { sample } = outcome}
		<button class="btn btn-sm" onclick={() => save(sample)}
			>Save as .wav ({sample.words.length.toLocaleString('en')} words of {sample.bits} bits)</button
		>
	{/if}
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
</section>
