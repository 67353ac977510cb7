<script lang="ts">
	import type { Device } from '../core/gear';
	import type { DumpedFile } from '../core/sysex';
	import { receiveFile, sendFile, type FileOutcome, type Link } from '../core/transfer';
	import { call } from '../hardware/api';
	import { carryOut } from '../hardware/carry-out';
	import { desk } from '../hardware/desk.svelte';
	import { overPorts } from '../hardware/over-ports';
	import { realClock } from '../hardware/real-clock';
	import { Doing } from './doing.svelte';
	import FilePick from './FilePick.svelte';
	import { notices } from './notices.svelte';
	import { PacketRun } from './packet-run.svelte';
	import ProblemNote from './ProblemNote.svelte';
	import { saveFile } from './save-file';
	import { count, weight } from './words';

	interface Props {
		deviceId: number;
		/** Browser ports, for real hardware. */
		out: string;
		back: string;
	}
	/** Files by file dump: asked for or begun at the panel, kept with a device or saved, and sent. */
	let { deviceId, out, back }: Props = $props();
	/** The recorder of the bench. */
	const BENCH_ID = 1;
	const TYPES = { MIDI: 'MIDI file', TEXT: 'Text', 'BIN ': 'Anything else' };
	let type = $state('MIDI');
	let name = $state('');
	/** A hand is waited for. */
	let waits = $state(false);
	const run = new PacketRun<FileOutcome>();
	let devices = $state.raw<Device[]>([]);
	let keeper = $state('');
	const doing = new Doing();
	const own = $derived(desk.world === 'bench' && deviceId === 127 ? BENCH_ID : deviceId);
	const over = <T,>(bench: () => Promise<T>, ports: (link: Link) => Promise<T>): Promise<T> =>
		desk.world === 'bench' ? bench() : overPorts({ out, back, says: 'a file' }, ports);

	async function act(byHand: boolean, work: () => Promise<FileOutcome>) {
		waits = byHand;
		await run.carryOut(work);
		if (run.outcome?.file && devices.length === 0)
			await doing.run(async () => {
				devices = await call<Device[]>('GET', '/devices');
				keeper = devices[0]?.id ?? '';
			});
	}

	const receive = (wanted: { type: string; name: string } | null) =>
		act(wanted === null, () =>
			over(
				() => desk.receiveFileOnBench(own, wanted, run.tell),
				(link) => carryOut(receiveFile(own, wanted, run.tell), link, realClock)
			)
		);
	const send = (picked: File) =>
		act(false, async () => {
			const file: DumpedFile = {
				type,
				// Seven bits a sign.
				name: picked.name.replace(/[^ -~]/g, '_'),
				bytes: new Uint8Array(await picked.arrayBuffer())
			};
			return over(
				() => desk.sendFileOnBench(own, file, run.tell),
				(link) => carryOut(sendFile(own, file, run.tell), link, realClock)
			);
		});

	/** Its name as a file’s: a standard MIDI file has its ending. */
	const fileName = ({ name: called, type: of }: DumpedFile): string =>
		/\.\w+$/.test(called)
			? called
			: `${called || 'file'}.${of === 'MIDI' ? 'mid' : of === 'TEXT' ? 'txt' : 'bin'}`;
	const keep = (file: DumpedFile) =>
		doing.run(async () => {
			const form = new FormData();
			form.set('file', new File([file.bytes.slice()], fileName(file)));
			form.set('note', 'Received by file dump');
			await call('POST', `/devices/${keeper}/files`, form);
			notices.say(
				`“${fileName(file)}” is kept with ${devices.find(({ id }) => id === keeper)!.name}.`,
				'good'
			);
		});
</script>

<section aria-label="Files">
	<h3>File dump</h3>
	<div class="mt-2 flex flex-wrap items-end gap-2">
		<div class="field">
			<label for="f-type">Kind of file</label>
			<select id="f-type" class="select w-36" bind:value={type}>
				{#each Object.entries(TYPES) as [id, says] (id)}<option value={id}>{says}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="f-name">Its name on the instrument</label>
			<input
				id="f-name"
				class="input w-44"
				maxlength="64"
				bind:value={name}
				placeholder="The one it has loaded"
			/>
		</div>
		<button class="btn btn-sm" disabled={run.progress !== null} onclick={() => receive({ type, name })}
			>Ask for it</button
		>
		<button class="btn btn-sm" disabled={run.progress !== null} onclick={() => receive(null)}
			>Wait for one from its panel</button
		>
		{#if !run.progress}<FilePick title="Send a file" picked={send} />{/if}
	</div>
	<p role="status" class="mt-1">
		{run.progress
			? waits && run.progress.packets === 0
				? desk.world === 'bench'
					? 'On the bench somebody starts it for you …'
					: 'Start the dump on the instrument: it is listened for.'
				: `${run.progress.packets} of ${run.progress.of || '?'} packets …`
			: run.outcome?.status !== 'complete'
				? ''
				: run.outcome.file
					? `“${run.outcome.file.name}” came: ${weight(run.outcome.file.bytes.length)} in ${count(run.outcome.packets, 'packet')}, ${run.outcome.resent} sent again.`
					: `${count(run.outcome.packets, 'packet')} sent, ${run.outcome.resent} of them again. Whether it keeps the file, look on its display.`}
	</p>
	{#if run.outcome?.file}
		{@const { file } = run.outcome}
		<div class="mt-1 flex flex-wrap items-end gap-2">
			<button
				class="btn btn-sm"
				onclick={() => saveFile(fileName(file), [file.bytes], 'application/octet-stream')}
				>Save to this computer</button
			>
			{#if devices.length > 0}
				<div class="field">
					<label for="f-keeper">Keep it with</label>
					<select id="f-keeper" class="select w-44" bind:value={keeper}>
						{#each devices as device (device.id)}<option value={device.id}>{device.name}</option>{/each}
					</select>
				</div>
				<button class="btn btn-sm" disabled={doing.busy} onclick={() => keep(file)}>Keep it</button>
			{/if}
		</div>
	{/if}
	{#each [run.doing, doing] as { problem }, i (i)}{#if problem}<div class="mt-2">
				<ProblemNote {problem} />
			</div>{/if}{/each}
</section>
