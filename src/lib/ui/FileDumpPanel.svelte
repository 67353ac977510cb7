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
	let going = $state<{ packets: number; of: number; waits: boolean } | null>(null);
	let outcome = $state.raw<FileOutcome | null>(null);
	let devices = $state.raw<Device[]>([]);
	let keeper = $state('');
	const doing = new Doing();
	const own = $derived(desk.world === 'bench' && deviceId === 127 ? BENCH_ID : deviceId);
	/** Word of progress may come after the end, since it travels by another way. */
	let running = false;
	const tell = (packets: number, of: number): void => {
		if (running) going = { packets, of, waits: false };
	};
	const over = <T,>(bench: () => Promise<T>, ports: (link: Link) => Promise<T>): Promise<T> =>
		desk.world === 'bench' ? bench() : overPorts({ out, back, says: 'a file' }, ports);

	async function act(waits: boolean, work: () => Promise<FileOutcome>) {
		outcome = null;
		going = { packets: 0, of: 0, waits };
		running = true;
		await doing.run(async () => {
			outcome = await work();
			if (outcome.reason) doing.problem = { message: outcome.reason.says, remedy: outcome.reason.remedy };
			if (outcome.file && devices.length === 0) {
				devices = await call<Device[]>('GET', '/devices');
				keeper = devices[0]?.id ?? '';
			}
		});
		running = false;
		going = null;
	}

	const receive = (wanted: { type: string; name: string } | null) =>
		act(wanted === null, () =>
			over(
				() => desk.receiveFileOnBench(own, wanted, tell),
				(link) => carryOut(receiveFile(own, wanted, tell), link, realClock)
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
				() => desk.sendFileOnBench(own, file, tell),
				(link) => carryOut(sendFile(own, file, tell), link, realClock)
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
		<button class="btn btn-sm" disabled={going !== null} onclick={() => receive({ type, name })}
			>Ask for it</button
		>
		<button class="btn btn-sm" disabled={going !== null} onclick={() => receive(null)}
			>Wait for one from its panel</button
		>
		{#if !going}<FilePick title="Send a file" picked={send} />{/if}
	</div>
	<p role="status" class="mt-1">
		{going
			? going.waits
				? desk.world === 'bench'
					? 'On the bench somebody starts it for you …'
					: 'Start the dump on the instrument: it is listened for.'
				: `${going.packets} of ${going.of || '?'} packets …`
			: outcome?.status !== 'complete'
				? ''
				: outcome.file
					? `“${outcome.file.name}” came: ${weight(outcome.file.bytes.length)} in ${count(outcome.packets, 'packet')}, ${outcome.resent} sent again.`
					: `${count(outcome.packets, 'packet')} sent, ${outcome.resent} of them again. Whether it keeps the file, look on its display.`}
	</p>
	{#if outcome?.file}
		{@const { file } = outcome}
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
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
</section>
